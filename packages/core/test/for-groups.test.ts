import { type Artboard, artboardsForGroups, boundsOfLayers, groupsOn, layersOn, performRequest } from '../src';
import { project } from './fixtures';

const OPTIONS = {
  marginPx: 0,
  square: false,
  equal: false,
  leastPx: null,
  rows: true,
  gapPx: 16,
  sheet: 'goes',
} as const;
const sheet = (inner: string, attrs = '') =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="60" viewBox="0 0 100 60"${attrs}>${inner}</svg>`;
const FOUR = ['sun', 'rain', 'wind', 'snow']
  .map(
    (name, i) =>
      `<g id="${name}" fill="#0c6a53"><path d="M${4 + i * 24} 4h${8 + i * 2}v12h-5z"/><circle cx="${8 + i * 24}" cy="24" r="3.5"/></g>`,
  )
  .join('');

function made(inner: string, options: Partial<Parameters<typeof artboardsForGroups>[2]> = {}) {
  const { doc, artboard } = project({ weather: sheet(inner), other: sheet('<path d="M0 0h9v9z"/>') });
  const board = artboard('weather');
  const { puts, removes, made: ids } = artboardsForGroups(doc, [board], { ...OPTIONS, ...options });
  doc.apply({ puts, removes });
  return { doc, board, boards: ids.map((id) => doc.find('artboard', id) as Artboard) };
}

test('the groups are those of the first level with several, also inside the group of the file', () => {
  const { doc, artboard } = project({
    weather: sheet(`<g id="page"><g>${FOUR}</g></g>`),
    one: sheet('<g id="a"><path d="M0 0h9v9z"/></g>'),
  });
  expect(groupsOn(doc, artboard('weather')).map(({ name }) => name)).toEqual(['sun', 'rain', 'wind', 'snow']);
  expect(groupsOn(doc, artboard('one'))).toEqual([]);
});

test('what stands beside the groups, hidden groups and empty ones get none', () => {
  const { boards } = made(
    `<rect width="100" height="60" fill="#eee"/>${FOUR}<g id="empty"/><g id="gone" display="none"><path d="M0 0h9v9z"/></g>`,
  );
  expect(boards.map(({ name }) => name)).toEqual(['sun', 'rain', 'wind', 'snow']);
});

test('square, equal, with a margin, on whole px, each around its group with its artwork', () => {
  const { doc, board, boards } = made(FOUR, { square: true, equal: true, marginPx: 2 });
  expect(new Set(boards.map(({ width, height }) => `${width} ${height}`)).size).toBe(1);
  for (const each of boards) {
    expect(each.width).toBe(each.height);
    expect([each.x, each.y].every(Number.isInteger)).toBe(true);
    expect(each.specIds).toEqual(board.specIds);
    const box = boundsOfLayers(
      doc,
      layersOn(doc, each).map(({ id }) => id),
    );
    expect(box && box.minX >= each.x + 2 && box.maxX <= each.x + each.width - 2).toBe(true);
    expect(layersOn(doc, each).map(({ name }) => name)).toEqual([each.name]);
  }
});

test('rows stand where no other artboard is, and apart from each other', () => {
  const { doc, boards } = made(FOUR, { leastPx: { width: 64, height: 64 } });
  const all = doc.list('artboard');
  for (const one of boards) {
    expect([one.width, one.height]).toEqual([64, 64]);
    for (const other of all)
      if (other.id !== one.id)
        expect(
          other.x >= one.x + one.width + 16 ||
            one.x >= other.x + other.width + 16 ||
            other.y >= one.y + one.height + 16 ||
            one.y >= other.y + other.height + 16,
        ).toBe(true);
  }
});

test.each([
  ['goes', undefined],
  ['off', false],
  ['stays', true],
] as const)('the artboard they were on: %s', (what, on) => {
  const { doc, board } = made(FOUR, { sheet: what });
  expect(doc.find('artboard', board.id)?.on).toBe(on);
});

test('an artboard that others follow is kept for them, and makes no files', () => {
  const { doc, artboard } = project({ weather: sheet(FOUR) });
  const board = artboard('weather');
  const follows = { artboardId: board.id, rule: { kind: 'grey' as const } };
  doc.apply({ puts: [{ ...board, id: 'grey', name: 'grey', y: 400, follows }], removes: [] });
  doc.apply(performRequest(doc, 'artboards-for-groups', { ids: [board.id] }));
  expect(doc.find('artboard', board.id)?.on).toBe(false);
});

test('what a clip around all of them cuts stays in its place', () => {
  const { boards } = made(`<clipPath id="c"><path d="M0 0h90v60z"/></clipPath><g clip-path="url(#c)">${FOUR}</g>`);
  expect(boards.map(({ x }) => x)).toEqual([...boards.map(({ x }) => x)].sort((a, b) => a - b));
  expect(new Set(boards.map(({ y }) => y)).size).toBe(1);
});

test('where there are no groups, the act says so', () => {
  const { doc } = project({ weather: sheet('<path d="M0 0h9v9z"/>') });
  expect(() => performRequest(doc, 'artboards-for-groups', { pieces: '1' })).toThrow(/not several groups/);
});
