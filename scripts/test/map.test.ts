import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const root = join(__dirname, '../..');
type Edges = Map<string, Map<string, number> | Set<string>>;
type Tools = {
  importMap(root: string): Map<string, Set<string>>;
  roomMap(map: Map<string, Set<string>>): Map<string, Map<string, number>>;
  circlesIn(edges: Edges): string[][];
  ranks(edges: Edges): Map<string, number>;
};
let tools: Tools;
beforeAll(async () => {
  tools = (await import('../parts/import-map.mjs')) as unknown as Tools;
});

test('a circle is found where there is one, and only there', () => {
  const edges = (said: Record<string, string[]>) => new Map(Object.entries(said).map(([a, to]) => [a, new Set(to)]));
  expect(tools.circlesIn(edges({ a: ['b'], b: ['c'], c: [] }))).toEqual([]);
  expect(tools.circlesIn(edges({ a: ['b'], b: ['c'], c: ['a'], d: ['a'] }))).toEqual([['a', 'b', 'c']]);
  const ranks = tools.ranks(edges({ a: ['b', 'c'], b: ['c'], c: [] }));
  expect(Object.fromEntries(ranks)).toEqual({ a: 2, b: 1, c: 0 });
});

test('no file imports itself by way of others, and no room does', () => {
  const map = tools.importMap(root);
  expect(map.size).toBeGreaterThan(400);
  expect(map.get('packages/core/src/plan/plan.ts')).toContain('packages/core/src/pieces/pieces.ts');
  expect(tools.circlesIn(map)).toEqual([]);
  expect(tools.circlesIn(tools.roomMap(map))).toEqual([]);
});

test('geometry knows nothing but itself, and the document no artwork, piece or plan', () => {
  const rooms = tools.roomMap(tools.importMap(root));
  expect([...(rooms.get('core/geometry')?.keys() ?? [])]).toEqual([]);
  expect([...(rooms.get('core/document')?.keys() ?? [])].sort()).toEqual([
    'core/basics',
    'core/formats',
    'core/geometry',
    'core/profile',
  ]);
});

test('the picture of the house shows every room there is', () => {
  const picture = readFileSync(join(root, 'docs', 'map.svg'), 'utf8');
  const shown = new Set([...picture.matchAll(/text-anchor="middle">([^<]+)</g)].map(([, room]) => room));
  for (const room of tools.roomMap(tools.importMap(root)).keys())
    expect(shown).toContain(room.slice(room.indexOf('/') + 1));
});
