import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RECEIPT_NAME, readReceipt } from '@tolvik/core';
import { icon } from '../../server/test/running';

const cli = join(__dirname, '../../../dist/cli.mjs');
let at: string;
beforeEach(() => {
  at = mkdtempSync(join(tmpdir(), 'tolvik-word-'));
  mkdirSync(join(at, 'a'));
  for (const name of ['anchor', 'boat']) writeFileSync(join(at, 'a', `${name}.svg`), icon());
  const rules = (fields: object) => JSON.stringify({ version: 1, name: 'Build', ...fields });
  writeFileSync(join(at, 'png.json'), rules({ formats: ['png'] }));
  writeFileSync(join(at, 'light.json'), rules({ largestBytes: 60 }));
  writeFileSync(join(at, 'no-palette.json'), rules({ pixels: { palette: false } }));
  writeFileSync(join(at, 'whole.json'), rules({ complete: [1, 2, 3] }));
  writeFileSync(join(at, 'any.json'), rules({}));
  writeFileSync(join(at, 'wrong.json'), '{"version":1}');
});
afterEach(() => rmSync(at, { recursive: true, force: true }));
const tolvik = (...args: string[]) =>
  spawnSync(process.execPath, [cli, ...args], { cwd: at, encoding: 'utf8', timeout: 120_000 });
const exported = (from: string, ...more: string[]) =>
  tolvik('export', from, '--spec', 'web', '--out', 'out', '--receipt', ...more);
const receipt = () => readReceipt(readFileSync(join(at, 'out', RECEIPT_NAME), 'utf8'));

test.each<[number, string]>([
  [0, 'list a --spec web'],
  [0, 'list a --spec web --pieces 1'],
  [1, 'list a --spec web --pieces 99'],
  [1, 'list a --spec web --pieces nobody'],
  [1, 'list gone --spec web'],
  [2, 'list a'],
  [2, 'list a --spec nobody'],
  [2, 'list'],
  [2, 'list a b --spec web'],
  [2, 'nothing a'],
  [2, 'list a --spec web --nothing'],
  [0, 'check a --spec web'],
  [1, 'check a --spec web --pieces 99'],
  [0, 'check a --spec web --rules any.json'],
  [1, 'check a --spec web --rules png.json'],
  [2, 'check a --spec web --rules wrong.json'],
  [1, 'check a --spec web --rules gone.json'],
  [0, 'export a --spec web --out out'],
  [0, 'export a --spec web --out out --rules any.json'],
  [1, 'export a --spec web --out out --pieces 99'],
  [1, 'export a --spec web --out out --rules png.json'],
  [2, 'export a --spec web'],
  [2, 'export a --spec web --out out --jobs 0'],
  [2, 'export a --spec web --out out --leftovers remove'],
  [2, 'export a --spec web --out out --receipt --leftovers perhaps'],
  [1, 'export a --spec web --out png.json'],
  [1, 'export a --spec web --out /proc/x'],
  [2, 'verify a'],
  [2, 'verify gone'],
  [0, 'acts'],
  [2, 'do nothing-of-the-kind a --out p.svg'],
  [2, 'do trim-to-artwork'],
  [2, 'do trim-to-artwork a'],
  [1, 'do trim-to-artwork gone --out p.svg'],
  [0, '--help'],
  [2, ''],
])('exit code %i: tolvik %s', (code, call) => {
  const { status, stderr, stdout } = tolvik(...call.split(' ').filter(Boolean));
  expect([status, status === 0 ? '' : stderr + stdout]).toEqual([code, code === 0 ? '' : expect.stringMatching(/\w/)]);
});

