import { type ChildProcess, fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { type Artboard, asEdit, newId, outputRecord, type ProjectRecord, specRecord } from '@tolvik/core';
import { freePort, root } from '../scripts/parts/machine.mjs';

/** Files in one request. */
const AT_ONCE = 1000;

export type Source = { name: string; text: string };

/** The outputs that are measured: SVG, PDF, PNG at 64, 128 and 192, JPEG at 192. */
export const OUTPUTS = [
  { size: { kind: 'factor', factor: 1 }, settings: { format: 'svg' } },
  { size: { kind: 'factor', factor: 1 }, settings: { format: 'pdf' } },
  ...[64, 128, 192].map((widthPx) => ({
    size: { kind: 'width', widthPx },
    suffix: `-${widthPx}`,
    settings: { format: 'png' },
  })),
  { size: { kind: 'width', widthPx: 192 }, suffix: '-192', settings: { format: 'jpeg' } },
];

/** The real server in a process of its own, with what it takes of memory. */
export async function startServerProcess(databaseUrl: string, more: NodeJS.ProcessEnv = {}) {
  const port = await freePort();
  const workers = availableParallelism();
  const server: ChildProcess = fork(join(root, 'dist', 'server.mjs'), [], {
    env: {
      ...process.env,
      PORT: String(port),
      DATABASE_URL: databaseUrl,
      TOLVIK_LOG: 'error',
      TOLVIK_WORKERS: String(workers),
      ...more,
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('message', () => resolve());
    server.once('exit', () => reject(new Error('the server did not start')));
  });
  const url = `http://127.0.0.1:${port}`;
  const api = async <T>(path: string, json?: unknown): Promise<T> => {
    const response = await fetch(
      `${url}/api${path}`,
      json === undefined
        ? {}
        : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(json) },
    );
    if (!response.ok) throw new Error(await response.text());
    return (await response.json()) as T;
  };
  return {
    url,
    workers,
    api,
    /** A project with an artboard a source, all following the measured outputs. */
    async projectOf(sources: readonly Source[]): Promise<string> {
      const { id } = await api<{ id: string }>('/projects', { name: 'Benchmark' });
      const spec = specRecord.parse({ id: newId(), kind: 'spec', order: 'a0', name: 'Measured' });
      const outputs = OUTPUTS.map((output, i) =>
        outputRecord.parse({ id: newId(), kind: 'output', specId: spec.id, order: `a${i}`, ...output }),
      );
      await api(`/projects/${id}/edits`, asEdit({ label: 'spec', puts: [spec, ...outputs], removes: [] }, 0));
      for (let at = 0; at < sources.length; at += AT_ONCE) {
        const form = new FormData();
        for (const { name, text } of sources.slice(at, at + AT_ONCE)) form.append('files', new File([text], name));
        const brought = (await (
          await fetch(`${url}/api/projects/${id}/bring-in`, { method: 'POST', body: form })
        ).json()) as { version: number; change: { puts: ProjectRecord[] } };
        const artboards = brought.change.puts.filter((record): record is Artboard => record.kind === 'artboard');
        if (artboards.some((artboard) => artboard.specIds[0] !== spec.id)) throw new Error('the spec is not followed');
      }
      return id;
    },
    /** One export of everything, from the request until it is written. */
    async deliver(id: string): Promise<{ seconds: number; failed: number }> {
      const from = performance.now();
      let delivery = await api<{ id: string; state: string; failed: number }>(`/projects/${id}/deliveries`, {});
      while (delivery.state === 'running') {
        await new Promise((resolve) => setTimeout(resolve, 100));
        const { deliveries } = await api<{ deliveries: (typeof delivery)[] }>(`/projects/${id}/deliveries`);
        delivery = deliveries[0];
      }
      return { seconds: (performance.now() - from) / 1000, failed: delivery.failed };
    },
    /** The time of saving one edit, the median of 21, in seconds. */
    async editSeconds(id: string): Promise<number> {
      const { version, records } = await api<{ version: number; records: ProjectRecord[] }>(`/projects/${id}/records`);
      const artboard = records.find((record): record is Artboard => record.kind === 'artboard') as Artboard;
      const times: number[] = [];
      for (let i = 0; i < 21; i++) {
        const from = performance.now();
        await api(
          `/projects/${id}/edits`,
          asEdit({ label: 'measure', puts: [{ ...artboard, x: artboard.x + i }], removes: [] }, version + i),
        );
        times.push((performance.now() - from) / 1000);
      }
      return times.sort((a, b) => a - b)[10];
    },
    /** The most the server process has held, its render processes apart (Linux: VmHWM). */
    peakMb: () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024,
    async close(): Promise<void> {
      const gone = new Promise((resolve) => server.once('exit', resolve));
      server.kill('SIGTERM');
      await gone;
    },
  };
}
