import 'fake-indexeddb/auto';
import type { Artboard } from '@tolvik/core';
import { EventSource } from 'eventsource';
import { get, keys } from 'idb-keyval';
import { client, icon, startOnOwnDatabase } from '../../server/test/running';
import { mergeRecord } from '../src/project/session/merge';
import { Session } from '../src/project/session/session';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
const realFetch = globalThis.fetch;
/** While set, edits do not reach the server. */
let cut = false;
/** Edits that were sent, whether they got there or not. */
let triedEdits = 0;
/** Versions that the server told windows of, in the order in which they heard. */
const versionsHeard: unknown[] = [];
/** While set, called with what changed as the server answered it, before the window has it: it may hold it back. */
let onAnswer: ((path: string) => Promise<void>) | null = null;
/** While set, edits get there, and their answers do not come back. */
let unheard = false;

beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
  // In a browser these go to the page's own server.
  globalThis.fetch = (async (path: string, init?: RequestInit) => {
    const isEdit = String(path).endsWith('/edits');
    if (isEdit) triedEdits++;
    if (cut && isEdit) throw new TypeError('gone');
    const response = await realFetch(String(path).startsWith('/') ? `${server.url}${path}` : path, init);
    if (unheard && isEdit && String(path).startsWith('/')) throw new TypeError('gone');
    if (onAnswer && String(path).includes('/records?since=')) await onAnswer(String(path));
    return response;
  }) as typeof fetch;
  (globalThis as { EventSource?: unknown }).EventSource = class extends EventSource {
    constructor(path: string) {
      super(`${server.url}${path}`);
      // Heard here right before the window hears it.
      this.addEventListener('message', ({ data }) => versionsHeard.push(JSON.parse(data).version));
    }
  };
});
afterAll(async () => {
  globalThis.fetch = realFetch;
  await server.close();
});

const open: Session[] = [];
afterEach(() => {
  for (const session of open.splice(0)) session.close();
  cut = false;
  unheard = false;
  onAnswer = null;
});

async function sessionOn(id: string): Promise<Session> {
  const session = new Session(id);
  open.push(session);
  await session.open();
  return session;
}

const until = async (what: () => boolean | Promise<boolean>, ms = 120_000) => {
  const end = Date.now() + ms;
  while (!(await what())) {
    if (Date.now() > end) throw new Error('it did not come');
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
};

async function project(): Promise<string> {
  const id = await api.project();
  await realFetch(`${server.url}/api/health`);
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon() });
  return id;
}

const board = (session: Session, name: string): Artboard => {
  const found = session.doc.list('artboard').find((artboard) => artboard.name === name);
  if (!found) throw new Error(`no ${name}`);
  return found;
};
const change = (session: Session, name: string, fields: Partial<Artboard>) =>
  session.commit({ label: `change ${name}`, puts: [{ ...board(session, name), ...fields }], removes: [] });
const isSaved = (session: Session) => session.saved.kind === 'saved' && session.saved.at !== null;

test('an edit is here at once, and on the server when it says so', async () => {
  const session = await sessionOn(await project());
  change(session, 'anchor', { width: 40 });
  expect(board(session, 'anchor').width).toBe(40);
  expect(session.saved.kind).toBe('saving');
  await until(() => isSaved(session));
  expect(
    (await api.records(session.id)).find((record) => record.kind === 'artboard' && record.name === 'anchor'),
  ).toMatchObject({ width: 40 });
});

test('what is still being worked out is not saved, and an export waits for it; work that fails holds nothing', async () => {
  const session = await sessionOn(await project());
  let goOn = () => {};
  const ready = new Promise<void>((resolve) => {
    goOn = resolve;
  });
  const work = session.comesOf(async () => {
    await ready;
    change(session, 'anchor', { width: 41 });
  });
  expect(session.saved.kind).toBe('saving');
  let told: boolean | null = null;
  const saved = session.whenSaved().then((all) => {
    told = all;
  });
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(told).toBeNull();
  goOn();
  await Promise.all([work, saved]);
  expect(told).toBe(true);
  expect(
    (await api.records(session.id)).find((record) => record.kind === 'artboard' && record.name === 'anchor'),
  ).toMatchObject({ width: 41 });
  await expect(session.comesOf(() => Promise.reject(new Error('no code came')))).rejects.toThrow('no code came');
  expect([session.saved.kind, await session.whenSaved()]).toEqual(['saved', true]);
});

