import fc from 'fast-check';
import { sturdyPath } from '../src';
import { pathBounds, pathSegments } from '../src/geometry/path-geometry';
import { runs } from './properties';

const boxOf = (d: string) => pathBounds(pathSegments(d), null);

test('an arc that ends where it began, but for a sliver, becomes two that lie where it lay', () => {
  const arc = fc.record({
    rx: fc.integer({ min: 1, max: 200 }),
    ry: fc.integer({ min: 1, max: 200 }),
    turn: fc.integer({ min: -180, max: 180 }),
    sweep: fc.constantFrom(0, 1),
    dx: fc.double({ min: -0.05, max: 0.05, noNaN: true }),
    dy: fc.double({ min: -0.05, max: 0.05, noNaN: true }),
  });
  fc.assert(
    fc.property(arc, ({ rx, ry, turn, sweep, dx, dy }) => {
      fc.pre(Math.hypot(dx, dy) > 1e-4);
      const d = `M300 125A${rx} ${ry} ${turn} 1 ${sweep} ${300 + dx} ${125 + dy}`;
      const halved = sturdyPath(d);
      expect(halved).not.toBe(d);
      const [before, after] = [boxOf(d), boxOf(halved)];
      for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const)
        expect(after?.[side]).toBeCloseTo(before?.[side] as number, 2);
    }),
    runs(300),
  );
});

test('other paths stay as they are', () => {
  for (const d of [
    'M0 0h9v9z',
    'M10 10a5 5 0 1 0 3 0',
    'M10 10a5 5 0 0 1 .001 0',
    'M1 1a0 5 0 1 1 .001 0',
    'M0 0h5s1 1 2 2',
  ])
    expect(sturdyPath(d)).toBe(d);
});

test.each(['h0', 'v0', 'H300', 'l0,0', 'l0 0', 'h-0.0'])(
  'a curve that mirrors what is before it has its handle said after %s',
  (nothing) => {
    const d = `M300 50c100 0 100 100 0 150${nothing}s-100 50 0 50z`;
    const sturdy = sturdyPath(d);
    if (nothing !== 'H300') expect(sturdy).not.toContain('s');
    expect(boxOf(sturdy)).toEqual(boxOf(d));
  },
);
