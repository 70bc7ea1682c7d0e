import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  RECEIPT_NAME,
  type Receipt,
  type ReceiptFile,
  Refusal,
  readReceipt,
  writingOfBegun,
  writingOfPart,
} from '@tolvik/core';
import { type Asks, bringTo, type Taken } from '@tolvik/folders';
import { NAMES, placeThing, THEIRS, THINGS, type Thing } from './corpus/folders';

export type FoldersResult = { cases: number; swaps: number; bad: string[]; slowestMs: number };

const sha256 = (content: string | Uint8Array) => createHash('sha256').update(content).digest('hex');
const FILES: Record<string, string> = { 'a.svg': '<svg>a</svg>', 'sub/b.png': 'bytes of b', 'sub/deep/c.svg': 'c' };
const file = (path: string, content: string): ReceiptFile => ({
  path,
  bytes: content.length,
  sha256: sha256(content),
  widthPx: 24,
  heightPx: 24,
  dpi: null,
  format: 'svg',
  piece: 'piece',
  output: 'output',
});
const wantedOf = (files: Record<string, string>): Receipt => ({
  version: 1,
  project: { id: 'project', name: 'Harbour' },
  delivery: { id: 'delivery', number: 1, at: '2026-01-02T03:04:05.000Z' },
  files: Object.entries(files).map(([path, content]) => file(path, content)),
  leftovers: [],
});

/** All that lies in a folder, by what it is and holds; links are told, not followed. */
function told(folder: string, but: (path: string) => boolean = () => false): Map<string, string> {
  const all = new Map<string, string>();
  const walk = (at: string, path: string) => {
    for (const name of readdirSync(join(at, path))) {
      const own = path ? `${path}/${name}` : name;
      if (but(own)) continue;
      const stat = lstatSync(join(at, own));
      if (stat.isSymbolicLink()) all.set(own, `link ${readlinkSync(join(at, own))}`);
      else if (stat.isDirectory()) {
        all.set(own, 'folder');
        walk(at, own);
      } else if (!stat.isFile()) all.set(own, `other ${stat.mode}`);
      else all.set(own, stat.size > 1e8 ? `large ${stat.size}` : `file ${sha256(readFileSync(join(at, own)))}`);
    }
  };
  walk(folder, '');
  return all;
}

/** A folder to write to and one that nothing may reach, beside each other. */
function pair() {
  const base = mkdtempSync(join(tmpdir(), 'tolvik-hostile-'));
  const [root, outside] = [join(base, 'root'), join(base, 'outside')];
  mkdirSync(root);
  mkdirSync(outside);
  writeFileSync(join(outside, 'secret.txt'), 'secret');
  execFileSync('mkfifo', [join(outside, 'pipe')]);
  return { base, root, outside };
}

/** A receiver that is written to as the server does, and remembers its receipts. */
function receiver(root: string, folder = 'out') {
  let receipts: string[] = [];
  const bring = async (
    files: Record<string, string>,
    allowed = { removeLeftovers: true, replaceForeign: false },
    asks: Partial<Asks> = {},
  ) => {
    const taken: Taken = { at: { root, folder }, wanted: wantedOf(files), refused: [], some: false, receipts };
    return bringTo(taken, allowed, {
      bytesOf: async ({ path }) => Buffer.from(files[path]),
      note: async (hashes) => void (receipts = [...hashes]),
      onWrite: () => {},
      ...asks,
    });
  };
  return { bring, at: join(root, folder) };
}

/** What a folder holds is what was wanted, and its receipt says so. */
function isInStep(at: string, files: Record<string, string>): string | null {
  for (const [path, content] of Object.entries(files))
    if (!existsSync(join(at, path)) || readFileSync(join(at, path), 'utf8') !== content)
      return `${path} is not as wanted`;
  const receipt = readReceipt(readFileSync(join(at, RECEIPT_NAME), 'utf8'));
  if (receipt?.files.length !== Object.keys(files).length) return 'the receipt says something else';
  const names = readdirSync(at, { recursive: true, encoding: 'utf8' }).map((path) => path.split('/').at(-1) ?? '');
  return names.some((name) => writingOfPart(name) || writingOfBegun(name)) ? 'something half written is left' : null;
}

/** What is ours by all that it says: a name that nobody else comes upon, and a receipt of this project, which the next takes the place of. */
const isOfOurs = ({ kind }: Thing, path: string): boolean =>
  writingOfBegun(path) !== null || (kind === 'forged receipt' && path === RECEIPT_NAME);

/** Files of somebody else that a forged receipt names. */
const OTHERS = ['theirs.svg', 'src/index.js'];

