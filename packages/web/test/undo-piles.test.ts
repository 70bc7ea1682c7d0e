import 'fake-indexeddb/auto';
import { type Artboard, artboardRecord } from '@tolvik/core';
import { get, keys, set } from 'idb-keyval';
import { stepOf, UndoPiles } from '../src/project/session/undo-piles';
import { inWindow } from './window-locks';

const board = (x: number): Artboard =>
  artboardRecord.parse({ id: 'a', kind: 'artboard', order: 'a0', name: 'a', x, y: 0, width: 9, height: 9 });
const moved = (from: number, to: number) =>
  stepOf({ label: `to ${to}`, puts: [board(to)], removes: [] }, { puts: [board(from)], removes: [] });

const open: UndoPiles[] = [];
async function load(project: string): Promise<UndoPiles> {
  const piles = new UndoPiles(project);
  open.push(piles);
  await piles.load();
  return piles;
}
afterEach(() => {
  for (const piles of open.splice(0)) piles.close();
});
type List = { at: number; undo: string[]; redo: string[] };
/** Until the one list of a project holds so many steps to take back and to do again. */
async function kept(project: string, undo: number, redo = 0): Promise<void> {
  const end = Date.now() + 120_000;
  for (;;) {
    const key = (await keys<string>()).find((each) => each.startsWith(`undo ${project} `));
    const list = key ? await get<List>(key) : undefined;
    if (list?.undo.length === undo && list.redo.length === redo) return;
    if (Date.now() > end) throw new Error(`${project} keeps ${list?.undo.length} and ${list?.redo.length}`);
    await new Promise((resolve) => setTimeout(resolve, 4));
  }
}

test('a window that is loaded anew takes back and does again what it did before', async () => {
  inWindow(new Map());
  const before = await load('one');
  for (let x = 1; x <= 3; x++) before.did(moved(x - 1, x));
  const taken = before.take('undo');
  if (taken) before.tookBack('undo', moved(3, 2));
  await kept('one', 2, 1);
  before.close();
  const after = await load('one');
  expect([after.label('undo'), after.label('redo')]).toEqual(['to 2', 'to 2']);
  expect(after.take('undo')?.did).toEqual([{ id: 'a', before: board(1), after: board(2) }]);
  expect(after.take('undo')?.label).toBe('to 1');
  expect(after.take('undo')).toBeUndefined();
  await kept('one', 0, 1);
  expect((await keys<string>()).filter((key) => key.startsWith('undo-step '))).toHaveLength(1);
});

test('a copy of a window that lives has steps of its own', async () => {
  const store = new Map<string, string>();
  inWindow(store);
  const first = await load('two');
  first.did(moved(0, 1));
  await kept('two', 1);
  inWindow(new Map(store));
  const copy = await load('two');
  expect(copy.label('undo')).toBeNull();
  copy.did(moved(1, 2));
  copy.close();
  first.close();
  inWindow(store);
  expect((await load('two')).label('undo')).toBe('to 1');
});

test('what was done before the steps came lies on top of them', async () => {
  inWindow(new Map());
  const before = await load('three');
  before.did(moved(0, 1));
  await kept('three', 1);
  before.close();
  const piles = new UndoPiles('three');
  open.push(piles);
  const loading = piles.load();
  piles.did(moved(1, 2));
  await loading;
  expect([piles.take('undo')?.label, piles.take('undo')?.label]).toEqual(['to 2', 'to 1']);
});

test('the newest 200 are kept, none below one of too many records, and what is a week old goes', async () => {
  inWindow(new Map());
  const long = await load('four');
  for (let x = 1; x <= 230; x++) long.did(moved(x - 1, x));
  await kept('four', 200);
  long.close();
  const after = await load('four');
  let steps = 0;
  while (after.take('undo')) steps++;
  expect(steps).toBe(200);

  after.did(moved(0, 1));
  const many = Array.from({ length: 60_000 }, (_, i) => ({ ...board(i), id: `b${i}` }));
  after.did(stepOf({ label: 'many', puts: many, removes: [] }, { puts: [], removes: [] }));
  after.did(moved(1, 2));
  await kept('four', 1);
  after.close();
  await set('undo four old', { at: Date.now() - 8 * 24 * 3600_000, undo: ['gone'], redo: [] });
  await set('undo-step gone', moved(0, 1));
  const last = await load('four');
  expect([last.take('undo')?.label, last.take('undo')]).toEqual(['to 2', undefined]);
  expect(await keys()).not.toContain('undo-step gone');
  expect(await keys()).not.toContain('undo four old');
});

test('without locks or a store of its own, nothing is kept, and undo works until the page goes', async () => {
  Object.assign(globalThis, { sessionStorage: undefined });
  const piles = await load('five');
  piles.did(moved(0, 1));
  expect(piles.label('undo')).toBe('to 1');
  piles.prune(() => board(7));
  expect(piles.label('undo')).toBeNull();
  expect((await keys()).some((key) => String(key).startsWith('undo five'))).toBe(false);
});
