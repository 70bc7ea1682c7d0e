import fc from 'fast-check';
import {
  assignInk,
  colourFacts,
  handoverVariants,
  inkOf,
  lostMeetings,
  type Meeting,
  meetingsIn,
  meltedColours,
  withChoices,
} from '../src';
import { project, svg } from './fixtures';
import { runs } from './properties';

const [PINE, SAND, CORAL] = ['#0c6a53', '#e8d5a9', '#d2452a'];

/** A picture of letters, each a colour; a blank is open. */
function picture(rows: readonly string[], scale: number): Uint8Array {
  const colours: Record<string, readonly number[]> = {
    p: [12, 106, 83, 255],
    s: [232, 213, 169, 255],
    ' ': [0, 0, 0, 0],
  };
  const pixels: number[] = [];
  for (const row of rows)
    for (let i = 0; i < scale; i++)
      for (const letter of row) for (let j = 0; j < scale; j++) pixels.push(...colours[letter]);
  return Uint8Array.from(pixels);
}

test('where colours meet one another and the open ground, in px of the artboard', () => {
  const rows = ['      ', ' pppp ', ' pssp ', ' pppp ', '      '];
  const met = meetingsIn(picture(rows, 10), 60, [PINE, SAND], 0.5);
  expect(met).toEqual([
    { colours: [PINE, null], length: (2 * 40 + 2 * 30) * 0.5 },
    { colours: [SAND, PINE], length: (2 * 20 + 2 * 10) * 0.5 },
  ]);
});

test('what passes into another colour meets nothing', () => {
  const width = 200;
  const pixels = new Uint8Array(width * 10 * 4);
  for (let i = 0; i < width * 10; i++) {
    const t = (i % width) / width;
    pixels.set([12 + 220 * t, 106 + 107 * t, 83 + 86 * t, 255], 4 * i);
  }
  expect(meetingsIn(pixels, width, [PINE, SAND], 1)).toEqual([]);
});

test('a corner is no meeting', () => {
  const met = meetingsIn(picture(['ppppp ', 'ppppps', 'pppppp'], 1), 6, [PINE, SAND], 1);
  expect(met.some(({ colours }) => colours.includes(SAND))).toBe(true);
  const large = picture(['p'.repeat(100)], 1);
  const rows = new Uint8Array(100 * 100 * 4);
  for (let y = 0; y < 100; y++) rows.set(large, y * 400);
  rows.set([232, 213, 169, 255], 4 * 5050);
  expect(meetingsIn(rows, 100, [PINE, SAND], 1)).toEqual([]);
});

const names = ['#0c6a53', '#e8d5a9', '#d2452a', '#3d8fb5', '#14232b', '#c98a1b'];
const someMeetings = fc
  .uniqueArray(
    fc.record({
      one: fc.integer({ min: 0, max: names.length - 1 }),
      other: fc.integer({ min: -1, max: names.length - 1 }),
      length: fc.double({ min: 1, max: 300, noNaN: true }),
    }),
    { selector: ({ one, other }) => [Math.min(one, other), Math.max(one, other)].join(), minLength: 1, maxLength: 15 },
  )
  .map((all) =>
    all.flatMap(({ one, other, length }): Meeting[] =>
      one === other ? [] : [{ colours: [names[one], names[other] ?? null], length }],
    ),
  );

test('one ink always inks something, knocks out no more than it gains by, and sets apart what is ink beside ink', () => {
  fc.assert(
    fc.property(someMeetings, fc.shuffledSubarray(names, { minLength: names.length }), (meetings, painted) => {
      const parts = assignInk(meetings, painted, 2);
      const met = new Set(meetings.flatMap(({ colours }) => colours.filter((colour) => colour !== null)));
      if (met.size > 0) expect(parts.out.length).toBeLessThan(met.size);
      expect(parts.out.filter((colour) => parts.apart.includes(colour))).toEqual([]);
      const rule = { kind: 'ink' as const, colour: '#171b1c', ...parts };
      const lost = lostMeetings(meetings, rule);
      // Ink beside ink is never lost; what is lost is a hole beside a hole or beside open ground.
      for (const { colours } of lost)
        expect(colours.every((colour) => colour === null || parts.out.includes(colour))).toBe(true);
      // All ink with gaps loses nothing: holes are made only where that costs less than the gaps they save.
      const saved = meetings
        .filter(
          (meeting) =>
            !lost.includes(meeting) && meeting.colours.some((colour) => colour !== null && parts.out.includes(colour)),
        )
        .reduce((sum, { length }) => sum + length, 0);
      expect(lost.reduce((sum, { length }) => sum + length, 0)).toBeLessThanOrEqual(saved);
    }),
    runs(300),
  );
});

