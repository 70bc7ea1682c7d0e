import 'fake-indexeddb/auto';
import {
  type Acceptance,
  type Artboard,
  acceptanceRecord,
  type Layer,
  layerRecord,
  newId,
  type ProjectRecord,
} from '@tolvik/core';
import { EventSource } from 'eventsource';
import fc from 'fast-check';
import { get } from 'idb-keyval';
import { runs } from '../../core/test/properties';
import { client, icon, startOnOwnDatabase } from '../../server/test/running';
import type { OneAtATime } from '../src/project/session/one-at-a-time';
import { Session } from '../src/project/session/session';

/**
 * Many windows over one project, doing anything in any order, with a network that fails. However it went: in the end
 * all hold what the database holds, and what a window was told is saved is there.
 */
let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
const realFetch = globalThis.fetch;
/** How the network is now: whether requests get there, and whether answers come back. */
let network: 'well' | 'away' | 'answers lost' = 'well';

beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
  globalThis.fetch = (async (path: string, init?: RequestInit) => {
    if (!String(path).startsWith('/')) return realFetch(path, init);
    if (network === 'away') throw new TypeError('gone');
    const response = await realFetch(`${server.url}${path}`, init);
    if (network === 'answers lost') throw new TypeError('gone');
    return response;
  }) as typeof fetch;
  (globalThis as { EventSource?: unknown }).EventSource = class extends EventSource {
    constructor(path: string) {
      super(`${server.url}${path}`);
    }
  };
});
afterAll(async () => {
  globalThis.fetch = realFetch;
  await server.close();
});

const WINDOWS = 3;
const STEPS = [
  'rename',
  'paint',
  'add',
  'remove',
  'group',
  'into a group',
  'own',
  'undo',
  'redo',
  'reload',
  'network',
  'look',
  'wait',
  'shared',
  'close',
  'reopen',
] as const;
type Step = { window: number; what: (typeof STEPS)[number]; pick: number };
const steps = fc.array(
  fc.record({ window: fc.nat({ max: WINDOWS - 1 }), what: fc.constantFrom(...STEPS), pick: fc.nat({ max: 1000 }) }),
  { minLength: 15, maxLength: 60 },
);

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const sorted = (records: Iterable<ProjectRecord>) =>
  Object.fromEntries(
    [...records].map((record) => [record.id, record]).sort(([a], [b]) => ((a as string) < (b as string) ? -1 : 1)),
  );

async function opened(id: string, refused: () => void): Promise<Session> {
  for (;;) {
    const session = new Session(id);
    // A burst is refused as a whole; that is said, and a copy kept.
    session.onNotice = (words) => words.startsWith('Not saved') && refused();
    try {
      await session.open();
      return session;
    } catch {
      session.close();
      await pause(50);
    }
  }
}

function change(session: Session, own: string, { what, pick }: Step, field: string): void {
  const { doc } = session;
  const boards = doc.list('artboard') as Artboard[];
  const layers = ([...doc.each('layer')] as Layer[]).filter(({ id }) => id !== SHARED);
  const groups = layers.filter((layer) => layer.tag === 'g');
  const board = boards[pick % Math.max(1, boards.length)];
  const layer = layers[pick % Math.max(1, layers.length)];
  const put = (label: string, ...puts: ProjectRecord[]) => session.commit({ label, puts, removes: [] });
  switch (what) {
    case 'rename':
      return board && put('rename', { ...board, name: `name-${pick}` });
    case 'paint':
      return (
        layer &&
        put('paint', {
          ...layer,
          attrs: { ...layer.attrs, [pick % 2 ? 'fill' : 'stroke']: `#${String(100000 + pick)}` },
        })
      );
    case 'add':
      return put(
        'add',
        layerRecord.parse({
          id: newId(),
          kind: 'layer',
          parentId: groups[pick % Math.max(1, groups.length)]?.id ?? 'root',
          order: `a${pick}1`,
          tag: 'rect',
          attrs: { width: '4', height: '4' },
        }),
      );
    case 'remove':
      return layer && session.commit({ label: 'remove', puts: [], removes: doc.descendants(layer.id) });
    case 'group':
      return put(
        'group',
        layerRecord.parse({
          id: newId(),
          kind: 'layer',
          parentId: 'root',
          order: `b0${pick % 9}1`,
          tag: 'g',
          name: 'group',
        }),
      );
    case 'into a group': {
      const group = groups[pick % Math.max(1, groups.length)];
      if (layer && group && !doc.descendants(layer.id).includes(group.id))
        put('move', { ...layer, parentId: group.id });
      return;
    }
    case 'own':
      return put(
        'own',
        acceptanceRecord.parse({
          id: own,
          kind: 'acceptance',
          check: 'x',
          pieceId: 'x',
          message: 'x',
          reason: `note ${pick}`,
        }),
      );
    case 'shared': {
      const shared = doc.find('layer', SHARED);
      return shared && put('shared', { ...shared, attrs: { ...shared.attrs, [field]: String(pick + 2) } });
    }
    case 'undo':
      return session.undo();
    case 'redo':
      return session.redo();
  }
}

