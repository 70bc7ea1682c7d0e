import fc from 'fast-check';
import { IDENTITY, inkSteps, isInkMask, NoOutline } from '../src';
import { fileIds } from '../src/compose/ids';
import { type Contour, cleaned, contoursOf, printContours } from '../src/outlines/contours';
import { merged } from '../src/outlines/merge';
import { runs } from './properties';

const svg = (inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100" viewBox="0 0 100 100">${inner}</svg>`;
const square = (x: number, y: number, side: number, clockwise = true): Contour => {
  const corners = [
    [x + side, y],
    [x + side, y + side],
    [x, y + side],
  ];
  return { x, y, segments: [...(clockwise ? corners : corners.reverse()), [x, y]] };
};
/** The area inside contours by winding number, counted on a grid of points. */
const windings = (contours: readonly Contour[], x: number, y: number) => {
  let winding = 0;
  for (const { x: startX, y: startY, segments } of contours) {
    let [ax, ay] = [startX, startY];
    for (const n of segments) {
      const [bx, by] = n.slice(-2);
      if (ay <= y !== by <= y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) winding += by > ay ? 1 : -1;
      [ax, ay] = [bx, by];
    }
  }
  return winding;
};

test('contours are wound so that both fill rules fill the same, however they came', () => {
  for (let turns = 0; turns < 16; turns++) {
    const nested = [0, 1, 2, 3].map((depth) =>
      square(depth * 10, depth * 10, 90 - depth * 20, !(turns & (1 << depth))),
    );
    const made = cleaned([...nested, square(200, 0, 20, turns % 2 === 0)]);
    expect(made).toHaveLength(5);
    for (const [x, y, depth] of [
      [5, 5, 1],
      [15, 15, 2],
      [25, 25, 3],
      [35, 35, 4],
      [205, 5, 1],
      [95, 95, 0],
    ])
      expect(Math.abs(windings(made, x, y))).toBe(depth % 2);
  }
});

test('segments of no length, points on straight lines and slivers are left out', () => {
  const [made, ...others] = cleaned([
    {
      x: 5,
      y: 0,
      segments: [
        [10, 0],
        [10, 0],
        [10, 5],
        [10, 10],
        [10, 10, 10, 10, 10, 10],
        [5, 10, 3, 10, 0, 10],
        [0, 0],
        [5, 0],
      ],
    },
    square(20, 20, 0.05),
    {
      x: 30,
      y: 0,
      segments: [
        [90, 0.0005],
        [90, 0.0015],
        [30, 0],
      ],
    },
  ]);
  expect(others).toEqual([]);
  expect(made.segments).toHaveLength(4);
  expect(printContours([made], 3)).toBe('M10 0L10 10L0 10L0 0Z');
});

test('conics become cubics that are off by less than 0.0005 px, at any size', () => {
  for (const radius of [1, 24, 500, 4000]) {
    const quarter = [
      [0, radius, 0],
      [3, radius, radius, 0, radius, Math.SQRT1_2],
      [3, -radius, radius, -radius, 0, Math.SQRT1_2],
      [1, radius, 0],
      [5],
    ];
    const [{ x, y, segments }] = contoursOf(quarter, IDENTITY);
    let [ax, ay] = [x, y];
    let most = 0;
    for (const n of segments) {
      if (n.length === 6)
        for (let t = 0; t <= 1; t += 0.05) {
          const u = 1 - t;
          const px = u ** 3 * ax + 3 * u * u * t * n[0] + 3 * u * t * t * n[2] + t ** 3 * n[4];
          const py = u ** 3 * ay + 3 * u * u * t * n[1] + 3 * u * t * t * n[3] + t ** 3 * n[5];
          most = Math.max(most, Math.abs(Math.hypot(px, py) - radius));
        }
      [ax, ay] = n.slice(-2);
    }
    expect(most).toBeLessThan(0.0005);
    expect(segments.length).toBeLessThanOrEqual(2 * 8 + 1);
  }
});

test('no id of a layer is taken for that of a mask of one ink', () => {
  const ids = fileIds(true);
  expect(isInkMask(ids.inkMask())).toBe(true);
  for (const name of ['ink.1', ' ink.1', 'ink.', 'ink.mask']) expect(isInkMask(ids.idFor(name, name))).toBe(false);
});

describe('what of a mask is ink', () => {
  const kinds = (inner: string) =>
    inkSteps(svg(inner)).map(({ cuts, stroke }) => `${cuts ? 'cut' : 'ink'}${stroke ? ' stroke' : ''}`);
  test('light is ink and dark is cut out, in the order in which it is painted', () => {
    expect(
      kinds(
        '<path d="M0 0h9v9z" fill="#ffffff" stroke="#000000"/><path d="M0 0h9v9z" fill="#000000" stroke="#ffffff" paint-order="stroke"/>',
      ),
    ).toEqual(['ink', 'cut stroke', 'ink stroke', 'cut']);
  });
  test('what covers half or more is solid, and the rest is not there', () => {
    expect(
      kinds('<g opacity="0.6"><path d="M0 0h9v9z" fill="#ffffff"/><path d="M0 9h9v9z" fill="#ffffff"/></g>'),
    ).toHaveLength(2);
    expect(
      kinds('<g opacity="0.4"><path d="M0 0h9v9z" fill="#ffffff"/><path d="M0 9h9v9z" fill="#ffffff"/></g>'),
    ).toEqual([]);
    expect(kinds('<path d="M0 0h9v9z" fill="#ffffff" fill-opacity="0.5" opacity="0.9"/>')).toEqual([]);
    expect(kinds('<path d="M0 0h9v9z" fill="#000000" stroke="#ffffff" stroke-opacity="0.3"/>')).toEqual(['cut']);
  });
  const fading = (one: string, other: string) =>
    `<defs><linearGradient id="g">${one}${other}</linearGradient></defs><path d="M0 0h9v9z" fill="url(#g)"/>`;
  test('a gradient of one lightness is solid; from ink to ground, or fading out, it has no outline', () => {
    expect(
      kinds(fading('<stop stop-color="#ffffff"/>', '<stop offset="1" stop-color="#ffffff" stop-opacity="0.6"/>')),
    ).toEqual(['ink']);
    for (const other of [
      '<stop offset="1" stop-color="#000000"/>',
      '<stop offset="1" stop-color="#ffffff" stop-opacity="0"/>',
    ])
      expect(() => kinds(fading('<stop stop-color="#ffffff"/>', other))).toThrow(NoOutline);
  });
  test.each([
    '<filter id="f"><feGaussianBlur stdDeviation="1"/></filter><path filter="url(#f)" d="M0 0h9v9z"/>',
    '<path mask="url(#m)" d="M0 0h9v9z"/>',
    '<image width="9" height="9" xlink:href="blob:x"/>',
    '<pattern id="p" width="4" height="4"><path d="M0 0h2v2z"/></pattern><path fill="url(#p)" d="M0 0h9v9z"/>',
  ])('%s has no outline, whatever the way', (inner) => {
    const asked = () => inkSteps(svg(inner));
    expect(asked).toThrow(NoOutline);
    expect(asked).toThrow(expect.objectContaining({ isFinal: true }));
  });
});

describe('runs of curves become one', () => {
  /** A cubic cut in two at a share of it (de Casteljau). */
  function cut([a, b, c, d]: number[][], t: number): [number[][], number[][]] {
    const mix = (p: number[], q: number[]) => p.map((value, i) => value + (q[i] - value) * t);
    const [ab, bc, cd] = [mix(a, b), mix(b, c), mix(c, d)];
    const [abc, bcd] = [mix(ab, bc), mix(bc, cd)];
    const middle = mix(abc, bcd);
    return [
      [a, ab, abc, middle],
      [middle, bcd, cd, d],
    ];
  }
  const flat = (curve: number[][]) => curve.slice(1).flat();

  test('a curve that was cut anywhere is what it was, whatever it is like', () => {
    const number = fc.double({ min: 0, max: 100, noNaN: true });
    const point = fc.tuple(number, number);
    fc.assert(
      fc.property(
        fc.tuple(point, point, point, point),
        fc.array(fc.double({ min: 0.2, max: 0.8, noNaN: true }), { minLength: 1, maxLength: 4 }),
        (curve, cuts) => {
          const parts: number[][][] = [];
          let rest: number[][] = curve.map((each) => [...each]);
          for (const t of cuts) {
            const [first, last] = cut(rest, t);
            parts.push(first);
            rest = last;
          }
          parts.push(rest);
          const [x, y] = curve[0];
          const made = merged({ x, y, segments: parts.map(flat) }, 0.01);
          // What turns back on itself may stay cut; nothing may be off.
          expect(made.segments.length).toBeLessThanOrEqual(parts.length);
          expect(made.segments.at(-1)?.slice(-2)).toEqual(flat(rest).slice(-2));
          const isEven = curve.every(
            (p, i) => i === 0 || Math.hypot(p[0] - curve[i - 1][0], p[1] - curve[i - 1][1]) > 10,
          );
          const turns = curve.slice(2).every((p, i) => {
            const [a, b] = [curve[i], curve[i + 1]];
            return (b[0] - a[0]) * (p[0] - b[0]) + (b[1] - a[1]) * (p[1] - b[1]) > 0;
          });
          if (isEven && turns) expect(made.segments).toHaveLength(1);
        },
      ),
      runs(300),
    );
  });

  test('corners, lines and curves that no one curve follows stay', () => {
    const arch = {
      x: 0,
      y: 0,
      segments: [
        [0, 10, 10, 20, 20, 20],
        [30, 20, 40, 10, 40, 0],
        [0, 0],
      ],
    };
    expect(merged(arch, 0.01).segments).toEqual(arch.segments);
    const corner = {
      x: 0,
      y: 0,
      segments: [
        [10, 0, 20, 0, 30, 0],
        [30, 10, 30, 20, 30, 30],
      ],
    };
    expect(merged(corner, 100).segments).toEqual(corner.segments);
    // Half a circle of four eighths becomes two quarters, or fewer: never more than a hundredth of a px off.
    const eighth = (i: number) => {
      const [a, b] = [(i * Math.PI) / 4, ((i + 1) * Math.PI) / 4];
      const k = (4 / 3) * Math.tan(Math.PI / 16);
      const at = (t: number) => [10 * Math.cos(t), 10 * Math.sin(t)];
      const [from, to] = [at(a), at(b)];
      return [from[0] - k * from[1], from[1] + k * from[0], to[0] + k * to[1], to[1] - k * to[0], ...to];
    };
    const circle = merged({ x: 10, y: 0, segments: [0, 1, 2, 3, 4, 5, 6, 7].map(eighth) }, 0.01);
    expect(circle.segments.length).toBeLessThanOrEqual(4);
  });
});
