import { asksAgain } from '../src/project/ask-again';

const answer = (weights: (number | null)[], version = 1, failed?: string) => ({
  version,
  files: weights.map((bytes, i) => ({ key: `k${i}`, bytes, failed })),
});

describe('when weights are asked for again', () => {
  test('not when all are there, and not for what cannot be made', () => {
    expect(asksAgain()(answer([12, 300]), 1, 1)).toBe(false);
    expect(asksAgain()(answer([null, 300], 1, 'too heavy'), 1, 1)).toBe(false);
    expect(asksAgain()({ version: 1, files: [{ key: '', bytes: null }] }, 1, 1)).toBe(false);
    expect(asksAgain()(undefined, 0, 1)).toBe(false);
  });

  test('soon while an answer is of an earlier version, though all its weights are there', () => {
    const again = asksAgain();
    expect(again(answer([12]), 1, 2)).toBeLessThan(1000);
    expect(again(answer([12], 2), 2, 2)).toBe(false);
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