test.each(['png.json', 'light.json', 'no-palette.json', 'whole.json', 'any.json'])(
  'check and export say the same of rules: %s',
  (rules) => {
    const [checked, written] = [
      tolvik('check', 'a', '--spec', 'web', '--rules', rules),
      exported('a', '--rules', rules),
    ];
    expect(checked.status).toBe(written.status);
    const told = (text: string) =>
      text
        .split('\n')
        .filter((line) => line.startsWith('! '))
        .sort();
    expect(told(checked.stdout)).toEqual(told(written.stderr));
  },
);

test('warnings fail a check that is strict, and no other', () => {
  writeFileSync(join(at, 'a', 'poked.svg'), icon('<path d="M-5 4h40v9z"/>'));
  expect(tolvik('check', 'a', '--spec', 'web').status).toBe(0);
  expect(tolvik('check', 'a', '--spec', 'web', '--strict').status).toBe(1);
});

test.each(['stdout', 'stderr'] as const)(
  'nobody reads %s to its end: every file is written all the same',
  async (stream) => {
    for (let i = 0; i < 120; i++)
      writeFileSync(join(at, 'a', `icon-${i}.svg`), icon(`<rect width="${(i % 20) + 1}" height="9"/>`));
    const child = spawn(process.execPath, [cli, 'export', 'a', '--spec', 'web', '--out', 'out', '--receipt'], {
      cwd: at,
    });
    child[stream].once('data', () => child[stream].destroy());
    child[stream === 'stdout' ? 'stderr' : 'stdout'].resume();
    if (stream === 'stderr') child.stderr.destroy();
    const status = await new Promise((resolve) => child.once('exit', resolve));
    expect(status).toBe(0);
    expect(receipt()?.files).toHaveLength(122 * 3);
  },
);

test('pipes, devices and files of many gigabytes are told and not waited for; the others come out', () => {
  execFileSync('mkfifo', [join(at, 'pipe.svg'), join(at, 'a', 'pipe.svg')]);
  for (const source of ['pipe.svg', '/dev/zero']) {
    const { status, stderr } = tolvik('list', source, '--spec', 'web');
    expect([source, status, stderr]).toEqual([source, 1, expect.stringContaining('neither a file nor a folder')]);
  }
  writeFileSync(join(at, 'a', 'huge.svg'), '<svg');
  truncateSync(join(at, 'a', 'huge.svg'), 3 * 1024 ** 3);
  const { status, stderr } = exported('a');
  expect(status).toBe(1);
  expect(stderr).toContain('huge.svg has 3,072 MB');
  expect(receipt()?.files).toHaveLength(6);
});

test('what is not read is said: folders in a folder, and links', () => {
  mkdirSync(join(at, 'a', 'more'));
  symlinkSync('anchor.svg', join(at, 'a', 'linked.svg'));
  const { stderr } = exported('a');
  expect(stderr).toContain('a: folders in it are not read: more');
  expect(stderr).toContain('a: links in it are not read: linked.svg');
});

test('a name gives no orders to a terminal', () => {
  writeFileSync(join(at, 'a', 'x\u001b]0;owned\u0007\u009b2J\u202egnp.svg'), '<svg');
  const { stdout, stderr } = exported('a');
  // biome-ignore lint/suspicious/noControlCharactersInRegex: it is what must not be there
  expect(stdout + stderr).not.toMatch(/[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202e]/);
  expect(stderr).toContain('x\\x1b]0;owned\\x07');
});

