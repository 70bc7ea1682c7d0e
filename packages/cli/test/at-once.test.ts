import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writingOfBegun, writingOfPart } from '@tolvik/core';
import { icon, until } from '../../server/test/running';

const cli = join(__dirname, '../../../dist/cli.mjs');
const NAMES = Array.from({ length: 30 }, (_, i) => `icon-${i}`);

let at: string;
beforeEach(() => {
  at = mkdtempSync(join(tmpdir(), 'tolvik-at-once-'));
  mkdirSync(join(at, 'in'));
  for (const [i, name] of NAMES.entries())
    writeFileSync(join(at, 'in', `${name}.svg`), icon(`<rect width="${(i % 20) + 1}" height="9"/>`));
});
afterEach(() => rmSync(at, { recursive: true, force: true }));

/** Begun, and ended by itself: its exit code and what it said on standard error. */
const begin = (...args: string[]) => beginWith(at, ...args);
function beginWith(temporary: string, ...args: string[]) {
  const child = spawn(process.execPath, [cli, ...args], { cwd: at, env: { ...process.env, TMPDIR: temporary } });
  let said = '';
  child.stderr.on('data', (text: Buffer) => (said += text.toString()));
  child.stdout.resume();
  const ended = new Promise<{ status: number | null; said: string }>((resolve) =>
    child.once('close', (status) => resolve({ status, said })),
  );
  return { child, ended };
}
const exported = () => begin('export', 'in', '--out', 'out', '--spec', 'web', '--receipt');

test('exports into one folder at once: each waits for the one before, every file is whole, and none is left half written', async () => {
  const all = await Promise.all(Array.from({ length: 4 }, () => exported().ended));
  expect(all.map(({ status, said }) => [status, said.includes('!') ? said : ''])).toEqual(all.map(() => [0, '']));
  // The first made them; the others found them made.
  expect(all.filter(({ said }) => said.includes(`${NAMES.length * 3} of them the same as before`))).toHaveLength(3);
  expect(readdirSync(join(at, 'out')).filter((name) => writingOfPart(name) || writingOfBegun(name))).toEqual([]);
  expect((await begin('verify', 'out').ended).status).toBe(0);
});

test('one that was killed in its turn holds nobody up', async () => {
  const { child, ended } = exported();
  const turns = join(at, `tolvik-${process.getuid?.()}`);
  const held = () => readdirSync(turns, { withFileTypes: true }).filter((entry) => entry.isSocket()).length;
  await until('it has its turn', () => {
    try {
      return held() > 0;
    } catch {
      return false;
    }
  });
  child.kill('SIGKILL');
  await ended;
  // Two find what it left at once.
  for (const { status, said } of await Promise.all([exported().ended, exported().ended]))
    expect([status, said]).toEqual([0, expect.not.stringContaining('!')]);
  expect((await begin('verify', 'out').ended).status).toBe(0);
});

test('where a machine has no place for that, it is done all the same', async () => {
  const nowhere = join(at, 'in', 'icon-1.svg');
  const { status, said } = await beginWith(nowhere, 'export', 'in', '--out', 'out', '--spec', 'web').ended;
  expect([status, said]).toEqual([0, expect.not.stringContaining('!')]);
});

test('acts on one project file at once: what each did is in it', async () => {
  const project = join(at, 'set.svg');
  const first = await begin('do', 'rename-piece', 'in', '--pieces', '1', '--set', 'name=first', '--out', project).ended;
  expect(first).toMatchObject({ status: 0, said: expect.stringContaining('1 record changed') });
  const all = await Promise.all(
    ['2', '3', '4', '5'].map(
      (piece) => begin('do', 'rename-piece', 'set.svg', '--pieces', piece, '--set', `name=number ${piece}`).ended,
    ),
  );
  expect(all.map(({ status }) => status)).toEqual([0, 0, 0, 0]);
  const text = readFileSync(project, 'utf8');
  for (const piece of ['2', '3', '4', '5']) expect(text).toContain(`number ${piece}`);
});
