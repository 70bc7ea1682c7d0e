import { type ChildProcess, fork, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '../scripts/parts/machine.mjs';
import { median } from './core-work';
import type { Source, startServerProcess } from './server-process';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
/** How often a drawing is saved. */
const SAVES = 7;
/** A look at what is waited for, in ms. */
const LOOK_MS = 5;

async function until(what: () => boolean | Promise<boolean>, ms: number): Promise<void> {
  const end = performance.now() + ms;
  while (!(await what())) {
    if (performance.now() > end) throw new Error('what is measured did not happen');
    await pause(LOOK_MS);
  }
}

/** `tolvik watch` on so many icons: how long from saving one drawing until all its files are written, in s, the median. */
export async function watched(sources: readonly Source[]): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-watched-'));
  const [from, to] = [join(folder, 'in'), join(folder, 'out')];
  mkdirSync(from);
  for (const { name, text } of sources) writeFileSync(join(from, name), text);
  const child = spawn(process.execPath, [join(root, 'dist', 'cli.mjs'), 'watch', from, '--out', to, '--spec', 'web'], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (data) => {
    said += data;
  });
  try {
    await until(() => /wrote|written/.test(said), 300_000);
    const times: number[] = [];
    for (let i = 0; i < SAVES; i++) {
      const { name, text } = sources[(i * 61) % sources.length];
      const outputs = ['.svg', '.png', '@2x.png'].map((end) => join(to, name.replace('.svg', end)));
      const before = outputs.map((path) => readFileSync(path));
      const begun = performance.now();
      writeFileSync(join(from, name), text.replace('</svg>', `<path d="M2 2h${9 + i}v9z"/></svg>`));
      await until(() => outputs.every((path, at) => !readFileSync(path).equals(before[at])), 60_000);
      times.push((performance.now() - begun) / 1000);
      await pause(300);
    }
    return median(times);
  } finally {
    child.kill('SIGINT');
    await new Promise((resolve) => child.once('exit', resolve));
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The simulated intakes in a process of their own. */
export async function startIntakes(): Promise<{ addresses: readonly string[]; close(): void }> {
  const child: ChildProcess = fork(join(root, 'dist', 'stand-ins.mjs'), [], {
    env: { ...process.env, TOLVIK_STAND_IN_PORTS: '0,0' },
    silent: true,
  });
  const addresses = await new Promise<string[]>((resolve, reject) => {
    child.once('message', (message) => resolve(message as string[]));
    child.once('exit', (code) => reject(new Error(`the intakes ended with ${code}`)));
  });
  return { addresses, close: () => void child.kill() };
}

type Standing = { written: number; refused: number } | null;

/** Files of a delivery that is made, sent to an intake one by one, each decoded there: how long it takes, in s, and what it said. */
export async function sentToIntake(
  server: Awaited<ReturnType<typeof startServerProcess>>,
  address: string,
  sources: readonly Source[],
): Promise<{ seconds: number; taken: number; refused: number }> {
  const id = await server.projectOf(sources);
  await server.deliver(id);
  const receivers = async () =>
    (await server.api<{ receivers: { standing: Standing; onItsWay?: unknown }[] }>(`/projects/${id}/receivers`))
      .receivers;
  const made = await server.api<{ id: string }>(`/projects/${id}/receivers`, { name: 'Intake', address });
  const begun = performance.now();
  await server.api(`/receivers/${made.id}/write`, {});
  await until(async () => {
    const [{ standing, onItsWay }] = await receivers();
    return standing !== null && !onItsWay;
  }, 300_000);
  const seconds = (performance.now() - begun) / 1000;
  const [{ standing }] = await receivers();
  return { seconds, taken: standing?.written ?? 0, refused: standing?.refused ?? 0 };
}
