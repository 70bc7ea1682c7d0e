import { type ChildProcess, execFileSync } from 'node:child_process';
import { acceptanceRecord, asEdit, type ProjectRecord } from '@tolvik/core';
import sharp from 'sharp';
import { svg } from './corpus';
import { type All, startAll } from './server';

export type KillsResult = {
  rounds: number;
  killed: Record<string, number>;
  acknowledged: number;
  lost: number;
  deliveries: number;
  files: number;
  wrong: string[];
  longestStallS: number;
};

const EDITORS = 3;
const ICONS = 40;

/**
 * Rounds in which something is killed while editors edit and deliveries are made: the server, a worker beside it, a
 * render process, PostgreSQL. Every edit that was answered must be there after each round, and in the end every file.
 */
export async function kills({
  rounds,
  random = mulberry(1),
  log = () => {},
}: {
  rounds: number;
  random?: () => number;
  log?(words: string): void;
}): Promise<KillsResult> {
  const all = await startAll();
  const id = await all.project('Killed');
  for (let at = 0; at < ICONS; at += 20)
    await all.bringIn(
      id,
      Object.fromEntries(
        Array.from({ length: 20 }, (_, i) => [
          `icon-${at + i}.svg`,
          svg(`<circle cx="12" cy="12" r="${(at + i) / 5 + 1}"/>`),
        ]),
      ),
    );
  let worker = await all.startServer({ TOLVIK_ROLE: 'worker', PORT: '0' });
  const stopped = { now: false };
  const editors = Array.from({ length: EDITORS }, (_, i) => editor(all, id, i, stopped));
  const deliveries: string[] = [];
  const killed: Record<string, number> = { server: 0, worker: 0, 'render process': 0, database: 0 };
  let lost = 0;
  let longestStallS = 0;

  for (let round = 0; round < rounds; round++) {
    // Something new to make each time, so that the kill finds work under way.
    const changed = await until('a change', () => touch(all, id, round));
    if (!changed) throw new Error('the project cannot be changed');
    const begun = await until('a delivery', async () => {
      const answer = await all.post(`/projects/${id}/deliveries`);
      return answer.status === 201 ? all.json<{ id: string }>(answer).id : null;
    });
    deliveries.push(begun as string);
    await pause(random() * 400);
    const what = ['server', 'worker', 'render process', 'database'][Math.floor(random() * 4)];
    killed[what]++;
    log(`round ${round}: ${what}`);
    if (what === 'server') {
      await all.killServer('SIGKILL');
      await all.start();
    } else if (what === 'worker') {
      worker.kill('SIGKILL');
      worker = await all.startServer({ TOLVIK_ROLE: 'worker', PORT: '0' });
    } else if (what === 'render process') {
      const pids = renderersOf([all.server, worker]);
      if (pids.length > 0) killIfThere(pids[Math.floor(random() * pids.length)]);
    } else await all.killDatabase();
    if (all.server?.exitCode !== null && all.server?.exitCode !== undefined)
      throw new Error(`the server ended by itself: ${all.lastWords}`);
    await until('health', async () => (await all.call('GET', '/health')).status === 200 || null);
    const acknowledged = editors.map((each) => each.acknowledged());
    const records = (await until('the records', async () => {
      const answer = await all.call('GET', `/projects/${id}/records`);
      return answer.status === 200 ? all.json<{ records: ProjectRecord[] }>(answer).records : null;
    })) as ProjectRecord[];
    for (const [i, count] of acknowledged.entries()) {
      const there = records.find((record) => record.id === `editor${i}`);
      const has = there?.kind === 'acceptance' ? Number(there.reason) : 0;
      if (has < count) {
        lost++;
        log(`round ${round}: editor ${i} was told ${count}, there is ${has}`);
      }
    }
    const from = Date.now();
    await until('the end of the deliveries', async () => {
      const answer = await all.call('GET', `/projects/${id}/deliveries`);
      return (
        (answer.status === 200 &&
          all.json<{ deliveries: { state: string }[] }>(answer).deliveries.every(({ state }) => state !== 'running')) ||
        null
      );
    });
    longestStallS = Math.max(longestStallS, (Date.now() - from) / 1000);
    if (round % 10 === 9)
      log(
        `${round + 1} rounds, ${editors.reduce((sum, each) => sum + each.acknowledged(), 0)} edits, longest until a delivery was done after a kill: ${longestStallS.toFixed(1)} s`,
      );
  }
  stopped.now = true;
  await Promise.all(editors.map((each) => each.done));
  const { files, wrong } = await everyFile(all, deliveries);
  worker.kill('SIGTERM');
  await all.close();
  return {
    rounds,
    killed,
    acknowledged: editors.reduce((sum, each) => sum + each.acknowledged(), 0),
    lost,
    deliveries: deliveries.length,
    files,
    wrong,
    longestStallS,
  };
}

