import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { asEdit, type Change, DEFS, ProjectDocument, type ProjectRecord, ROOT } from '@tolvik/core';
import pg from 'pg';
import { type Running, readConfig, startServer } from '../src';

process.env.TOLVIK_LOG ??= 'silent';
const DIST = join(__dirname, '../../../dist');

/** The address of a new database in the tests' PostgreSQL, which no other test knows. */
export async function ownDatabase(): Promise<string> {
  const admin = new URL(process.env.TEST_DATABASE_URL ?? '');
  const name = `t_${randomBytes(6).toString('hex')}`;
  const client = new pg.Client({ connectionString: admin.href });
  await client.connect();
  await client.query(`CREATE DATABASE ${name}`);
  await client.end();
  admin.pathname = `/${name}`;
  return admin.href;
}

/** A server on a database of its own in the tests' PostgreSQL. */
export async function startOnOwnDatabase(
  env: Record<string, string> = {},
): Promise<{ running: Running; url: string; databaseUrl: string; close(): Promise<void> }> {
  const databaseUrl = await ownDatabase();
  const running = await startServer(
    readConfig({ PORT: '0', DATABASE_URL: databaseUrl, TOLVIK_DIST: DIST, TOLVIK_WORKERS: '2', ...env }),
    __filename,
  );
  return { running, url: `http://127.0.0.1:${running.port}`, databaseUrl, close: () => running.close() };
}

// biome-ignore lint/suspicious/noExplicitAny: answers are looked into freely in tests
type Json = any;

/** Once something is so; waits as long as a slow machine may take. */
export async function until(what: string, isSo: () => Promise<boolean> | boolean): Promise<void> {
  for (let tries = 0; tries < 4000; tries++) {
    if (await isSo()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error(`never came: ${what}`);
}

export type Answer = { status: number; body: Json; headers: Headers };

/** A client of the API for tests. */
export function client(url: string) {
  const call = async (
    method: string,
    path: string,
    json?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer> => {
    const response = await fetch(`${url}/api${path}`, {
      method,
      headers: json === undefined ? headers : { 'content-type': 'application/json', ...headers },
      body: json === undefined ? undefined : JSON.stringify(json),
    });
    const text = await response.text();
    let body: unknown = text;
    try {
      body = JSON.parse(text);
    } catch {
      // Bytes stay text here; `bytes` is for those.
    }
    return { status: response.status, body, headers: response.headers };
  };
  return {
    get: (path: string, headers?: Record<string, string>) => call('GET', path, undefined, headers),
    post: (path: string, json: unknown = {}, headers?: Record<string, string>) => call('POST', path, json, headers),
    patch: (path: string, json: unknown) => call('PATCH', path, json),
    delete: (path: string) => call('DELETE', path),
    bytes: async (path: string) => Buffer.from(await (await fetch(`${url}/api${path}`)).arrayBuffer()),
    async project(name = 'Test'): Promise<string> {
      return (await call('POST', '/projects', { name })).body.id;
    },
    async bringIn(id: string, files: Record<string, string | Uint8Array>): Promise<Answer> {
      const form = new FormData();
      for (const [name, content] of Object.entries(files)) form.append('files', new File([content as string], name));
      const response = await fetch(`${url}/api/projects/${id}/bring-in`, { method: 'POST', body: form });
      return { status: response.status, body: await response.json(), headers: response.headers };
    },
    async edit(id: string, change: Partial<Change>, baseVersion?: number): Promise<Answer> {
      const version = baseVersion ?? (await call('GET', `/projects/${id}/records`)).body.version;
      return call(
        'POST',
        `/projects/${id}/edits`,
        asEdit({ label: 'test', puts: [], removes: [], ...change }, version),
      );
    },
    /** In the order of the document, layers as they lie in its tree: the database gives them in any. */
    async records(id: string): Promise<ProjectRecord[]> {
      const { records } = (await call('GET', `/projects/${id}/records`)).body as { records: ProjectRecord[] };
      const doc = new ProjectDocument(records);
      const inTree = new Map([DEFS, ROOT].flatMap((top) => doc.descendants(top)).map((layer, i) => [layer, i]));
      const orderOf = (record?: ProjectRecord) => (record && 'order' in record ? record.order : '');
      const place = (record: ProjectRecord): string => {
        // Outputs stand in the order of their spec, editions in that of their artboard.
        const owner = 'specId' in record ? record.specId : 'artboardId' in record ? record.artboardId : null;
        return [orderOf(owner === null ? undefined : doc.get(owner)), orderOf(record), record.id].join(' ');
      };
      return records.sort(
        (a, b) => (inTree.get(a.id) ?? -1) - (inTree.get(b.id) ?? -1) || (place(a) < place(b) ? -1 : 1),
      );
    },
    /** Waits until a delivery is no longer running. */
    async settled(deliveryId: string): Promise<Json> {
      for (let tries = 0; tries < 4000; tries++) {
        const { body } = await call('GET', `/deliveries/${deliveryId}`);
        if (body.state !== 'running') return body;
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      throw new Error('the delivery does not end');
    },
  };
}

export const icon = (inner = '<path d="M4 4h16v16H4z"/>', side = 24) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="0 0 24 24">${inner}</svg>`;
