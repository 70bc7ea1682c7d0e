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
import { dirname, join } from 'node:path';
import {
  RECEIPT_NAME,
  type Receipt,
  type ReceiptFile,
  type Receiver,
  Refusal,
  readReceipt,
  writingOfBegun,
  writingOfPart,
} from '@tolvik/core';
import { type Asks, bringTo, type Taken } from '@tolvik/folders';
import { svg } from './corpus';
import { NAMES, placeThing, THEIRS, THINGS, type Thing } from './corpus/folders';
import { startProbe } from './hand-overs';
import { percentile, startAll } from './server';

export type FoldersResult = {
  cases: number;
  swaps: number;
  bad: string[];
  slowestMs: number;
  /** Small things that another process asked of a server meanwhile, and how long they took, in ms. */
  asked: number;
  p99: number;
  worst: number;
};

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
async function things(bad: string[], every: number): Promise<{ cases: number; slowestMs: number }> {
  let cases = 0;
  let at = 0;
  let slowestMs = 0;
  const isRoot = process.getuid?.() === 0;
  for (const thing of THINGS.filter(({ asRoot }) => isRoot || !asRoot))
    for (const name of NAMES)
      for (const when of ['first', 'second'] as const) {
        // A folder that holds files of ours is not theirs.
        if (when === 'second' && name === 'sub') continue;
        if (at++ % every !== 0) continue;
        cases++;
        const { base, root, outside } = pair();
        const say = (what: string) => bad.push(`${thing.kind} as ${name}, before the ${when} writing: ${what}`);
        const { bring, at: folder } = receiver(root);
        try {
          mkdirSync(folder);
          if (when === 'second') {
            await bring(FILES);
            rmSync(join(folder, name), { force: true });
          }
          placeThing(thing, folder, name, outside);
          mkdirSync(join(folder, 'src'));
          for (const path of OTHERS) writeFileSync(join(folder, path), THEIRS);
          const before = told(folder, (path) => path.startsWith('sub/') && name === 'sub');
          const beyond = told(outside);
          const from = performance.now();
          await bring({ ...FILES, 'a.svg': 'changed' }).catch((error) => {
            if (!(error instanceof Refusal)) say(`it failed with ${error}`);
          });
          slowestMs = Math.max(slowestMs, performance.now() - from);
          const after = told(folder);
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
          for (const path of OTHERS) if (told(folder).get(path) !== before.get(path)) say(`with a yes ${path} went`);
          rmSync(join(folder, name), { recursive: true, force: true });
          await bring({ ...FILES, 'a.svg': 'again' }, { removeLeftovers: true, replaceForeign: true });
          const off = isInStep(folder, { ...FILES, 'a.svg': 'again' });
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

/** What holds others up, if anything does: a receiver's folder for each, and what lies in it before it is written to. */
const HEAVY: readonly [string, (at: string) => void][] = [
  ...THINGS.filter(({ kind }) => /pipe|sparse|line ends|brackets|one line|begun|endless|socket/.test(kind)).map(
    (thing): [string, (at: string) => void] => [
      `${thing.kind} as the receipt`,
      (at) => placeThing(thing, at, RECEIPT_NAME, dirname(at)),
    ],
  ),
  [
    'a pipe under each wanted name',
    (at) => {
      for (const name of ['i0.svg', 'i0.png', 'i0@2x.png', 'i1.svg']) execFileSync('mkfifo', [join(at, name)]);
    },
  ],
  [
    '200 GB under a wanted name',
    (at) => placeThing(THINGS.find(({ kind }) => /200 GB/.test(kind)) as Thing, at, 'i0.png', at),
  ],
  [
    'ten million line ends as begun',
    (at) => writeFileSync(join(at, `.delivery-${'cd'.repeat(16)}.begun`), '\n'.repeat(10_000_000)),
  ],
];
/** 200 valid patterns that fit nothing, as long as they may be. */
const PATTERNS = Array.from({ length: 200 }, (_, i) => `${'*a?b'.repeat(73)}${i}`.slice(0, 300));

/**
 * A server writes into such folders, reads sources full of pipes and holds hundreds of files against hundreds of
 * patterns, while another process asks small things. Answers how long those took, in ms, and which receivers said nothing.
 */
async function others(bad: string[]): Promise<number[]> {
  const base = mkdtempSync(join(tmpdir(), 'tolvik-others-'));
  const [root, source] = [join(base, 'root'), join(base, 'source')];
  for (const folder of [root, source]) mkdirSync(folder);
  for (let i = 0; i < 20; i++) execFileSync('mkfifo', [join(source, `drawing-${i}.svg`)]);
  const all = await startAll({ TOLVIK_FOLDERS: root, TOLVIK_SOURCES: source });
  const probe = startProbe(all, await all.project('Probed'));
  const id = await all.project('Written');
  await all.bringIn(
    id,
    Object.fromEntries(
      Array.from({ length: 300 }, (_, i) => [`i${i}.svg`, svg(`<circle cx="12" cy="12" r="${i / 30 + 1}"/>`)]),
    ),
  );
  await all.post(`/projects/${id}/sources`, { root: source, folder: '' });
  const receivers: string[] = [];
  for (const [i, [, make]] of HEAVY.entries()) {
    const at = join(root, `f${i}`);
    mkdirSync(at);
    make(at);
    receivers.push(
      all.json<{ id: string }>(await all.post(`/projects/${id}/receivers`, { name: `R${i}`, root, folder: `f${i}` }))
        .id,
    );
  }
  const ruled = all.json<{ id: string }>(
    await all.post(`/projects/${id}/receivers`, { name: 'Ruled', root, folder: 'ruled' }),
  ).id;
  const rules = { version: 1, name: 'Patterns', names: { patterns: PATTERNS } };
  await all.call('PATCH', `/receivers/${ruled}`, JSON.stringify({ rules }), { 'content-type': 'application/json' });
  for (let round = 0; round < 3; round++) {
    const delivery = all.json<{ id: string }>(await all.post(`/projects/${id}/deliveries`)).id;
    for (const end = Date.now() + 240_000; Date.now() < end; await new Promise((resolve) => setTimeout(resolve, 200))) {
      const listed = all.json<{ receivers: Receiver[] }>(await all.call('GET', `/projects/${id}/receivers`)).receivers;
      if (
        listed.every(
          ({ onItsWay, standing, trouble }) => !onItsWay && (trouble !== null || standing?.delivery.id === delivery),
        )
      )
        break;
    }
    for (const receiver of receivers) await all.call('GET', `/receivers/${receiver}/steps`);
  }
  const { receivers: listed } = all.json<{ receivers: Receiver[] }>(await all.call('GET', `/projects/${id}/receivers`));
  for (const { name, standing, trouble, onItsWay } of listed)
    if (onItsWay || (standing === null && trouble === null))
      bad.push(`${HEAVY[Number(name.slice(1))]?.[0] ?? name}: nothing is said of it`);
  const times = await probe();
  await all.close();
  rmSync(base, { recursive: true, force: true });
  return times;
}

/** Folders of strangers, as they are before a writing and as they become in the middle of it; `felt` also by a server whose others are asked. */
export async function folders({
  swaps: count,
  every = 1,
  felt = false,
}: {
  swaps: number;
  /** Of the things that may lie in a folder, each so many-th. */
  every?: number;
  felt?: boolean;
}): Promise<FoldersResult> {
  const bad: string[] = [];
  const { cases, slowestMs } = await things(bad, every);
  await swaps(count, bad);
  const times = felt ? await others(bad) : [];
  return {
    cases,
    swaps: count,
    bad,
    slowestMs,
    asked: times.length,
    p99: percentile(times, 99),
    worst: Math.max(0, ...times),
  };
}