describe('whose a folder is', () => {
  beforeEach(() => {
    mkdirSync(join(at, 'b'));
    writeFileSync(join(at, 'b', 'crate.svg'), icon());
  });

  test('of two sources the second is told, and takes nothing away', () => {
    expect(exported('a').status).toBe(0);
    const { status, stderr } = exported('b', '--leftovers', 'remove', '--replace');
    expect([status, stderr]).toEqual([1, expect.stringContaining('another project')]);
    expect(tolvik('verify', 'out').status).toBe(0);
  });

  test('two sources of one name are one project; so is a checkout that lies elsewhere', () => {
    expect(exported('a', '--project', 'harbour').status).toBe(0);
    expect(exported('b', '--project', 'harbour', '--leftovers', 'remove').status).toBe(0);
    expect(receipt()?.files.map(({ path }) => path)).toEqual(['crate.png', 'crate.svg', 'crate@2x.png']);
    rmSync(join(at, 'out'), { recursive: true });
    expect(exported('a').status).toBe(0);
    mkdirSync(join(at, 'elsewhere'));
    for (const name of ['a', 'out']) execFileSync('cp', ['-r', join(at, name), join(at, 'elsewhere', name)]);
    const there = spawnSync(process.execPath, [cli, 'export', 'a', '--spec', 'web', '--out', 'out', '--receipt'], {
      cwd: join(at, 'elsewhere'),
      encoding: 'utf8',
    });
    expect([there.status, there.stderr]).toEqual([0, expect.stringContaining('6 of them the same as before')]);
  });

  test('a receipt that somebody forged takes away nothing that we could not have written', () => {
    expect(exported('a').status).toBe(0);
    mkdirSync(join(at, 'out', 'src'));
    const theirs = 'console.log(1)';
    writeFileSync(join(at, 'out', 'src', 'index.js'), theirs);
    const forged = JSON.parse(readFileSync(join(at, 'out', RECEIPT_NAME), 'utf8'));
    const sha256 = createHash('sha256').update(theirs).digest('hex');
    forged.leftovers.push({ path: 'src/index.js', bytes: theirs.length, sha256 });
    writeFileSync(join(at, 'out', RECEIPT_NAME), JSON.stringify(forged));
    exported('a', '--leftovers', 'remove', '--replace');
    expect(readFileSync(join(at, 'out', 'src', 'index.js'), 'utf8')).toBe(theirs);
  });

  test('the receipt’s name is somebody else’s: nothing is written without a yes', () => {
    mkdirSync(join(at, 'out'));
    writeFileSync(join(at, 'out', RECEIPT_NAME), '{"theirs":1}');
    const { status, stderr } = exported('a');
    expect([status, stderr]).toEqual([1, expect.stringContaining('is no receipt')]);
    expect(readFileSync(join(at, 'out', RECEIPT_NAME), 'utf8')).toBe('{"theirs":1}');
    expect(readdirSync(join(at, 'out'))).toEqual([RECEIPT_NAME]);
    expect(exported('a', '--replace').status).toBe(0);
  });
});

test('files of the names of temporary ones stay, whoever left them', () => {
  mkdirSync(join(at, 'out'));
  for (const name of ['mine.delivery-part', `.delivery-${'ab'.repeat(16)}-0.part`])
    writeFileSync(join(at, 'out', name), 'theirs');
  expect(exported('a').status).toBe(0);
  for (const name of ['mine.delivery-part', `.delivery-${'ab'.repeat(16)}-0.part`])
    expect(readFileSync(join(at, 'out', name), 'utf8')).toBe('theirs');
});

test('names that are too long keep what tells the files of a piece apart', () => {
  writeFileSync(join(at, 'a', `${'long'.repeat(55)}.svg`), icon());
  expect(exported('a').status).toBe(0);
  const paths =
    receipt()
      ?.files.map(({ path }) => path)
      .filter((path) => path.startsWith('long')) ?? [];
  expect(paths).toHaveLength(3);
  expect(paths.filter((path) => path.endsWith('@2x.png'))).toHaveLength(1);
  for (const path of paths) expect(existsSync(join(at, 'out', path))).toBe(true);
});

test('a watch whose folder to write to is the watched one by way of a link does not begin', () => {
  symlinkSync('a', join(at, 'link'));
  const { status, stderr } = tolvik('watch', 'a', '--spec', 'web', '--out', 'link');
  expect([status, stderr]).toEqual([1, expect.stringContaining('is the folder that is watched')]);
  expect(tolvik('watch', 'link', '--spec', 'web', '--out', 'a').status).toBe(1);
});
