import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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

/** Parts of an open project that are told beside its document, as `useSessionPart` has them. */
const TOLD_BESIDE = /\b(saved|delivery|receiversTold|sourceTold|describedTold|version|undoLabel|redoLabel)\b/;
/** What a component reads of the project that it draws again with: `session.version`, or out of it in one go. */
const readOf = (source: string): string[] => [
  ...[...source.matchAll(/\bsession\.(\w+)\b(?!\()/g)].map(([, name]) => name),
  ...[...source.matchAll(/const \{([^}]*)\} = (?:session|useSession\(\));/g)].map(([, names]) => names),
];

test('what is told beside the document is read by `useSessionPart`, so that no component shows it as it was', () => {
  expect(readOf('const session = useSession();\n  const { id, delivery: live } = session;').join()).toMatch(
    TOLD_BESIDE,
  );
  const src = join(root, 'packages/web/src');
  const found = readdirSync(src, { recursive: true, encoding: 'utf8' }).filter((path) => {
    if (!/\.tsx?$/.test(path)) return false;
    const source = readFileSync(join(src, path), 'utf8');
    return /= useSession\(\)/.test(source) && readOf(source).some((names) => TOLD_BESIDE.test(names));
  });
  expect(found).toEqual([]);
});
