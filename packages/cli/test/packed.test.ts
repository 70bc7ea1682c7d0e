import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { icon } from '../../server/test/running';

const root = join(__dirname, '../../..');
const own = mkdtempSync(join(tmpdir(), 'tolvik-packed-'));
const at = join(own, 'project');
beforeAll(() => {
  const packed = execFileSync(process.execPath, [join(root, 'scripts/pack.mjs'), own], { encoding: 'utf8' })
    .trim()
    .split('\n')
    .at(-1) as string;
  mkdirSync(at);
  writeFileSync(join(at, 'package.json'), '{ "name": "somebody-elses", "private": true }');
  // Nothing of this repository is above it: what it needs it has to bring or to ask for.
  execFileSync('npm', ['install', packed, '--prefer-offline', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: at,
    stdio: 'pipe',
  });
}, 600_000);
afterAll(() => rmSync(own, { recursive: true, force: true }));

const tolvik = (...args: string[]) =>
  spawnSync(join(at, 'node_modules/.bin/tolvik'), args, { cwd: at, encoding: 'utf8' });

test('installed in an empty project, it makes every format of a drawing with text, and verifies them', () => {
  mkdirSync(join(at, 'icons'));
  const drawing =
    '<rect width="24" height="24" fill="#0c6a53"/><text x="2" y="18" font-family="Schibsted Grotesk">Ag</text>';
  writeFileSync(join(at, 'icons/anchor.svg'), icon(drawing));
  const outputs = ['svg', 'pdf', 'png', 'jpeg'].map((format) => ({
    size: { kind: 'factor', factor: 1 },
    settings: { format },
  }));
  writeFileSync(join(at, 'spec.json'), JSON.stringify({ tolvik: 'spec', version: 1, spec: { name: 'All' }, outputs }));
  const { status, stderr } = tolvik('export', 'icons', '--out', 'out', '--spec', 'spec.json', '--receipt');
  expect([status, stderr]).toEqual([0, expect.any(String)]);
  expect(tolvik('verify', 'out').status).toBe(0);
  const { files } = JSON.parse(readFileSync(join(at, 'out/delivery.json'), 'utf8'));
  expect(files.map(({ format }: { format: string }) => format).sort()).toEqual(['jpeg', 'pdf', 'png', 'svg']);
  const png = PNG.sync.read(readFileSync(join(at, 'out/anchor.png')));
  expect([png.width, png.height]).toEqual([24, 24]);
  expect([...png.data.subarray(0, 4)]).toEqual([12, 106, 83, 255]);
  // Letters became outlines by the font that ships.
  expect(readFileSync(join(at, 'out/anchor.svg'), 'utf8')).not.toMatch(/<text|font-family/);
  writeFileSync(join(at, 'out/anchor.png'), 'somebody else');
  expect(tolvik('verify', 'out').status).toBe(1);
});

test('says what it takes, and nothing of it names this repository', () => {
  const { status, stdout } = tolvik('--help');
  expect(status).toBe(0);
  expect(stdout).toContain('tolvik export');
  const about = JSON.parse(readFileSync(join(at, 'node_modules/tolvik/package.json'), 'utf8'));
  expect(about.dependencies).not.toHaveProperty('@tolvik/core');
  expect(Object.keys(about.dependencies)).toContain('sharp');
});

test('it brings the licences of all that it is made of', () => {
  const notices = readFileSync(join(at, 'node_modules/tolvik/third-party-notices.txt'), 'utf8');
  const { dependencies } = JSON.parse(readFileSync(join(at, 'node_modules/tolvik/package.json'), 'utf8'));
  // What it asks for, and what is in its one file.
  for (const name of [...Object.keys(dependencies), 'zod', 'css-tree', 're2js'])
    expect(notices).toContain(`\n${name} `);
  expect(notices).toContain('SIL OPEN FONT LICENSE');
  expect(notices).not.toMatch(/Licence: undefined/);
});
