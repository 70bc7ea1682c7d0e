import fc from 'fast-check';
import { runs } from '../../core/test/properties';
import { type Paint, PaintLine } from '../src/painter/paint-line';

let id = 0;
const request = (slot: string, urgent = false): Paint => ({
  kind: 'paint',
  id: ++id,
  slot,
  subject: { kind: 'piece', pieceId: slot },
  crop: null,
  widthPx: 1,
  heightPx: 1,
  urgent,
});

test('the newest is painted first, what is urgent before all else, and each slot once', () => {
  const line = new PaintLine();
  for (const [slot, urgent] of [['a'], ['b', true], ['c'], ['a']] as [string, boolean?][])
    line.add(request(slot, urgent));
  expect([line.take(false), line.take(false), line.take(false), line.take(false)].map((each) => each?.slot)).toEqual([
    'b',
    'a',
    'c',
    undefined,
  ]);
});

test('while a gesture runs only what is urgent is taken', () => {
  const line = new PaintLine();
  line.add(request('a'));
  line.add(request('b', true));
  expect([line.take(true)?.slot, line.take(true), line.take(false)?.slot]).toEqual(['b', undefined, 'a']);
});

test('it is a list of slots, each with its newest request, in any order of adding and taking', () => {
  const step = fc.record({
    slot: fc.constantFrom('a', 'b', 'c', 'd'),
    urgent: fc.boolean(),
    take: fc.constantFrom('', 'any', 'urgent'),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const line = new PaintLine();
      let plain: Paint[] = [];
      for (const { slot, urgent, take } of steps) {
        if (take === '') {
          const next = request(slot, urgent);
          expect(line.add(next)).toBe(plain.find((each) => each.slot === slot));
          plain = [...plain.filter((each) => each.slot !== slot), next];
          continue;
        }
        const wanted = plain.findLast((each) => each.urgent) ?? (take === 'any' ? plain.at(-1) : undefined);
        expect(line.take(take === 'urgent')).toBe(wanted);
        plain = plain.filter((each) => each !== wanted);
      }
    }),
    runs(200),
  );
});
