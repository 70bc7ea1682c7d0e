import svgpath from 'svgpath';

/** Ends of an arc closer than this share of its radius leave its centre to the last digit of where they are. */
const CLOSE = 0.2;
const MAY_HOLD_ARC = /[aA]/;
/** A line of no length in front of a curve that mirrors what is before it. */
const SMOOTH_AFTER_NOTHING = /(?:[hv]\s*-?0*\.?0*(?![\d.])|l\s*-?0*\.?0*[\s,]+-?0*\.?0*(?![\d.]))\s*[st]/i;

/**
 * Path data that means the same to a writer that rounds numbers and leaves out what has no length. An arc that begins
 * where it nearly ends, a circle but for a sliver, becomes two: where it lies hangs on its last digits. Curves that
 * mirror what is before them say their handles where a line of no length stands there. Other paths stay as they are.
 */
export function sturdyPath(d: string): string {
  const plain = SMOOTH_AFTER_NOTHING.test(d) ? svgpath(d).unshort().toString() : d;
  return MAY_HOLD_ARC.test(plain) ? withHalvedArcs(plain) : plain;
}

function withHalvedArcs(d: string): string {
  let halved = false;
  const path = svgpath(d).abs();
  path.iterate((segment, _, x, y) => {
    if (segment[0] !== 'A') return undefined;
    const [rx, ry, turn, large, sweep, toX, toY] = segment.slice(1) as number[];
    const middle = large ? middleOf({ x, y }, { x: toX, y: toY }, { rx, ry, turn, sweep }) : null;
    if (!middle) return undefined;
    halved = true;
    return [
      ['A', rx, ry, turn, 0, sweep, middle.x, middle.y],
      ['A', rx, ry, turn, 0, sweep, toX, toY],
    ];
  });
  return halved ? path.toString() : d;
}

type Point = { x: number; y: number };

/** Half way along a large arc whose ends are close to each other; null of others (SVG 2 appendix B.2.4). */
function middleOf(
  from: Point,
  to: Point,
  { rx, ry, turn, sweep }: { rx: number; ry: number; turn: number; sweep: number },
): Point | null {
  const [a, b] = [Math.abs(rx), Math.abs(ry)];
  if (!(a > 0) || !(b > 0)) return null;
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  // In the circle that the ellipse is drawn from, half of the line from end to start.
  const [dx, dy] = [(from.x - to.x) / 2, (from.y - to.y) / 2];
  const [u, v] = [(cos * dx + sin * dy) / a, (-sin * dx + cos * dy) / b];
  const half = Math.hypot(u, v);
  if (!(half > 0) || 2 * half > CLOSE) return null;
  // The centre lies across that line; the arc's middle on the far side of it.
  const away = (sweep ? -1 : 1) * (Math.sqrt(1 - half * half) + 1);
  const [mu, mv] = [(away * v) / half, (-away * u) / half];
  return {
    x: (from.x + to.x) / 2 + cos * a * mu - sin * b * mv,
    y: (from.y + to.y) / 2 + sin * a * mu + cos * b * mv,
  };
}
