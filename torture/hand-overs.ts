import { type ChildProcess, fork } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { asEdit, type ProjectRecord, RECEIPT_NAME, type Receipt, type Receiver, readReceipt } from '@tolvik/core';
import { root as repository } from '../scripts/parts/machine.mjs';
import { svg } from './corpus';
import { mulberry } from './kills';
import { type All, percentile, startAll } from './server';

export type HandOversResult = {
  moments: number;
  did: Record<string, number>;
  checks: number;
  files: number;
  wrong: string[];
  asked: number;
  p99: number;
  worst: number;
  longestS: number;
};

const ICONS = 40;
/** Servers beside the first, by how many there are in all. */
const BESIDE: Record<number, readonly string[]> = { 1: [], 2: ['worker'], 4: ['all', 'worker', 'worker'] };
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** An intake that takes everything after a moment, and remembers what it took last under each path. */
async function slowIntake(random: () => number) {
  const taken = new Map<string, string>();
  const server = createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on('data', (chunk: Buffer) => chunks.push(chunk));
    request.on('end', () =>
      setTimeout(() => {
        taken.set(decodeURIComponent((request.url ?? '').replace(/^\/in\//, '')), sha256(Buffer.concat(chunks)));
        response.writeHead(201).end();
      }, random() * 8),
    );
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/in`;
  return { taken, address, close: () => server.close() };
}

/**
 * Servers that hand deliveries over to two folders and an intake are killed, ended, stopped and continued at random
 * moments, and so is the database. Whenever all has settled, every receiver holds exactly what its receipt and the
 * project say, byte for byte. Meanwhile a process of its own asks small things of a server that nobody touches.
 */
export async function handOvers({
  moments,
  servers,
  random = mulberry(servers),
  log = () => {},
}: {
  moments: number;
  servers: 1 | 2 | 4;
  random?: () => number;
  log?(words: string): void;
}): Promise<HandOversResult> {
  const root = mkdtempSync(join(tmpdir(), 'tolvik-hand-overs-'));
  const intake = await slowIntake(random);
  const env = { TOLVIK_FOLDERS: root, TOLVIK_INTAKES: intake.address };
  const all = await startAll(env);
  const beside = await Promise.all(
    BESIDE[servers].map(async (role) => ({ role, child: await all.startServer({ TOLVIK_ROLE: role, PORT: '0' }) })),
  );
  // With others about, the first is left alone, so that what people feel can be measured.
  const probe = servers > 1 ? startProbe(all, await all.project('Probed')) : null;
  const id = await all.project('Handed over');
  await all.bringIn(
    id,
    Object.fromEntries(
      Array.from({ length: ICONS }, (_, i) => [`icon-${i}.svg`, svg(`<circle cx="12" cy="12" r="${i / 5 + 1}"/>`)]),
    ),
  );
  const receivers = await Promise.all([
    receiver(all, id, { name: 'Follows', root, folder: 'follows' }, { follows: true, removeLeftovers: true }),
    receiver(all, id, { name: 'Build', root, folder: 'build' }, { removeLeftovers: true }),
    receiver(all, id, { name: 'Intake', address: intake.address }, {}),
  ]);
  const did: Record<string, number> = { killed: 0, ended: 0, 'stopped and continued': 0, 'database killed': 0 };
  const wrong: string[] = [];
  let [checks, files, longestS] = [0, 0, 0];
  for (let moment = 0; moment < moments; moment++) {
    await until('a change', () => touch(all, id, moment));
    if (random() < 0.6)
      await until('a delivery', async () => (await all.post(`/projects/${id}/deliveries`)).status === 201);
    await pause(random() * 1500);
    const what = random();
    const one = beside[Math.floor(random() * beside.length)];
    if (what < 0.06) {
      did['database killed']++;
      await all.killDatabase();
    } else if (what < 0.2 && one) {
      did['stopped and continued']++;
      one.child.kill('SIGSTOP');
      // Longer than a lease, now and then: another goes on with what it had.
      await pause(random() < 0.4 ? 9500 : 600);
      one.child.kill('SIGCONT');
    } else {
      const signal = what < 0.7 ? 'SIGKILL' : 'SIGTERM';
      did[signal === 'SIGKILL' ? 'killed' : 'ended']++;
      if (one) {
        await ended(one.child, signal);
        one.child = await all.startServer({ TOLVIK_ROLE: one.role, PORT: '0' });
      } else {
        await all.killServer(signal);
        await all.start();
      }
    }
    if (moment % 10 !== 9 && moment !== moments - 1) continue;
    const from = Date.now();
    await until('all handed over', () => settled(all, id));
    longestS = Math.max(longestS, (Date.now() - from) / 1000);
    checks++;
    files += await checked(all, id, receivers, root, intake.taken, (words) => wrong.push(`moment ${moment}: ${words}`));
    log(
      `${moment + 1} moments, ${files} files compared, ${wrong.length} wrong; settled ${((Date.now() - from) / 1000).toFixed(1)} s after the last`,
    );
  }
  const times = (await probe?.()) ?? [];
  for (const { child } of beside) child.kill('SIGTERM');
  await all.close();
  intake.close();
  rmSync(root, { recursive: true, force: true });
  const [p99, worst] = [percentile(times, 99), Math.max(0, ...times)];
  return { moments, did, checks, files, wrong, asked: times.length, p99, worst, longestS };
}

async function receiver(all: All, id: string, place: object, fields: object): Promise<string> {
  const made = all.json<{ id: string }>(await all.post(`/projects/${id}/receivers`, place));
  await all.call('PATCH', `/receivers/${made.id}`, JSON.stringify(fields), { 'content-type': 'application/json' });
  return made.id;
}

const ended = (child: ChildProcess, signal: NodeJS.Signals) =>
  new Promise((resolve) => {
    child.once('exit', resolve);
    child.kill(signal);
  });

type Standing = { receivers: Receiver[] };
type Listed = {
  deliveries: { id: string; number: number; state: string; whole: boolean; version: number; byEdit: boolean }[];
};

/** Whether nothing is made or on its way any more, and who follows has the newest. */
async function settled(all: All, id: string): Promise<boolean> {
  const { deliveries } = all.json<Listed>(await all.call('GET', `/projects/${id}/deliveries`));
  const { receivers } = all.json<Standing>(await all.call('GET', `/projects/${id}/receivers`));
  const { version } = all.json<{ version: number }>(await all.call('GET', `/projects/${id}/records?since=999999`));
  const [newest] = deliveries.filter(({ state }) => state === 'done');
  return (
    deliveries.every(({ state }) => state !== 'running') &&
    newest?.version === version &&
    receivers.every(({ onItsWay }) => onItsWay === null) &&
    receivers.every(
      ({ follows, standing, trouble }) => trouble !== null || !follows || standing?.delivery.id === newest.id,
    )
  );
}

/** Holds each receiver against its standing and the delivery that it says; answers how many files were compared. */
async function checked(
  all: All,
  id: string,
  ids: readonly string[],
  root: string,
  taken: ReadonlyMap<string, string>,
  say: (words: string) => void,
): Promise<number> {
  const { receivers } = all.json<Standing>(await all.call('GET', `/projects/${id}/receivers`));
  const { deliveries } = all.json<Listed>(await all.call('GET', `/projects/${id}/deliveries`));
  const meant = deliveries.find(({ state, byEdit }) => state === 'done' && !byEdit);
  let files = 0;
  for (const each of receivers.filter((one) => ids.includes(one.id))) {
    if (each.trouble) say(`${each.name}: ${each.trouble}`);
    if (!each.standing) {
      if (meant) say(`${each.name} has nothing`);
      continue;
    }
    if (!each.follows && each.standing.delivery.id !== meant?.id)
      say(`${each.name} has another delivery than the newest`);
    const wanted = all.json<Receipt>(await all.call('GET', `/deliveries/${each.standing.delivery.id}/receipt.json`));
    if (each.kind === 'intake') {
      for (const { path, sha256: hash } of wanted.files)
        if (taken.get(path) !== hash) say(`the intake has another ${path}`);
      files += wanted.files.length;
      continue;
    }
    const at = join(root, each.folder);
    const receipt = existsSync(join(at, RECEIPT_NAME))
      ? readReceipt(readFileSync(join(at, RECEIPT_NAME), 'utf8'))
      : null;
    if (receipt?.delivery.id !== each.standing.delivery.id) say(`the receipt of ${each.name} is of another delivery`);
    const there = readdirSync(at, { recursive: true, encoding: 'utf8' }).filter((path) => path !== RECEIPT_NAME);
    const names = wanted.files.map(({ path }) => path);
    if (there.sort().join() !== names.sort().join())
      say(
        `${each.name} holds ${there.length} files, wanted are ${names.length}: ${there.filter((path) => !names.includes(path)).slice(0, 3)}`,
      );
    for (const { path, sha256: hash } of wanted.files) {
      files++;
      if (!existsSync(join(at, path)) || sha256(readFileSync(join(at, path))) !== hash)
        say(`${each.name} has another ${path}`);
      if (!receipt?.files.some((file) => file.path === path && file.sha256 === hash))
        say(`the receipt of ${each.name} says something else of ${path}`);
    }
  }
  return files;
}

/** A process of its own that asks all the time; answers how long each answer took, in ms, once it is told to stop. */
export function startProbe(all: All, projectId: string): () => Promise<number[]> {
  const child = fork(join(repository, 'torture', 'probe.mjs'), [all.url, projectId], { execArgv: [] });
  return async () => {
    const told = new Promise<{ times: number[] }>((resolve) =>
      child.once('message', (said) => resolve(said as { times: number[] })),
    );
    child.send('stop');
    return (await told).times;
  };
}

/** Changes half of the drawings, and the name of one piece now and then, so that something is left over. */
async function touch(all: All, id: string, moment: number): Promise<boolean> {
  const { version, records } = all.json<{ version: number; records: ProjectRecord[] }>(
    await all.call('GET', `/projects/${id}/records`),
  );
  const puts = records.flatMap((record, i): ProjectRecord[] => {
    if (record.kind === 'layer' && record.tag === 'circle' && i % 2 === moment % 2)
      return [{ ...record, attrs: { ...record.attrs, r: String(1 + ((moment * 7 + i) % 90) / 9) } }];
    if (record.kind === 'artboard' && moment % 5 === 0 && record.name.startsWith('icon-3'))
      return [{ ...record, name: `icon-3${i}-${moment}` }];
    return [];
  });
  return (
    (await all.post(`/projects/${id}/edits`, asEdit({ label: 'touch', puts, removes: [] }, version))).status === 200
  );
}

/** Asks until it is so, for two minutes at the most; what fails meanwhile is asked again. */
async function until(what: string, isSo: () => Promise<boolean>): Promise<void> {
  for (const end = Date.now() + 120_000; Date.now() < end; await pause(150))
    if (await isSo().catch(() => false)) return;
  throw new Error(`${what} did not come within two minutes`);
}
