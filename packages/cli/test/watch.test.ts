import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import {
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { lookAtDisk } from '@tolvik/core';
import { HeldFolder, NodeDisk, type SeenThere } from '@tolvik/folders';
import { PNG } from 'pngjs';
import { icon } from '../../server/test/running';

const cli = join(__dirname, '../../../dist/cli.mjs');
const NAMES = ['anchor', 'boat', 'crate'];

let at: string;
let watching: Watching | null = null;
beforeEach(() => {
  at = mkdtempSync(join(tmpdir(), 'tolvik-watch-'));
  mkdirSync(join(at, 'in'));
  for (const name of NAMES) draw(name, '#0c6a53');
});
afterEach(async () => {
  await watching?.end();
  watching = null;
  rmSync(at, { recursive: true, force: true });
});

const source = (name: string) => join(at, 'in', `${name}.svg`);
const draw = (name: string, colour: string, side = 24) =>
  writeFileSync(source(name), icon(`<rect width="${side}" height="${side}" fill="${colour}"/>`));
const out = (path: string) => join(at, 'out', path);

/** A watch of `in` that writes to `out`, whose lines are waited for. */
class Watching {
  private lines: string[] = [];
  private wake: () => void = () => {};
  readonly ended: Promise<number | null>;
  private readonly child: ChildProcess;

  constructor(...more: string[]) {
    const args = [cli, 'watch', join(at, 'in'), '--out', join(at, 'out'), '--spec', 'web', ...more];
    this.child = spawn(process.execPath, args);
    let rest = '';
    this.child.stderr?.on('data', (data) => {
      const parts = (rest + data).split('\n');
      rest = parts.pop() ?? '';
      this.lines.push(...parts.map((line) => line.replace(/^[\d:]+ /, '')));
      this.wake();
    });
    this.ended = new Promise((resolve) =>
      this.child.once('exit', (code) => {
        resolve(code);
        this.wake();
      }),
    );
  }

  /** The next line that fits, with all before it let go. */
  async line(fits: RegExp): Promise<string> {
    for (;;) {
      const i = this.lines.findIndex((line) => fits.test(line));
      if (i >= 0) return this.lines.splice(0, i + 1).at(-1) as string;
      if (this.child.exitCode !== null) throw new Error(`it ended; it said: ${this.lines.join(' / ')}`);
      await new Promise<void>((resolve) => {
        this.wake = resolve;
      });
    }
  }

  end(): Promise<number | null> {
    this.child.kill('SIGINT');
    return this.ended;
  }
}

test('what changes is made again, and nothing else; a new file comes, a broken one is told, Ctrl+C ends it', async () => {
  watching = new Watching();
  expect(await watching.line(/written/)).toMatch(/^9 written, 0 the same/);
  await watching.line(/^watching/);
  const before = statSync(out('boat.png')).mtimeMs;
  const receipt = () => JSON.parse(readFileSync(out('delivery.json'), 'utf8')) as { files: { path: string }[] };
  expect(receipt().files).toHaveLength(9);

  draw('anchor', '#d2452a');
  expect(await watching.line(/written/)).toMatch(/^3 written, 6 the same/);
  expect([...PNG.sync.read(readFileSync(out('anchor.png'))).data.subarray(0, 3)]).toEqual([0xd2, 0x45, 0x2a]);
  expect(statSync(out('boat.png')).mtimeMs).toBe(before);

  draw('drop', '#171b1c', 2000);
  expect(await watching.line(/written/)).toMatch(/^3 written, 9 the same/);
  expect(receipt().files).toHaveLength(12);

  writeFileSync(source('boat'), '<svg');
  expect(await watching.line(/^! .*boat/)).toContain('not well-formed');
  draw('boat', '#0c6a53');
  expect(await watching.line(/written/)).toMatch(/^\d+ written/);
  expect(await watching.end()).toBe(0);
});

test('what goes is told and stays, or is taken away where that is asked for', async () => {
  watching = new Watching('--leftovers', 'remove');
  await watching.line(/^watching/);
  unlinkSync(source('crate'));
  expect(await watching.line(/written/)).toMatch(/3 left over taken away/);
  expect(() => statSync(out('crate.png'))).toThrow();
});

test('a folder that gives way to a link is read no more', async () => {
  watching = new Watching();
  await watching.line(/^watching/);
  const other = join(at, 'other');
  mkdirSync(other);
  writeFileSync(join(other, 'secret.svg'), icon());
  renameSync(join(at, 'in'), join(at, 'before'));
  symlinkSync(other, join(at, 'in'));
  writeFileSync(join(at, 'before', 'anchor.svg'), icon());
  expect(await watching.line(/another folder or a link|there is no/)).toBeTruthy();
  expect(() => statSync(out('secret.png'))).toThrow();
});

test('the folder that is watched is not written to, and a source has to be there', () => {
  const run = (...args: string[]) => spawnSync(process.execPath, [cli, 'watch', ...args], { encoding: 'utf8' });
  const same = run(join(at, 'in'), '--out', join(at, 'in'), '--spec', 'web');
  expect([same.status, same.stderr]).toEqual([1, expect.stringContaining('is the folder that is watched')]);
  expect(run(join(at, 'none'), '--out', join(at, 'out'), '--spec', 'web').status).toBe(1);
  expect(run(join(at, 'in'), '--spec', 'web').status).toBe(2);
});

test('who looks at a folder again reads what differs by its times or its size, and nothing else', async () => {
  mkdirSync(join(at, 'out'));
  const write = (name: string, text: string) => writeFileSync(out(name), text);
  write('anchor.svg', 'one');
  write('boat.svg', 'two');
  const seen: SeenThere = new Map();
  const hashes = async () => {
    const disk = new NodeDisk(await HeldFolder.open(join(at, 'out')), { seen });
    const asked = ['anchor.svg', 'boat.svg'].map((path) => ({ path, bytes: 3 }));
    const { there } = await lookAtDisk(disk, asked).finally(() => disk.close());
    return ['anchor.svg', 'boat.svg'].map((path) => (there.get(path) as { sha256: string }).sha256);
  };
  const [anchor] = await hashes();
  // What was kept of the other one shows whether it was read again.
  const known = seen.get('boat.svg');
  seen.set('boat.svg', { stamp: known?.stamp ?? '', sha256: 'as it was kept' });
  // Somebody else changes a file, of the same length.
  await new Promise((resolve) => setTimeout(resolve, 20));
  write('anchor.svg', 'eno');
  const [changed, kept] = await hashes();
  expect(changed).not.toBe(anchor);
  expect(kept).toBe('as it was kept');
});