test('hundreds of steps are undone and done again, each named', async () => {
  const session = await sessionOn(await project());
  const before = JSON.stringify(board(session, 'boat'));
  for (let i = 1; i <= 520; i++) change(session, 'boat', { width: 24 + i });
  expect(session.undoLabel).toBe('change boat');
  for (let i = 0; i < 520; i++) session.undo();
  expect(JSON.stringify(board(session, 'boat'))).toBe(before);
  expect(session.undoLabel).toBeNull();
  for (let i = 0; i < 520; i++) session.redo();
  expect(board(session, 'boat').width).toBe(544);
  await until(() => isSaved(session), 90_000);
}, 300_000);

test('changes that say that they join are undone as one, and only those one after the other', async () => {
  const session = await sessionOn(await project());
  const { width } = board(session, 'anchor');
  const to = (next: number, joins?: string) =>
    session.commit({ label: 'wider', puts: [{ ...board(session, 'anchor'), width: next }], removes: [] }, joins);
  for (const next of [30, 31, 32]) to(next, 'one');
  to(33, 'other');
  to(34);
  to(35, 'one');
  const widths = [];
  for (let i = 0; i < 4; i++) {
    session.undo();
    widths.push(board(session, 'anchor').width);
  }
  expect(widths).toEqual([34, 33, 32, width]);
  expect(session.undoLabel).toBeNull();
  session.redo();
  expect(board(session, 'anchor').width).toBe(32);
});

test('two windows: each sees the other without asking', async () => {
  const id = await project();
  const [one, other] = [await sessionOn(id), await sessionOn(id)];
  change(one, 'anchor', { name: 'kedge' });
  await until(() => other.doc.list('artboard').some((artboard) => artboard.name === 'kedge'));
  expect(board(other, 'kedge').id).toBe(board(one, 'kedge').id);
});

test('what happens while an older answer is on its way is seen, too', async () => {
  const id = await project();
  const window = await sessionOn(id);
  // The answer about the first edit is held until the second was told of: it is of before the second.
  versionsHeard.length = 0;
  let held = false;
  onAnswer = async () => {
    if (held) return;
    held = true;
    const { version } = window;
    await api.edit(id, { puts: [{ ...board(window, 'boat'), height: 51 }] });
    await until(() => versionsHeard.includes(version + 2));
  };
  await api.edit(id, { puts: [{ ...board(window, 'anchor'), width: 41 }] });
  await until(() => board(window, 'anchor').width === 41);
  await until(() => board(window, 'boat').height === 51, 20_000);
});

test('what was told and could not be fetched is fetched later', async () => {
  const window = await sessionOn(await project());
  let failed = 0;
  onAnswer = () => (failed++ === 0 ? Promise.reject(new TypeError('gone')) : Promise.resolve());
  await api.edit(window.id, { puts: [{ ...board(window, 'anchor'), width: 42 }] });
  await until(() => board(window, 'anchor').width === 42, 20_000);
  expect(failed).toBeGreaterThan(1);
});

test('two windows change different fields of one artboard: both stay', async () => {
  const id = await project();
  const [one, other] = [await sessionOn(id), await sessionOn(id)];
  cut = true;
  change(one, 'anchor', { width: 40 });
  change(other, 'anchor', { height: 50 });
  await until(() => one.saved.kind === 'waiting' && other.saved.kind === 'waiting');
  cut = false;
  await until(() => isSaved(one) && isSaved(other), 8000);
  for (const session of [one, other]) {
    await until(() => board(session, 'anchor').width === 40 && board(session, 'anchor').height === 50);
  }
}, 300_000);

