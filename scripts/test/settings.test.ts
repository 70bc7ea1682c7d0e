import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

const root = join(__dirname, '../..');

function* sources(folder: string): Generator<string> {
  for (const name of readdirSync(folder)) {
    if (name === 'node_modules' || name === 'test') continue;
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* sources(path);
    else if (/\.(ts|tsx|mjs)$/.test(name)) yield path;
  }
}

/** Between processes of ours, and a namespace of XML: nobody sets them. */
const OURS = new Set(['TOLVIK_PARENT', 'TOLVIK_NS']);

test('every setting that the code knows is in docs/settings.md, and the other way round', () => {
  const inCode = new Set<string>();
  for (const folder of ['packages', 'scripts', 'demo'])
    for (const path of sources(join(root, folder)))
      for (const [name] of readFileSync(path, 'utf8').matchAll(/\bTOLVIK_[A-Z][A-Z_]*[A-Z]\b/g)) inCode.add(name);
  for (const name of OURS) inCode.delete(name);
  const inDocs = new Set(
    [...readFileSync(join(root, 'docs/settings.md'), 'utf8').matchAll(/\| `(TOLVIK_[A-Z_]+)`/g)].map(
      ([, name]) => name,
    ),
  );
  expect([...inDocs].sort()).toEqual([...inCode].sort());
});