/** A drawing that all windows work on, each at a field of its own: nobody else's is ever touched. */
const SHARED = 'shared';
const FIELDS = ['x', 'y', 'width'] as const;
const sharedIn = (records: Iterable<ProjectRecord>) =>
  ([...records].find(({ id }) => id === SHARED) as Layer | undefined)?.attrs ?? {};

/** Closes a window; what it had not sent is anybody's from then on, as with the locks of a browser. */
async function closed(session: Session): Promise<void> {
  const { key, writing } = (session as unknown as { store: { key: string; writing: OneAtATime } }).store;
  session.close();
  await writing.ask();
  for (;;) {
    const kept = await get<{ at: number }>(key);
    if (!kept || kept.at === 0) return;
    await pause(5);
  }
}

async function play(list: readonly Step[]): Promise<void> {
  network = 'well';
  const id = await api.project();
  await api.bringIn(id, { 'anchor.svg': icon('<g><path d="M4 4h9v9z"/></g>'), 'boat.svg': icon() });
  const drawn = { id: SHARED, kind: 'layer', parentId: 'root', order: 'Zz', tag: 'rect', locked: true };
  await api.edit(id, { puts: [layerRecord.parse({ ...drawn, attrs: { x: '0', y: '0', width: '1', height: '1' } })] });
  /** What each window last made of its own field; where something was refused, only that all end alike counts. */
  const meant: Record<string, string | undefined> = { x: '0', y: '0', width: '1' };
  let refusals = 0;
  const refused = () => void refusals++;
  const windows: (Session | null)[] = await Promise.all(Array.from({ length: WINDOWS }, () => opened(id, refused)));
  const reopen = async (window: number) => {
    const session = await opened(id, refused);
    windows[window] = session;
    // What closed windows left is sent by this one before anybody goes on.
    while (!session.settled) await pause(20);
  };
  const own = windows.map((_, i) => `own${i}`);
  try {
    for (const step of list) {
      const { window, what, pick } = step;
      const session = windows[window];
      if (what === 'reopen') {
        if (!session && network === 'well') await reopen(window);
        continue;
      }
      if (!session && what !== 'wait' && what !== 'network') continue;
      if (what === 'close') {
        if (session) await closed(session);
        windows[window] = null;
        continue;
      }
      if (what === 'wait') await pause(pick % 150);
      else if (what === 'network') network = pick % 3 === 0 ? 'away' : pick % 3 === 1 ? 'answers lost' : 'well';
      else if (!session) continue;
      else if (what === 'reload') {
        if (network !== 'well') continue;
        await closed(session);
        await reopen(window);
      } else if (what === 'look') {
        if (network !== 'well' || session.saved.kind !== 'saved') continue;
        // What it says is saved, is there: nobody else touches this window's own note.
        const there = (await api.records(id)).find((record) => record.id === own[window]);
        if (session.saved.kind === 'saved')
          expect((there as Acceptance | undefined)?.reason).toEqual(
            (session.doc.get(own[window]) as Acceptance | undefined)?.reason,
          );
      } else {
        const field = FIELDS[window];
        const before = sharedIn(session.doc.all())[field];
        change(session, own[window], step, field);
        const after = sharedIn(session.doc.all())[field];
        if (after !== before) meant[field] = after;
      }
      if (pick % 5 === 0) await pause(pick % 40);
    }
    network = 'well';
    for (const [window, session] of windows.entries()) if (!session) await reopen(window);
    for (const session of windows) while (!session?.settled) await pause(20);
    const { version, records } = (await api.get(`/projects/${id}/records`)).body as {
      version: number;
      records: ProjectRecord[];
    };
    for (const session of windows) {
      if (!session) continue;
      while (session.version < version) await session.pull();
      expect(sorted(session.doc.all())).toEqual(sorted(records));
    }
    if (refusals === 0)
      for (const field of FIELDS) expect([field, sharedIn(records)[field]]).toEqual([field, meant[field]]);
  } finally {
    network = 'well';
    for (const session of windows) session?.close();
  }
}

test(
  'windows over one project end alike, and nothing that was saved is lost',
  () => fc.assert(fc.asyncProperty(steps, play), { ...runs(6), endOnFailure: true }),
  1_200_000,
);
