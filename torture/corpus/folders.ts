import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { linkSync, mkdirSync, symlinkSync, truncateSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { RECEIPT_NAME } from '@tolvik/core';

/** What a stranger may leave under a name in a folder; `outside` is a folder that nothing may reach, with a file `secret.txt` in it. */
export type Thing = { kind: string; make(at: string, outside: string): void; asRoot?: boolean };

const text = (kind: string, content: string | Uint8Array): Thing => ({
  kind,
  make: (at) => writeFileSync(at, content),
});
const sparse = (kind: string, bytes: number): Thing => ({
  kind,
  make: (at) => {
    writeFileSync(at, '');
    truncateSync(at, bytes);
  },
});
/** What files of somebody else hold. */
export const THEIRS = 'theirs';
const hash = 'a'.repeat(64);
const writing = 'ab'.repeat(16);
/** A receipt as a stranger forges it, with `src/index.js` and all that is there as this project's leftovers. */
const forged = (project: string, paths: readonly string[]): string =>
  JSON.stringify({
    version: 1,
    project: { id: project, name: 'Harbour' },
    delivery: { id: 'forged', number: 7, at: '2026-01-02T03:04:05.000Z' },
    files: [],
    leftovers: paths.map((path) => ({
      path,
      bytes: THEIRS.length,
      sha256: createHash('sha256').update(THEIRS).digest('hex'),
    })),
  });

export const THINGS: readonly Thing[] = [
  { kind: 'named pipe', make: (at) => void execFileSync('mkfifo', [at]) },
  {
    kind: 'socket',
    make: (at) =>
      void execFileSync(
        'python3',
        ['-c', 'import socket,sys; s=socket.socket(socket.AF_UNIX); s.bind(sys.argv[1])', basename(at)],
        { cwd: dirname(at) },
      ),
  },
  { kind: 'endless device', asRoot: true, make: (at) => void execFileSync('mknod', [at, 'c', '1', '5']) },
  { kind: 'empty folder', make: (at) => mkdirSync(at) },
  {
    kind: 'folder with a file',
    make: (at) => {
      mkdirSync(at);
      writeFileSync(join(at, 'theirs.txt'), 'theirs');
    },
  },
  { kind: 'link to a file outside', make: (at, outside) => symlinkSync(join(outside, 'secret.txt'), at) },
  { kind: 'link to a folder outside', make: (at, outside) => symlinkSync(outside, at) },
  { kind: 'link to nothing outside', make: (at, outside) => symlinkSync(join(outside, 'new.txt'), at) },
  { kind: 'link to itself', make: (at) => symlinkSync(at, at) },
  { kind: 'link upwards', make: (at) => symlinkSync('..', at) },
  { kind: 'link to a pipe', make: (at, outside) => symlinkSync(join(outside, 'pipe'), at) },
  { kind: 'link to endless text', make: (at) => symlinkSync('/proc/self/maps', at) },
  { kind: 'second name of a file outside', make: (at, outside) => linkSync(join(outside, 'secret.txt'), at) },
  sparse('sparse file of 200 GB', 200 * 1024 ** 3),
  sparse('sparse file of 3 GB', 3 * 1024 ** 3),
  text('empty file', ''),
  text('text of somebody', THEIRS),
  text('a million line ends', '\n'.repeat(1_000_000)),
  text('ten million line ends', '\n'.repeat(10_000_000)),
  text('deep brackets', '['.repeat(2_000_000)),
  text('text of one line', `{"path":"${'x'.repeat(5_000_000)}`),
  text('bytes that are no text', Buffer.alloc(100_000, 0xfe)),
  text('forged receipt', forged('project', ['src/index.js', 'theirs.svg'])),
  text('receipt of another project', forged('other', ['theirs.svg'])),
  text('forged begun', `{"path":"a.svg","sha256":"${hash}","bytes":6}\n`),
  text(
    'many begun',
    Array.from({ length: 200_000 }, (_, i) => `{"path":"a${i}.svg","sha256":"${hash}","bytes":6}\n`).join(''),
  ),
];

/** Names that matter to a writing: the receipt, wanted files, a folder that is needed, and those that it must leave, also where they look like its own. */
export const NAMES = [
  RECEIPT_NAME,
  '.delivery-begun.json',
  'a.svg',
  'sub/b.png',
  'sub',
  'theirs.delivery-part',
  `.delivery-${writing}-3.part`,
  `.delivery-${writing}.begun`,
] as const;

export const placeThing = (thing: Thing, folder: string, name: string, outside: string): void => {
  const at = join(folder, name);
  mkdirSync(dirname(at), { recursive: true });
  thing.make(at, outside);
};
