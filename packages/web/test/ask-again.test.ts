import { cellKey, type MadeRow } from '@tolvik/core';
import { asksAgain } from '../src/project/files/ask-again';
import { takenIn } from '../src/project/files/made';

const answer = (weights: (number | null)[], version = 1, failed?: string) =>
  takenIn({
    version,
    formats: {},
    total: weights.length,
    files: weights.map(
      (bytes, i) => ['piece', `o${i}`, `k${i}`, bytes, null, 0, ...(failed ? ([failed] as const) : [])] as MadeRow,
    ),
    pages: [],
  });

describe('when weights are asked for again', () => {
  test('not when all are there, and not for what cannot be made', () => {
    expect(asksAgain()(answer([12, 300]), 1, 1)).toBe(false);
    expect(asksAgain()(answer([null, 300], 1, 'too heavy'), 1, 1)).toBe(false);
    const planned = takenIn({
      version: 1,
      formats: {},
      total: 1,
      files: [['piece', 'o', '', null, null, 0]],
      pages: [],
    });
    expect(asksAgain()(planned, 1, 1)).toBe(false);
    expect(asksAgain()(undefined, 0, 1)).toBe(false);
  });

  test('soon while an answer is of an earlier version, though all its weights are there', () => {
    const again = asksAgain();
    expect(again(answer([12]), 1, 2)).toBeLessThan(1000);
    expect(again(answer([12], 2), 2, 2)).toBe(false);
  });

  test('soon while only the first files were told, though all of those are made', () => {
    const first = takenIn({
      version: 1,
      formats: {},
      total: 300,
      files: [['piece', 'o', 'k', 12, null, 0]],
      pages: [],
    });
    expect(first.missing).toBe(299);
    expect(asksAgain()(first, 1, 1)).toBeLessThan(2000);
  });

  test('however often the page is drawn, one answer counts once', () => {
    const again = asksAgain();
    const first = again(answer([null]), 1, 1);
    for (let drawn = 0; drawn < 500; drawn++) expect(again(answer([null]), 1, 1)).toBe(first);
  });

  test('ever more seldom while nothing comes, at least once a minute, and soon again when something does', () => {
    const again = asksAgain();
    const pauses = Array.from({ length: 30 }, (_, at) => again(answer([null, null]), at, 1) as number);
    for (let i = 1; i < pauses.length; i++) expect(pauses[i]).toBeGreaterThanOrEqual(pauses[i - 1]);
    expect(new Set(pauses.slice(0, 5)).size).toBe(1);
    expect(pauses.at(-1)).toBe(60_000);
    expect(again(answer([null, 12]), 99, 1)).toBe(pauses[0]);
  });

  test('less often while thousands are being made', () => {
    const few = asksAgain()(answer([null]), 1, 1) as number;
    expect(asksAgain()(answer(Array(2000).fill(null)), 1, 1)).toBeGreaterThan(few);
  });
});

describe('what the server made', () => {
  const row = (piece: string, bytes: number | null, pages = 0, key = `k ${piece}`): MadeRow => [
    piece,
    'o',
    key,
    bytes,
    null,
    pages,
  ];
  const first = takenIn({
    version: 3,
    formats: { o: 'pdf' },
    total: 3,
    files: [row('a', 12), row('b', null), row('c', 9, 2)],
    pages: [row('d', 4)],
  });

  test('is found by cell, with pages; files of several pages by their output', () => {
    expect([...first.byCell.keys()]).toEqual(['a', 'b', 'c', 'd'].map((piece) => cellKey(piece, 'o')));
    expect(first.whole.get('o')?.pieceId).toBe('c');
    expect(first.missing).toBe(1);
  });

  test('an answer that says nothing new is the one before', () => {
    expect(
      takenIn(
        {
          version: 3,
          formats: { o: 'pdf' },
          total: 3,
          files: [row('a', 12), row('b', null), row('c', 9, 2)],
          pages: [row('d', 4)],
        },
        first,
      ),
    ).toBe(first);
  });

  test('files that are as they were stay the same objects; others, their number and their order are what came', () => {
    const next = takenIn(
      {
        version: 4,
        formats: { o: 'pdf' },
        total: 3,
        files: [row('c', 9, 2), row('a', 12, 0, 'other'), row('b', 7)],
        pages: [],
      },
      first,
    );
    const at = (made: typeof first, piece: string) => made.byCell.get(cellKey(piece, 'o'));
    expect(at(next, 'c')).toBe(at(first, 'c'));
    expect(at(next, 'a')).toMatchObject({ key: 'other', bytes: 12 });
    expect(at(next, 'b')?.bytes).toBe(7);
    expect(at(next, 'd')).toBeUndefined();
    expect([next.version, next.missing, next.files.map(({ pieceId }) => pieceId)]).toEqual([4, 0, ['c', 'a', 'b']]);
    const again = takenIn(
      {
        version: 5,
        formats: { o: 'pdf' },
        total: 3,
        files: [row('c', 9, 2), row('a', 12, 0, 'other'), row('b', 7)],
        pages: [],
      },
      next,
    );
    expect([again.version, again.byCell, again.files]).toEqual([5, next.byCell, next.files]);
    expect(again.byCell).toBe(next.byCell);
  });
});