test('two windows change the same field: it is said, and one of them stays', async () => {
  const id = await project();
  const [one, other] = [await sessionOn(id), await sessionOn(id)];
  const told: string[] = [];
  for (const session of [one, other]) session.onNotice = (words) => told.push(words);
  cut = true;
  change(one, 'anchor', { width: 40 });
  change(other, 'anchor', { width: 50 });
  await until(() => one.saved.kind === 'waiting' && other.saved.kind === 'waiting');
  cut = false;
  await until(() => isSaved(one) && isSaved(other), 8000);
  await until(() => board(one, 'anchor').width === board(other, 'anchor').width);
  expect(told.join()).toContain('changed elsewhere at the same time (width)');
}, 300_000);

test('what was removed and brought back while another changed it is there in both windows', async () => {
  const id = await project();
  const [one, other] = [await sessionOn(id), await sessionOn(id)];
  change(one, 'anchor', { width: 40 });
  one.commit({ label: 'remove', puts: [], removes: one.doc.descendants(board(one, 'anchor').id) });
  one.undo();
  change(other, 'anchor', { height: 50 });
  // This one gets there first; the other's burst goes on top of it.
  other.leave();
  await until(() => isSaved(one) && isSaved(other), 8000);
  for (const session of [one, other])
    await until(() => board(session, 'anchor')?.width === 40 && board(session, 'anchor')?.height === 50);
}, 300_000);

test('a tab that dies with edits unsent: the next one sends them, once', async () => {
  const id = await project();
  const dying = await sessionOn(id);
  cut = true;
  change(dying, 'boat', { width: 36 });
  await until(() => dying.saved.kind === 'waiting');
  dying.close();
  cut = false;
  const next = await sessionOn(id);
  expect(board(next, 'boat').width).toBe(36);
  await until(() => isSaved(next));
  expect((await api.get(`/projects/${id}/records`)).body.version).toBe(2);
});

/** Whether the browser keeps an edit of a project that is not saved yet and holds some text. */
async function hasKept(id: string, text: string): Promise<boolean> {
  for (const key of await keys<string>())
    if (key.startsWith(`pending ${id}`) && JSON.stringify(await get(key)).includes(text)) return true;
  return false;
}

/** An artboard by its name, as the server has it. */
const boardOn = async (id: string, name: string): Promise<Artboard> =>
  (await api.records(id)).find((record) => record.kind === 'artboard' && record.name === name) as Artboard;

test('edits that a closed window left go on top of what others did since: fields of others stay', async () => {
  const id = await project();
  const anchor = await boardOn(id, 'anchor');
  const dying = await sessionOn(id);
  cut = true;
  dying.commit({ label: 'rename', puts: [{ ...anchor, name: 'kedge' }], removes: [] });
  dying.commit({ label: 'widen', puts: [{ ...anchor, name: 'kedge', width: 40 }], removes: [] });
  await until(() => hasKept(id, '"width":40'));
  dying.close();
  cut = false;
  // Meanwhile somebody else works on the same artboard.
  await api.edit(id, { puts: [{ ...anchor, background: '#d2452a', height: 31 }] });
  const next = await sessionOn(id);
  await until(() => next.settled && next.saved.kind === 'saved');
  expect(await boardOn(id, 'kedge')).toMatchObject({ width: 40, height: 31, background: '#d2452a' });
  expect(next.doc.find('artboard', anchor.id)).toMatchObject({ name: 'kedge', width: 40, height: 31 });
});

test('an edit that got there, but whose answer nobody heard, is not done again on top of what others did since', async () => {
  const id = await project();
  const anchor = await boardOn(id, 'anchor');
  const dying = await sessionOn(id);
  unheard = true;
  dying.commit({ label: 'rename', puts: [{ ...anchor, name: 'kedge' }], removes: [] });
  await until(async () => (await boardOn(id, 'kedge')) !== undefined);
  dying.close();
  unheard = false;
  await api.edit(id, { puts: [{ ...anchor, name: 'grapnel' }] });
  const next = await sessionOn(id);
  next.commit({
    label: 'widen',
    puts: [{ ...(next.doc.find('artboard', anchor.id) as Artboard), width: 40 }],
    removes: [],
  });
  await until(() => next.settled && next.saved.kind === 'saved');
  expect(await boardOn(id, 'grapnel')).toMatchObject({ width: 40 });
});

