import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inTurn } from '@tolvik/folders';
import { build } from 'esbuild';
import { until } from '../../server/test/running';

let at: string;
beforeEach(() => {
  at = mkdtempSync(join(tmpdir(), 'tolvik-turns-'));
});
afterEach(() => rmSync(at, { recursive: true, force: true }));

test('one at a time has its turn, by any way to the folder, and the others are told that they wait', async () => {
  let inside = 0;
  let most = 0;
  let told = 0;
  const done: number[] = [];
  const ways = ['out', 'in/../out', './out/'];
  await Promise.all(
    Array.from({ length: 12 }, (_, i) =>
      inTurn(
        join(at, ways[i % 3]),
        async () => {
          most = Math.max(most, ++inside);
          // The first keeps its turn until all others wait; it may have met one itself before.
          if (done.length === 0) await until('all others wait', () => told >= 11);
          inside--;
          done.push(i);
        },
        () => told++,
      ),
    ),
  );
  expect([most, done.length]).toEqual([1, 12]);
});

test('work that fails gives its turn back, and what it threw goes on', async () => {
  const failing = inTurn(
    join(at, 'out'),
    () => Promise.reject(new Error('no room')),
    () => {},
  );
  await expect(failing).rejects.toThrow('no room');
  expect(
    await inTurn(
      join(at, 'out'),
      async () => 'next',
      () => {},
    ),
  ).toBe('next');
});

/** Takes turns at one more than the number in a file; ends in the middle of some where that is said. */
const COUNTING = `
import { appendFileSync, readFileSync, writeFileSync } from 'node:fs';
import { inTurn } from './in-turn.mjs';
const [, , file, dies] = process.argv;
const isThere = (pid) => { try { process.kill(pid, 0); return pid > 0; } catch { return false; } };
for (let i = 0; i < 15; i++)
  await inTurn(file, async () => {
    const inside = Number(readFileSync(file + '.inside', 'utf8'));
    if (isThere(inside)) appendFileSync(file + '.two', inside + ' and ' + process.pid + '\\n');
    writeFileSync(file + '.inside', String(process.pid));
    const number = Number(readFileSync(file, 'utf8'));
    await new Promise((resolve) => setTimeout(resolve, Math.random() * 4));
    if (dies && Math.random() < 0.1) {
      // One that is gone can still be asked for until its parent has heard of it.
      writeFileSync(file + '.inside', '0');
      process.kill(process.pid, 'SIGKILL');
    }
    writeFileSync(file, String(number + 1));
    appendFileSync(file + '.turns', '.');
    writeFileSync(file + '.inside', '0');
  }, () => {});
`;

test.each(['', 'dies'])(
  'processes that count in one file lose nothing, and none is in with another %s',
  async (dies) => {
    const options = { bundle: true, platform: 'node', format: 'esm', logLevel: 'error' } as const;
    await build({ ...options, entryPoints: [join(__dirname, '../src/in-turn.ts')], outfile: join(at, 'in-turn.mjs') });
    writeFileSync(join(at, 'counting.mjs'), COUNTING);
    const file = join(at, 'number');
    for (const [end, text] of Object.entries({ '': '0', '.inside': '0', '.two': '', '.turns': '' }))
      writeFileSync(`${file}${end}`, text);
    const ended = await Promise.all(
      Array.from(
        { length: 6 },
        () =>
          new Promise<number | null>((resolve) =>
            spawn(process.execPath, [join(at, 'counting.mjs'), file, dies], { stdio: 'inherit' }).once(
              'close',
              resolve,
            ),
          ),
      ),
    );
    if (!dies) expect(ended).toEqual([0, 0, 0, 0, 0, 0]);
    expect(readFileSync(`${file}.two`, 'utf8')).toBe('');
    const turns = readFileSync(`${file}.turns`, 'utf8').length;
    expect(Number(readFileSync(file, 'utf8'))).toBe(turns);
    if (!dies) expect(turns).toBe(90);
  },
);