test('plain one ink melts what meets, and says which', () => {
  const meetings: Meeting[] = [
    { colours: [PINE, null], length: 140 },
    { colours: [SAND, PINE], length: 60 },
  ];
  expect(meltedColours(meetings, { kind: 'tint', colour: '#171b1c' })).toEqual([SAND, PINE]);
  expect(meltedColours(meetings, { kind: 'ink', colour: '#171b1c', ...assignInk(meetings, [PINE, SAND], 2) })).toEqual(
    [],
  );
  expect(meltedColours(meetings, { kind: 'asDrawn' })).toEqual([]);
  expect(meltedColours([], { kind: 'white' })).toEqual([]);
});

describe('chosen otherwise before it is made', () => {
  const { doc, artboard } = project({
    badge: svg(
      `<circle cx="12" cy="12" r="10" fill="${PINE}"/><path d="M9 7h6v10H9z" fill="${SAND}"/><path d="M2 2h4v4H2z" fill="${CORAL}"/>`,
    ),
  });
  const meetings: Meeting[] = [
    { colours: [PINE, null], length: 60 },
    { colours: [SAND, PINE], length: 32 },
    { colours: [CORAL, null], length: 16 },
  ];
  const facts = colourFacts(doc, artboard('badge'), meetings);
  const proposal = (key: string) => {
    const found = handoverVariants(facts).find((each) => each.key === key);
    if (!found) throw new Error(`no proposal ${key}`);
    return found;
  };

  test('nothing chosen is what is proposed', () => {
    for (const each of handoverVariants(facts)) expect(withChoices(facts, each, {})).toEqual(each);
  });

  test('the ink, what is knocked out, the ground', () => {
    expect(inkOf(proposal('mono-dark').rule)).toMatchObject({ out: [SAND], apart: [] });
    const chosen = withChoices(facts, proposal('mono-dark'), {
      ink: '#5b2a4f',
      ground: '#fbf8ef',
      parts: { [SAND]: 'apart', [PINE]: 'inked', [CORAL]: 'out', '#123456': 'out' },
    });
    expect(chosen.rule).toEqual({ kind: 'ink', colour: '#5b2a4f', out: [CORAL], apart: [SAND], gap: 0.5 });
    expect(chosen.background).toBe('#fbf8ef');
    expect(chosen.melted).toEqual([CORAL]);
    const plain = withChoices(facts, proposal('mono-light'), { parts: { [SAND]: 'inked' } });
    expect(plain.rule).toEqual({ kind: 'ink', colour: '#ffffff', out: [], apart: [], gap: 0 });
    expect(plain.melted).toEqual([SAND, PINE]);
  });

  test('what a colour becomes, and what it is told from', () => {
    const chosen = withChoices(facts, proposal('grey'), { becomes: { [SAND]: '#5f5f5f', [CORAL]: 'none' } });
    expect(chosen.rule).toMatchObject({
      kind: 'map',
      colours: expect.arrayContaining([
        { from: SAND, to: '#5f5f5f' },
        { from: CORAL, to: 'none' },
      ]),
    });
    expect(chosen.melted).toEqual(expect.arrayContaining([SAND, CORAL]));
  });

  test('a ground that is the artwork’s own dark, or near black, and no other', () => {
    expect(proposal('reversed').background).toBe('#171b1c');
    const { doc: other, artboard: of } = project({
      dark: svg('<path d="M2 2h9v9z" fill="#14232b"/><path d="M12 12h9v9z" fill="#3d8fb5"/>'),
    });
    expect(handoverVariants(colourFacts(other, of('dark'), []))[0].background).toBe('#14232b');
  });
});
