import { reportWords } from '../src/project/bring-in/report-words';
import { readNumber } from '../src/ui/read-number';
import { count, plain, weight, when } from '../src/ui/words';

describe('numbers as people type them', () => {
  test.each([
    ['24', 24],
    [' 24 px', 24],
    ['24*2', 48],
    ['24 × 2', 48],
    ['100/4+1', 26],
    ['(10+2)*3', 36],
    ['-4.5', -4.5],
    ['1,5', 1.5],
    ['.25', 0.25],
    ['2--1', 3],
    ['1in', 96],
    ['25.4 mm', 96],
    ['2in - 1in/2', 144],
    ['(1+2)pt', 4],
    ['-1pc', -16],
    ['3*12PX', 36],
  ])('%s is %d', (text, value) => expect(readNumber(text)).toBeCloseTo(value, 9));

  test.each(['', 'tall', '24px wide', '2*', '(2', '2)', '1/0', '1e999', '2 2', '*2', '..'])('%j is none', (text) =>
    expect(readNumber(text)).toBeNull(),
  );
});

test('counts and weights', () => {
  expect([count(1, 'file'), count(0, 'file'), count(1800, 'file')]).toEqual(['1 file', '0 files', '1,800 files']);
  expect([412, 999, 1331, 102_400, 1_100_000, 250_000_000].map(weight)).toEqual([
    '412 B',
    '999 B',
    '1.3 KB',
    '100 KB',
    '1.0 MB',
    '238 MB',
  ]);
  expect([1, 0.5, 1 / 3, 41.25].map(plain)).toEqual(['1', '0.5', '0.333', '41.25']);
});

test('times', () => {
  const now = new Date();
  now.setHours(11, 20);
  expect(when(now)).toBe('today 11:20');
  expect(when(new Date(2020, 10, 23, 16, 41))).toBe('23 Nov 16:41');
});

describe('what came in, in a sentence', () => {
  const came = (file: string, dropped: string[] = []) => ({
    file,
    dropped: dropped.map((what) => ({ what, count: 1, where: [] })),
  });
  const refused = (file: string, message: string) => ({ file, dropped: [], problem: { code: 'x', message } });
  test.each([
    [[came('a.svg')], '1 file brought in.', false],
    [[came('a.svg'), refused('b.svg', 'b.svg is empty')], '1 file brought in. b.svg is empty.', true],
    [[refused('a', 'a is empty'), refused('b', 'b is empty')], '2 refused, the first because a is empty.', true],
    [
      [came('a.svg', ['a script']), came('b.svg', ['a script', 'an animation'])],
      '2 files brought in. Left out of 2 files: a script, an animation.',
      false,
    ],
  ])('%#', (report, words, bad) =>
    expect(reportWords(report)).toEqual({
      words,
      bad,
      more: report.some((line) => 'problem' in line || line.dropped.length > 0),
    }),
  );
});