/** A person who counts up a note of their own, each number sent until it is answered. */
function editor(all: All, projectId: string, index: number, stopped: { now: boolean }) {
  let acknowledged = 0;
  const work = async () => {
    for (let count = 1; !stopped.now; count++) {
      const put = acceptanceRecord.parse({
        id: `editor${index}`,
        kind: 'acceptance',
        check: 'x',
        pieceId: 'x',
        message: 'x',
        reason: String(count),
      });
      const edit = asEdit({ label: 'count', puts: [put], removes: [] }, 0);
      for (;;) {
        const state = await all.call('GET', `/projects/${projectId}/records?since=999999`);
        if (state.status === 200) {
          edit.baseVersion = all.json<{ version: number }>(state).version;
          if ((await all.post(`/projects/${projectId}/edits`, edit)).status === 200) break;
        }
        if (stopped.now) return;
        await pause(30);
      }
      acknowledged = count;
      await pause(20);
    }
  };
  return { done: work(), acknowledged: () => acknowledged };
}

async function touch(all: All, id: string, round: number): Promise<true | null> {
  const answer = await all.call('GET', `/projects/${id}/records`);
  if (answer.status !== 200) return null;
  const { version, records } = all.json<{ version: number; records: ProjectRecord[] }>(answer);
  const circles = records.filter((record) => record.kind === 'layer' && record.tag === 'circle');
  const puts = circles.map((record) =>
    record.kind === 'layer' ? { ...record, attrs: { ...record.attrs, r: String(1 + ((round * 7) % 90) / 9) } } : record,
  );
  return (
    (await all.post(`/projects/${id}/edits`, asEdit({ label: 'touch', puts, removes: [] }, version))).status === 200 ||
    null
  );
}

/** Every file of every delivery, fetched and decoded: made, of the size that was asked, and the same bytes under the same key. */
async function everyFile(all: All, deliveries: readonly string[]): Promise<{ files: number; wrong: string[] }> {
  const wrong: string[] = [];
  let files = 0;
  for (const id of deliveries) {
    const detail = all.json<{
      state: string;
      total: number;
      files: {
        now?: {
          state: string;
          error: string | null;
          position: number;
          format: string;
          widthPx: number;
          heightPx: number;
        };
      }[];
    }>(await all.call('GET', `/deliveries/${id}`));
    if (detail.state !== 'done') wrong.push(`a delivery is ${detail.state}`);
    for (const { now } of detail.files) {
      if (!now) continue;
      files++;
      if (now.state !== 'made') wrong.push(`a file is ${now.state}: ${now.error}`);
      else if (now.format === 'png') {
        const bytes = Buffer.from(
          await (await fetch(`${all.url}/api/deliveries/${id}/files/${now.position}`)).arrayBuffer(),
        );
        const { info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
        if (info.width !== now.widthPx || info.height !== now.heightPx)
          wrong.push(`a file has ${info.width} × ${info.height} px instead of ${now.widthPx} × ${now.heightPx}`);
      }
    }
  }
  return { files, wrong };
}

/** Processes that render for these servers, and for no other of this machine. */
function renderersOf(servers: readonly (ChildProcess | null)[]): number[] {
  const parents = servers.flatMap((server) => server?.pid ?? []).join();
  try {
    const found = execFileSync('pgrep', ['-P', parents, '-f', 'render-child'], { encoding: 'utf8' });
    return found.trim().split('\n').map(Number);
  } catch {
    return [];
  }
}

function killIfThere(pid: number): void {
  try {
    process.kill(pid, 'SIGKILL');
  } catch {
    // It ended by itself.
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks until there is an answer, for two minutes at the most. */
async function until<T>(what: string, ask: () => Promise<T | null>): Promise<T> {
  for (const end = Date.now() + 120_000; Date.now() < end; await pause(100)) {
    const answer = await ask().catch(() => null);
    if (answer !== null) return answer;
  }
  throw new Error(`${what} did not come within two minutes`);
}

/** Numbers from 0 to 1 that are the same every time. */
export function mulberry(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
