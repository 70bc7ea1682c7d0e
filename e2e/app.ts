import { type ChildProcess, fork } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, expect, type Page } from '@playwright/test';
import { freePort, root } from '../scripts/parts/machine.mjs';
import { startPostgres } from '../scripts/parts/postgres.mjs';

/** The real server process on a PostgreSQL of its own, both stoppable from a test. */
export type App = {
  url: string;
  stopServer(signal?: NodeJS.Signals): Promise<void>;
  startServer(): Promise<void>;
  /** Holds the processes that draw, so that what is being made stays so, or lets them go on. */
  holdDrawing(held: boolean): void;
  stopDatabase(): Promise<void>;
  startDatabase(): Promise<void>;
  api<T>(path: string, json?: unknown): Promise<T>;
};

export const test = base.extend<
  { openProject: (name: string, files?: Record<string, string | Buffer>) => Promise<string> },
  { app: App; folders: string; sources: string; withIntakes: boolean; intakes: readonly string[] }
>({
  /** Folders that the server may write to, as TOLVIK_FOLDERS names them. */
  folders: ['', { option: true, scope: 'worker' }],
  /** Folders that it may read drawings from, as TOLVIK_SOURCES names them. */
  sources: ['', { option: true, scope: 'worker' }],
  /** Whether the simulated intakes run, an app build's and a print shop's, and the server may send to them. */
  withIntakes: [false, { option: true, scope: 'worker' }],
  /** Their addresses. */
  intakes: [
    async ({ withIntakes }, use) => {
      if (!withIntakes) return use([]);
      const child = fork(join(root, 'dist', 'stand-ins.mjs'), [], {
        env: { ...process.env, TOLVIK_STAND_IN_PORTS: '0,0' },
        silent: true,
      });
      const addresses = await new Promise<string[]>((resolve, reject) => {
        child.once('message', (message) => resolve(message as string[]));
        child.once('exit', (code) => reject(new Error(`the intakes ended with ${code}`)));
      });
      await use(addresses);
      child.kill();
    },
    { scope: 'worker' },
  ],
  app: [
    async ({ folders, sources, intakes }, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'tolvik-e2e-'));
      const [port, databasePort] = [await freePort(), await freePort()];
      let postgres = await startPostgres({ folder, port: databasePort, durable: false });
      let server: ChildProcess | null = null;
      const app: App = {
        url: `http://127.0.0.1:${port}`,
        async startServer() {
          server = fork(join(root, 'dist', 'server.mjs'), [], {
            env: {
              ...process.env,
              PORT: String(port),
              DATABASE_URL: postgres.url,
              TOLVIK_LOG: 'silent',
              TOLVIK_FOLDERS: folders,
              TOLVIK_SOURCES: sources,
              TOLVIK_INTAKES: intakes.join(';'),
            },
            silent: true,
          });
          await new Promise<void>((resolve, reject) => {
            server?.once('message', () => resolve());
            server?.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
          });
        },
        async stopServer(signal = 'SIGTERM') {
          const going = server;
          if (going?.exitCode !== null || going.signalCode !== null) return;
          app.holdDrawing(false);
          const gone = new Promise((resolve) => going.once('exit', resolve));
          going.kill(signal);
          await gone;
        },
        holdDrawing(held) {
          for (const pid of childrenOf(server?.pid)) process.kill(pid, held ? 'SIGSTOP' : 'SIGCONT');
        },
        stopDatabase: () => postgres.stop(),
        async startDatabase() {
          postgres = await startPostgres({ folder, port: databasePort, durable: false });
        },
        async api(path, json) {
          const response = await fetch(
            `${app.url}/api${path}`,
            json === undefined
              ? {}
              : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(json) },
          );
          return (await response.json()) as never;
        },
      };
      await app.startServer();
      await use(app);
      await app.stopServer();
      await postgres.stop();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ app }, use) => use(app.url),
  /** Makes a project with these files in it, opens its Bench, answers its id. */
  openProject: async ({ app, page }, use) => {
    await use(async (name, files) => {
      const { id } = await app.api<{ id: string }>('/projects', { name });
      if (files) {
        const form = new FormData();
        for (const [file, content] of Object.entries(files)) form.append('files', new File([content as string], file));
        await fetch(`${app.url}/api/projects/${id}/bring-in`, { method: 'POST', body: form });
      }
      await page.goto(`/projects/${id}/bench`);
      await expect(page.getByRole('link', { name: /^Bench/ })).toBeVisible();
      return id;
    });
  },
});

/** The processes that one started. */
function childrenOf(pid: number | undefined): number[] {
  const tasks = `/proc/${pid}/task`;
  return readdirSync(tasks).flatMap((task) =>
    readFileSync(`${tasks}/${task}/children`, 'utf8').split(' ').filter(Boolean).map(Number),
  );
}

export { expect };

export const icon = (inner = '<path d="M4 4h16v16H4z"/>', attrs = 'width="24" height="24" viewBox="0 0 24 24"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attrs}>${inner}</svg>`;

/** Drops files on the window as a person would. */
export async function dropFiles(page: Page, files: Record<string, string>, target = 'body'): Promise<void> {
  const transfer = await page.evaluateHandle((list) => {
    const data = new DataTransfer();
    for (const [name, content] of Object.entries(list))
      data.items.add(new File([content], name, { type: 'image/svg+xml' }));
    return data;
  }, files);
  const place = page.locator(target).first();
  await place.dispatchEvent('dragenter', { dataTransfer: transfer });
  await place.dispatchEvent('dragover', { dataTransfer: transfer });
  await place.dispatchEvent('drop', { dataTransfer: transfer });
}

export const saved = (page: Page) => expect(page.getByRole('status').filter({ hasText: /^Saved/ })).toBeVisible();
export const pieceRows = (page: Page) => page.getByRole('grid', { name: 'Pieces' }).getByRole('row');
export const pieceRow = (page: Page, name: string) => pieceRows(page).filter({ hasText: name }).first();

/** A command by its name, as one types it. */
export async function command(page: Page, name: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
}

/** Holds a chunk of the app's code back until the answered function is called. */
export async function holdCode(page: Page, chunk: string): Promise<() => void> {
  let arrive = () => {};
  const arrived = new Promise<void>((resolve) => {
    arrive = resolve;
  });
  await page.route(new RegExp(`/${chunk}-.*js`), async (route) => {
    await arrived;
    await route.continue();
  });
  return () => arrive();
}

/** Tab until what has the focus bears a name: there is a way to it without a mouse. */
export async function tabTo(page: Page, name: string): Promise<void> {
  for (let i = 0; i < 80; i++) {
    // Who looks where the focus is waits for what opens.
    await expect(page.locator('[role="dialog"][aria-busy="true"]')).toHaveCount(0);
    const at = await page.evaluate(() => {
      const { activeElement: here } = document;
      const label = here instanceof HTMLInputElement ? here.labels?.[0]?.textContent : undefined;
      return here?.getAttribute('aria-label') ?? label ?? here?.textContent ?? '';
    });
    if (at.trim() === name) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`no way to ${name} by Tab`);
}
