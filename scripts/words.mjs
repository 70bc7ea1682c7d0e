/** npm run words: lists every sentence that somebody may read, by stage, from the sources themselves, in words/en/. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './parts/machine.mjs';
import { asFile, wordLists } from './parts/words.mjs';

const folder = join(root, 'words', 'en');
mkdirSync(folder, { recursive: true });
for (const [name, files] of wordLists(root)) {
  writeFileSync(join(folder, `${name}.json`), asFile(files));
  console.log(`words/en/${name}.json: ${Object.values(files).flat().length} sentences`);
}
