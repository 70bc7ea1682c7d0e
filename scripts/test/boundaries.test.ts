import { spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const root = join(__dirname, '../..');

/** Lints a line as if it stood in a package; answers what the rule says. */
function lint(packageName: string, line: string): string {
  const path = join(
    root,
    'packages',
    packageName,
    'src',
    `boundary-${process.pid}-${Math.random().toString(36).slice(2)}.ts`,
  );
  writeFileSync(path, `${line}\n`);
  try {
    const { stdout, stderr } = spawnSync(join(root, 'node_modules/.bin/biome'), ['lint', path], {
      cwd: root,
      encoding: 'utf8',
    });
    return `${stdout}${stderr}`;
  } finally {
    rmSync(path);
  }
}

test.each([
  ['core', "import { readFileSync } from 'node:fs';\nreadFileSync('x');", 'core imports Zod and pure libraries only'],
  ['core', "import { x } from '@tolvik/render';\nx();", 'core imports Zod and pure libraries only'],
  ['render', "import { x } from '@tolvik/server';\nx();", 'render imports core and rendering libraries only'],
  ['server', "import { x } from '@tolvik/web';\nx();", 'server imports core, folders, intake and render only'],
  ['intake', "import { x } from '@tolvik/render';\nx();", 'intake imports core and readers of archives only'],
  ['folders', "import { x } from '@tolvik/intake';\nx();", 'folders imports core only'],
  ['stand-ins', "import { x } from '@tolvik/server';\nx();", 'stand-ins imports core, intake and render only'],
  ['server', "import { x } from '@tolvik/stand-ins';\nx();", 'server imports core, folders, intake and render only'],
  ['web', "import { x } from '@tolvik/render';\nx();", 'web imports core only'],
  ['web', "import { x } from 'node:fs';\nx();", 'web imports core only'],
  ['cli', "import { x } from '@tolvik/server';\nx();", 'cli imports core, folders, intake and render only'],
])('%s may not import against the table: %s', (name, line, words) => {
  expect(lint(name, line)).toContain(words);
});

test('what the table allows passes', () => {
  expect(lint('server', "import { x } from '@tolvik/core';\nx();")).not.toContain('noRestrictedImports');
});
