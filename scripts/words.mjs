/** npm run words [FOLDER]: lists every sentence that somebody may read, by stage, from the sources themselves. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './parts/machine.mjs';
import { wordLists } from './parts/words.mjs';

const folder = process.argv[2] ?? join(root, '.tolvik', 'words');
mkdirSync(folder, { recursive: true });
for (const [name, files] of wordLists(root)) {
  const path = join(folder, `${name}.md`);
  const lists = files.map(({ at, words }) => `\`${at}\`\n\n${words.map((each) => `- ${each}`).join('\n')}\n`);
  writeFileSync(path, `# Words: ${name.replaceAll('-', ' ')}\n\n${lists.join('\n')}`);
  console.log(`${path}: ${files.reduce((sum, { words }) => sum + words.length, 0)} sentences`);
}
