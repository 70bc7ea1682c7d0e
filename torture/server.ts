import { type ChildProcess, fork } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, root } from '../scripts/parts/machine.mjs';
import { startPostgres } from '../scripts/parts/postgres.mjs';

export type Answer = { status: number; text: string; ms: number };

/** The real server and a PostgreSQL of its own, both of which can be killed and started again. */
export async function startAll(env: Record<string, string> = {}, durable = false) {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-torture-'));
  const [port, databasePort] = [await freePort(), await freePort()];
  let postgres = await startPostgres({ folder, port: databasePort, durable });
  let server: ChildProcess | null = null;
  let unexpected = 0;
  let lastWords = '';
  const url = `http://127.0.0.1:${port}`;

  const startServer = async (extra: Record<string, string> = {}): Promise<ChildProcess> => {
    const child = fork(join(root, 'dist', 'server.mjs'), [], {
      env: {
        ...process.env,
        PORT: String(port),
        DATABASE_URL: postgres.url,
        TOLVIK_LOG: 'silent',
        TOLVIK_DATA: folder,
        ...env,
        ...extra,
      },
      silent: true,
      execArgv: [],
    });
    await new Promise<void>((resolve, reject) => {
      child.once('message', () => resolve());
      child.once('exit', (code, signal) => reject(new Error(`the server ended with ${code ?? signal}`)));
    });
    child.stderr?.on('data', (text: Buffer) => (lastWords = (lastWords + text.toString()).slice(-4000)));
    child.on('exit', () => unexpected++);
    return child;
  };
  const start = async () => void (server = await startServer());
  await start();

  /** One request, answered as text; 0 when there was no answer. */
  const call = async (
    method: string,
    path: string,
    body?: string | Uint8Array | FormData,
    headers: Record<string, string> = {},
  ): Promise<Answer> => {
    const from = performance.now();
    try {
      const response = await fetch(`${url}/api${path}`, {
        method,
        body: body as BodyInit | undefined,
        headers,
        signal: AbortSignal.timeout(90_000),
        redirect: 'manual',
      });
      return { status: response.status, text: await response.text(), ms: performance.now() - from };
    } catch (error) {
      return { status: 0, text: String(error), ms: performance.now() - from };
    }
  };
  const json = <T>(answer: Answer): T => JSON.parse(answer.text) as T;
  const post = (path: string, content: unknown = {}) =>
    call('POST', path, JSON.stringify(content), { 'content-type': 'application/json' });

  return {
    url,
    port,
    folder,
    databaseUrl: () => postgres.url,
    call,
    json,
    post,
    startServer,
    get server() {
      return server;
    },
    /** Times the server ended, by our hand or not. */
    get ends() {
      return unexpected;
    },
    /** What servers said on standard error, the end of it. */
    get lastWords() {
      return lastWords;
    },
    start,
    async killServer(signal: NodeJS.Signals = 'SIGKILL') {
      const going = server;
      if (!going || going.exitCode !== null || going.signalCode !== null) return;
      const gone = new Promise((resolve) => going.once('exit', resolve));
      going.kill(signal);
      await gone;
    },
    async killDatabase() {
      process.kill(postgres.pid, 'SIGKILL');
      // Its children let go of what they hold before another may begin.
      for (let tries = 0; tries < 600; tries++) {
        await new Promise((resolve) => setTimeout(resolve, 200));
        try {
          postgres = await startPostgres({ folder, port: databasePort, durable });
          return;
        } catch {
          // It is not free yet.
        }
      }
      throw new Error('the database does not start again');
    },
    async bringIn(id: string, files: Record<string, string | Uint8Array>, query = ''): Promise<Answer> {
      const form = new FormData();
      for (const [name, content] of Object.entries(files))
        form.append('files', new File([content as BlobPart], name.replace(/[/\0]/g, '_')));
      return call('POST', `/projects/${id}/bring-in${query}`, form);
    },
    async project(name = 'Test'): Promise<string> {
      return json<{ id: string }>(await post('/projects', { name })).id;
    },
    async close() {
      await this.killServer('SIGTERM');
      await postgres.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
export type All = Awaited<ReturnType<typeof startAll>>;

/** The value below which so many of a hundred lie. */
export function percentile(values: readonly number[], percent: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor((sorted.length * percent) / 100))] ?? 0;
}