test('after a refusal what waits goes on top of what the server has: fields of others stay', async () => {
  const id = await project();
  const anchor = await boardOn(id, 'anchor');
  const session = await sessionOn(id);
  const other = await sessionOn(id);
  cut = true;
  const before = triedEdits;
  // The server does not take the first; the second waits behind it.
  session.commit({ label: 'nonsense', puts: [{ ...anchor, id: 'nonsense', width: -5 }], removes: [] });
  await until(() => triedEdits > before);
  session.commit({ label: 'widen', puts: [{ ...anchor, width: 40 }], removes: [] });
  cut = false;
  other.commit({ label: 'heighten', puts: [{ ...anchor, height: 31 }], removes: [] });
  await until(() => session.settled && other.settled && session.saved.kind !== 'saving');
  await until(async () => (await boardOn(id, 'anchor')).width === 40);
  expect(await boardOn(id, 'anchor')).toMatchObject({ width: 40, height: 31 });
});

test('what the server refuses is told, and what it has is what counts', async () => {
  const session = await sessionOn(await project());
  const told: string[] = [];
  session.onNotice = (words) => told.push(words);
  change(session, 'boat', { width: -5 });
  await until(() => session.saved.kind === 'refused');
  // A copy of it is kept first, then it is told.
  await until(() => told.join().includes('Not saved'));
  expect(board(session, 'boat').width).toBe(24);
  expect(session.undoLabel).toBeNull();
});

test('an export waits for edits on their way, and not for ever while the server is away', async () => {
  const session = await sessionOn(await project());
  expect(await session.whenSaved()).toBe(true);
  change(session, 'anchor', { width: 31 });
  expect(session.saved.kind).toBe('saving');
  expect(await session.whenSaved()).toBe(true);
  expect(
    (await api.records(session.id)).find((record) => record.kind === 'artboard' && record.name === 'anchor'),
  ).toMatchObject({ width: 31 });
  cut = true;
  change(session, 'anchor', { width: 32 });
  expect(await session.whenSaved()).toBe(false);
  expect(session.saved.kind).toBe('waiting');
});

describe('merging one record', () => {
  const base = { id: 'a', kind: 'artboard', name: 'a', width: 1, height: 1 } as unknown as Artboard;
  test.each([
    [{ width: 2 }, { height: 3 }, { width: 2, height: 3 }, []],
    [{ width: 2 }, { width: 2 }, { width: 2 }, []],
    [{ width: 2 }, { width: 3 }, { width: 2 }, ['width']],
    [{ name: 'x' }, {}, { name: 'x' }, []],
  ])('mine %j, theirs %j', (mine, theirs, result, both) => {
    const merged = mergeRecord(base, { ...base, ...mine } as Artboard, { ...base, ...theirs } as Artboard);
    expect(merged.record).toMatchObject(result);
    expect(merged.both).toEqual(both);
  });
});

test.each([
  ['its answer', false],
  ['the event that tells of it', true],
])('what the server changed on request is undone as it was when %s comes first', async (_, isTold) => {
  const session = await sessionOn(await project());
  const before = board(session, 'anchor');
  const change = {
    label: 'replace',
    puts: [
      { ...before, width: 40 },
      { ...before, id: 'fresh', name: 'fresh' },
    ],
    removes: [board(session, 'boat').id],
  };
  const { status, body } = await api.edit(session.id, change);
  expect(status).toBe(200);
  if (isTold) await until(() => session.version === body.version);
  await session.takeIn({ version: body.version, change });
  expect(session.undoLabel).toBe('replace');
  expect(board(session, 'anchor').width).toBe(40);
  session.undo();
  expect(board(session, 'anchor')).toEqual(before);
  expect(board(session, 'boat')).toBeDefined();
  expect(session.doc.get('fresh')).toBeUndefined();
});
