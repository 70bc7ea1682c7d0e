import { type ChildProcess, fork } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RECEIPT_NAME, type Receipt, readReceipt } from '@tolvik/core';
import { connect } from '../src/db/database';
import { client, icon, ownDatabase, startOnOwnDatabase, until } from './running';

/** Hand-overs are rows: whatever becomes of the servers, what was ordered arrives, once. */
let root: string;
beforeAll(() => {
  root = mkdtempSync(join(tmpdir(), 'tolvik-hand-overs-'));
});
afterAll(() => rmSync(root, { recursive: true, force: true }));
let count = 0;
const place = () => {
  const at = join(root, `root-${++count}`);
  mkdirSync(at);
  return at;
};

/** An intake that holds every file until it is let go on; each is remembered. */
async function heldIntake() {
  const taken: string[] = [];
  const waiting: (() => void)[] = [];
  let holds = true;
  const server: Server = createServer((request, response) => {
    request.resume().on('end', () => {
      const take = () => {
        taken.push(request.url ?? '');
        response.writeHead(201).end();
      };
      if (holds) waiting.push(take);
      else take();
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    taken,
    waiting,
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/in`,
    letGo() {
      holds = false;
      for (const each of waiting.splice(0)) each();
    },
    close: () => server.closeAllConnections(),
  };
}

/** A server in a process of its own, so that it can be killed. */
async function forked(databaseUrl: string, env: Record<string, string>): Promise<{ child: ChildProcess; url: string }> {
  const child = fork(join(__dirname, '../../../dist/server.mjs'), [], {
    env: { ...process.env, PORT: '0', DATABASE_URL: databaseUrl, TOLVIK_LOG: 'silent', TOLVIK_WORKERS: '1', ...env },
    silent: true,
    execArgv: [],
  });
  const port = await new Promise<number>((resolve, reject) => {
    child.once('message', (message) => resolve((message as { port: number }).port));
    child.once('exit', (code) => reject(new Error(`it ended with ${code}`)));
  });
  return { child, url: `http://127.0.0.1:${port}` };
}
const gone = (child: ChildProcess, signal: NodeJS.Signals) =>
  new Promise((resolve) => {
    child.once('exit', resolve);
    child.kill(signal);
  });

type Api = ReturnType<typeof client>;
const icons = (n: number) =>
  Object.fromEntries(Array.from({ length: n }, (_, i) => [`i${i}.svg`, icon(`<circle r="${i + 1}"/>`)]));
async function projectOf(api: Api, n: number): Promise<string> {
  const id = await api.project('Harbour');
  await api.bringIn(id, icons(n));
  return id;
}
const receiversOf = async (api: Api, id: string) => (await api.get(`/projects/${id}/receivers`)).body.receivers;
const receiptAt = (at: string): Receipt | null =>
  existsSync(join(at, RECEIPT_NAME)) ? readReceipt(readFileSync(join(at, RECEIPT_NAME), 'utf8')) : null;
/** Whether a folder holds what its receipt says, byte for byte. */
function isWhole(at: string, files: number): boolean {
  const receipt = receiptAt(at);
  if (receipt?.files.length !== files) return false;
  return receipt.files.every(
    ({ path, sha256 }) =>
      createHash('sha256')
        .update(readFileSync(join(at, path)))
        .digest('hex') === sha256,
  );
}

test.each(['SIGTERM', 'SIGKILL'] as const)(
  'a server ended by %s in the middle of hand-overs: the next one goes on, and nothing is lost',
  async (signal) => {
    const at = place();
    const intake = await heldIntake();
    const env = { TOLVIK_FOLDERS: at, TOLVIK_INTAKES: intake.address };
    const databaseUrl = await ownDatabase();
    const first = await forked(databaseUrl, env);
    const api = client(first.url);
    const id = await projectOf(api, 30);
    await api.post(`/projects/${id}/receivers`, { name: 'Intake', address: intake.address });
    await api.post(`/projects/${id}/receivers`, { name: 'Build', root: at, folder: 'build' });
    const delivery = (await api.post(`/projects/${id}/deliveries`)).body.id;
    // It is in the middle of sending: some wait to be taken.
    await until('files on their way', () => intake.waiting.length > 0);
    await gone(first.child, signal);
    intake.letGo();
    const second = await forked(databaseUrl, env);
    const there = client(second.url);
    await until('all of it', async () => {
      const all = await receiversOf(there, id);
      // Trouble would stay: it is told at once.
      for (const { trouble } of all) expect(trouble).toBeNull();
      return all.every(
        (each: { standing: { delivery: { id: string } } | null; onItsWay: unknown }) =>
          each.standing?.delivery.id === delivery && each.onItsWay === null,
      );
    });
    expect(new Set(intake.taken).size).toBe(90);
    expect(isWhole(join(at, 'build'), 90)).toBe(true);
    await gone(second.child, 'SIGKILL');
    intake.close();
  },
);

test('two servers that both follow a project make one delivery of an edit', async () => {
  const at = place();
  const one = await startOnOwnDatabase({ TOLVIK_FOLDERS: at });
  const other = await startOnOwnDatabase({ TOLVIK_FOLDERS: at, DATABASE_URL: one.databaseUrl });
  const api = client(one.url);
  const id = await projectOf(api, 3);
  const made = await api.post(`/projects/${id}/receivers`, { name: 'Follows', root: at, folder: 'follows' });
  await api.patch(`/receivers/${made.body.id}`, { follows: true });
  const numbers = new Set<number>();
  const handedOver = async (version: number) => {
    const { deliveries } = (await api.get(`/projects/${id}/deliveries`)).body;
    for (const each of deliveries) numbers.add(each.number);
    const [receiver] = await receiversOf(client(other.url), id);
    return (
      deliveries[0]?.version === version &&
      receiver.standing?.delivery.id === deliveries[0].id &&
      receiver.onItsWay === null
    );
  };
  const version = async () => (await api.get(`/projects/${id}/records`)).body.version;
  await until('the first', async () => handedOver(await version()));
  for (let edit = 0; edit < 3; edit++) {
    const layer = (await api.records(id)).find((record) => record.kind === 'layer' && record.tag === 'circle');
    await api.edit(id, { puts: [{ ...(layer as object), attrs: { r: String(edit + 9) } } as never] });
    await until('the edit', async () => handedOver(await version()));
  }
  const db = connect(one.databaseUrl, () => {});
  const { rows } = await db.query('SELECT last_delivery_number AS n FROM projects');
  await db.end();
  // Numbers are given once, also to a delivery that another took the place of.
  expect(rows[0].n).toBe(4);
  await one.close();
  await other.close();
});

test('it is seen and stopped from any window, whichever server has it', async () => {
  const intake = await heldIntake();
  const one = await startOnOwnDatabase({ TOLVIK_INTAKES: intake.address });
  const other = await startOnOwnDatabase({ DATABASE_URL: one.databaseUrl });
  const [api, there] = [client(one.url), client(other.url)];
  const id = await projectOf(api, 5);
  const { body } = await api.post(`/projects/${id}/receivers`, { name: 'Slow', address: intake.address });
  await api.post(`/projects/${id}/deliveries`);
  await until('files on their way', () => intake.waiting.length > 0);
  await until('how far it is', async () => (await receiversOf(there, id))[0].onItsWay?.of === 15);
  const stopped = await there.post(`/receivers/${body.id}/stop`);
  expect(stopped.body).toMatchObject({ trouble: 'it was stopped', onItsWay: null });
  intake.letGo();
  expect((await api.post(`/receivers/${body.id}/write`)).body).toMatchObject({ trouble: null, onItsWay: null });
  expect(new Set(intake.taken).size).toBe(15);
  await one.close();
  await other.close();
  intake.close();
});

test('a stop that was asked of a server that is gone is carried out by the next, and what comes after it arrives', async () => {
  const intake = await heldIntake();
  const databaseUrl = await ownDatabase();
  const env = { TOLVIK_INTAKES: intake.address };
  const first = await forked(databaseUrl, env);
  const api = client(first.url);
  const id = await projectOf(api, 2);
  const { body } = await api.post(`/projects/${id}/receivers`, { name: 'Slow', address: intake.address });
  await api.post(`/projects/${id}/deliveries`);
  await until('files on their way', () => intake.waiting.length > 0);
  // It stands still and hears of nothing; then it is gone.
  first.child.kill('SIGSTOP');
  const second = await startOnOwnDatabase({ ...env, DATABASE_URL: databaseUrl });
  const there = client(second.url);
  await there.post(`/receivers/${body.id}/stop`);
  await gone(first.child, 'SIGKILL');
  await until('its end', async () => (await receiversOf(there, id))[0].onItsWay === null);
  expect((await receiversOf(there, id))[0].trouble).toBe('it was stopped');
  intake.letGo();
  expect((await there.post(`/receivers/${body.id}/write`)).body).toMatchObject({ trouble: null, onItsWay: null });
  expect(new Set(intake.taken).size).toBe(6);
  await second.close();
  intake.close();
});

test('a zip on its way is stopped, too', async () => {
  const intake = await heldIntake();
  const own = await startOnOwnDatabase({ TOLVIK_INTAKES: intake.address });
  const api = client(own.url);
  const id = await projectOf(api, 3);
  const { body } = await api.post(`/projects/${id}/receivers`, { name: 'Zip', address: intake.address });
  await api.patch(`/receivers/${body.id}`, { asZip: true });
  await api.post(`/projects/${id}/deliveries`);
  await until('the zip', () => intake.waiting.length === 1);
  expect((await api.post(`/receivers/${body.id}/stop`)).body).toMatchObject({
    trouble: 'it was stopped',
    onItsWay: null,
  });
  await own.close();
  intake.close();
});

test('a server takes what it may write; where none may, it is said', async () => {
  const [here, there] = [place(), place()];
  const web = await startOnOwnDatabase({ TOLVIK_FOLDERS: `${here};${there}`, TOLVIK_ROLE: 'web' });
  const api = client(web.url);
  const id = await projectOf(api, 2);
  await api.post(`/projects/${id}/receivers`, { name: 'Here', root: here, folder: '' });
  await api.post(`/projects/${id}/receivers`, { name: 'There', root: there, folder: '' });
  await web.close();
  // Now one server has the one folder, and another the other.
  const one = await startOnOwnDatabase({ DATABASE_URL: web.databaseUrl, TOLVIK_FOLDERS: here });
  const worker = await forked(web.databaseUrl, { TOLVIK_FOLDERS: there, TOLVIK_ROLE: 'worker' });
  const now = client(one.url);
  await now.post(`/projects/${id}/deliveries`);
  await until('both', () => isWhole(here, 6) && isWhole(there, 6));
  await gone(worker.child, 'SIGTERM');
  await until('that nobody else is there', async () => {
    const db = connect(web.databaseUrl, () => {});
    const { rows } = await db.query(
      'SELECT count(*)::int AS n FROM workers WHERE folders IS NOT NULL AND beat_at > now() - make_interval(secs => 8)',
    );
    await db.end();
    return rows[0].n === 1;
  });
  await now.edit(id, {
    puts: [
      { ...((await now.records(id)).find(({ kind }) => kind === 'artboard') as object), name: 'renamed' } as never,
    ],
  });
  await now.post(`/projects/${id}/deliveries`);
  await until('its trouble', async () => (await receiversOf(now, id))[1].trouble !== null);
  const [ours, theirs] = await receiversOf(now, id);
  expect(ours.trouble).toBeNull();
  expect(theirs.trouble).toMatch(/none of those this server may write to/);
  await one.close();
});

test('one more receiver than there may be is refused, also when many are made at once', async () => {
  const at = place();
  const own = await startOnOwnDatabase({ TOLVIK_FOLDERS: at });
  const api = client(own.url);
  const id = await api.project();
  const answers = await Promise.all(
    Array.from({ length: 60 }, (_, i) =>
      api.post(`/projects/${id}/receivers`, { name: `R${i}`, root: at, folder: `f${i}` }),
    ),
  );
  expect(answers.filter(({ status }) => status === 201)).toHaveLength(50);
  expect(answers.filter(({ body }) => body.code === 'receiver.many')).toHaveLength(10);
  await own.close();
});

test('a delivery that is on its way to somebody is not deleted under them', async () => {
  const intake = await heldIntake();
  const own = await startOnOwnDatabase({ TOLVIK_INTAKES: intake.address });
  const api = client(own.url);
  const id = await projectOf(api, 2);
  await api.post(`/projects/${id}/receivers`, { name: 'Slow', address: intake.address });
  const { body } = await api.post(`/projects/${id}/deliveries`);
  await until('files on their way', () => intake.waiting.length > 0);
  expect((await api.delete(`/deliveries/${body.id}`)).body.code).toBe('delivery.onItsWay');
  intake.letGo();
  await until('its end', async () => (await receiversOf(api, id))[0].onItsWay === null);
  expect((await api.delete(`/deliveries/${body.id}`)).status).toBe(204);
  await own.close();
  intake.close();
});