/** Every thing under every name, before the first writing and before the second: nothing waits, nothing leaves, nothing of theirs goes. */
async function things(bad: string[]): Promise<{ cases: number; slowestMs: number }> {
  let cases = 0;
  let slowestMs = 0;
  const isRoot = process.getuid?.() === 0;
  for (const thing of THINGS.filter(({ asRoot }) => isRoot || !asRoot))
    for (const name of NAMES)
      for (const when of ['first', 'second'] as const) {
        // A folder that holds files of ours is not theirs.
        if (when === 'second' && name === 'sub') continue;
        cases++;
        const { base, root, outside } = pair();
        const say = (what: string) => bad.push(`${thing.kind} as ${name}, before the ${when} writing: ${what}`);
        const { bring, at } = receiver(root);
        try {
          mkdirSync(at);
          if (when === 'second') {
            await bring(FILES);
            rmSync(join(at, name), { force: true });
          }
          placeThing(thing, at, name, outside);
          mkdirSync(join(at, 'src'));
          for (const path of OTHERS) writeFileSync(join(at, path), THEIRS);
          const before = told(at, (path) => path.startsWith('sub/') && name === 'sub');
          const beyond = told(outside);
          const from = performance.now();
          await bring({ ...FILES, 'a.svg': 'changed' }).catch((error) => {
            if (!(error instanceof Refusal)) say(`it failed with ${error}`);
          });
          slowestMs = Math.max(slowestMs, performance.now() - from);
          const after = told(at);
          for (const [path, what] of before)
            if (!isOfOurs(thing, path) && (path === name || OTHERS.includes(path)) && after.get(path) !== what)
              say(`${path} was ${what}, is ${after.get(path)}`);
          if (!same(told(outside), beyond)) say('something outside was changed');
          // Also with a yes to everything nothing outside is reached.
          await bring({ ...FILES, 'a.svg': 'again' }, { removeLeftovers: true, replaceForeign: true }).catch(
            (error) => {
              if (!(error instanceof Refusal)) say(`with a yes it failed with ${error}`);
            },
          );
          if (!same(told(outside), beyond)) say('with a yes something outside was changed');
          for (const path of OTHERS) if (told(at).get(path) !== before.get(path)) say(`with a yes ${path} went`);
          rmSync(join(at, name), { recursive: true, force: true });
          await bring({ ...FILES, 'a.svg': 'again' }, { removeLeftovers: true, replaceForeign: true });
          const off = isInStep(at, { ...FILES, 'a.svg': 'again' });
          if (off && !writingOfPart(name)) say(`once it was gone: ${off}`);
        } catch (error) {
          say(`${error}`);
        } finally {
          rmSync(base, { recursive: true, force: true });
        }
      }
  return { cases, slowestMs };
}

const same = (one: Map<string, string>, other: Map<string, string>): boolean =>
  JSON.stringify([...one]) === JSON.stringify([...other]);

/** A folder is swapped for a link while files go into it, at a random moment: none of them gets out. */
async function swaps(count: number, bad: string[]): Promise<void> {
  const random = numbers(7);
  for (let i = 0; i < count; i++) {
    const { base, root, outside } = pair();
    const beyond = told(outside);
    const { bring, at } = receiver(root, i % 2 ? 'out' : 'a/b/out');
    const files = Object.fromEntries(
      Array.from({ length: 12 }, (_, n) => [`${['', 'sub/', 'sub/deep/'][n % 3]}f${n}.svg`, `content ${n}`]),
    );
    const which = ['', 'sub', 'sub/deep'][Math.floor(random() * 3)];
    let left = Math.floor(random() * 14);
    const swap = () => {
      if (left-- !== 0) return;
      const place = join(at, which);
      if (!existsSync(place)) return;
      renameSync(place, `${join(base, 'moved')}`);
      symlinkSync(outside, place);
    };
    const asks = {
      mayPut: swap,
      bytesOf: async ({ path }: { path: string }) => {
        swap();
        return Buffer.from(files[path]);
      },
    };
    await bring(files, { removeLeftovers: true, replaceForeign: true }, asks).catch((error) => {
      if (!(error instanceof Refusal)) bad.push(`swap ${i} of ${which || 'the folder'}: it failed with ${error}`);
    });
    if (!same(told(outside), beyond)) bad.push(`swap ${i} of ${which || 'the folder'}: something outside was changed`);
    rmSync(base, { recursive: true, force: true });
  }
}

/** Numbers from 0 to 1 that are the same every time. */
function numbers(seed: number): () => number {
  let a = seed;
  return () => {
    a = (Math.imul(a, 1_664_525) + 1_013_904_223) | 0;
    return (a >>> 0) / 4_294_967_296;
  };
}

/** Folders of strangers, as they are before a writing and as they become in the middle of it. */
export async function folders({ swaps: count }: { swaps: number }): Promise<FoldersResult> {
  const bad: string[] = [];
  const { cases, slowestMs } = await things(bad);
  await swaps(count, bad);
  return { cases, swaps: count, bad, slowestMs };
}
