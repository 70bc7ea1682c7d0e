import { type Bounds, printNumber } from '../../geometry/matrix';
import { shapePath } from '../../geometry/shape-path';
import { argumentsOf, lengthPx, type Measures } from '../markup/css-values';

/** px, since lengths in fonts were settled before. */
const MEASURES: Measures = { fontSize: 16, rootFontSize: 16, viewWidth: 100, viewHeight: 100, percentOf: 0 };

/** Words for a reference box that may stand before or after a shape. */
const BOX = /\s*\b(fill-box|stroke-box|view-box|border-box|padding-box|content-box|margin-box)\b\s*/i;

/** A basic shape of CSS as path data in user space (CSS Shapes 1 §3, CSS Masking 1 §5.1); null when it cannot be read. */
export function basicShape(
  text: string,
  own: Bounds | null,
  view: Bounds,
): { d: string; rule: 'nonzero' | 'evenodd' /** Where its own origin lies. */; at: readonly [number, number] } | null {
  const said = BOX.exec(text)?.[1].toLowerCase();
  const box = said === 'view-box' ? view : own;
  const call = /^([a-z]+)\(([\s\S]*)\)$/i.exec(text.replace(BOX, ' ').trim());
  if (!call || !box) return null;
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const x = (part: string | undefined, otherwise = 0) =>
    part === undefined ? otherwise : (lengthPx(part, { ...MEASURES, percentOf: width }) ?? Number.NaN);
  const y = (part: string | undefined, otherwise = 0) =>
    part === undefined ? otherwise : (lengthPx(part, { ...MEASURES, percentOf: height }) ?? Number.NaN);
  const name = call[1].toLowerCase();
  const rule = /^\s*evenodd\b/i.test(call[2]) ? 'evenodd' : 'nonzero';
  const args = call[2].replace(/^\s*(evenodd|nonzero)\s*,/i, '').trim();
  let d: string | null = null;
  if (name === 'path') {
    const data = /^(['"])([\s\S]*)\1$/.exec(args)?.[2];
    return data === undefined ? null : { d: data, rule, at: [box.minX, box.minY] };
  }
  if (name === 'polygon') {
    const points = args.split(',').map((pair) => argumentsOf(pair));
    const numbers = points.map(([px, py]) => [box.minX + x(px), box.minY + y(py)]);
    d =
      numbers.length > 0
        ? `M${numbers.map((pair) => pair.map((value) => printNumber(value)).join(' ')).join('L')}Z`
        : null;
  } else if (name === 'circle' || name === 'ellipse') d = round(name, args, box, x, y);
  else if (name === 'inset' || name === 'rect' || name === 'xywh') d = rectangle(name, args, box, x, y);
  return d === null || d.includes('NaN') ? null : { d, rule, at: [0, 0] };
}

type Length = (part: string | undefined, otherwise?: number) => number;

const PLACES: Record<string, string> = { left: '0%', top: '0%', center: '50%', right: '100%', bottom: '100%' };

function round(name: string, args: string, box: Bounds, x: Length, y: Length): string {
  const [sizes, place = ''] = args.split(/\bat\b/);
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  let [px = 'center', py = 'center'] = argumentsOf(place.toLowerCase());
  if (px === 'top' || px === 'bottom' || py === 'left' || py === 'right') [px, py] = [py, px];
  const [cx, cy] = [x(PLACES[px] ?? px), y(PLACES[py] ?? py)];
  const nearest = (word: string | undefined, a: number, b: number, otherwise: () => number) =>
    word === undefined || word === 'closest-side'
      ? Math.min(a, b)
      : word === 'farthest-side'
        ? Math.max(a, b)
        : otherwise();
  const parts = argumentsOf(sizes);
  let rx: number;
  let ry: number;
  if (name === 'circle') {
    const sides = [Math.abs(cx), Math.abs(width - cx), Math.abs(cy), Math.abs(height - cy)];
    rx = ry = nearest(
      parts[0],
      Math.min(...sides),
      parts[0] === 'farthest-side' ? Math.max(...sides) : Math.min(...sides),
      () =>
        /%$/.test(parts[0])
          ? ((Number.parseFloat(parts[0]) / 100) * Math.hypot(width, height)) / Math.SQRT2
          : x(parts[0]),
    );
  } else {
    rx = nearest(parts[0], Math.abs(cx), Math.abs(width - cx), () => x(parts[0]));
    ry = nearest(parts[1], Math.abs(cy), Math.abs(height - cy), () => y(parts[1]));
  }
  return shapePath('ellipse', { cx: String(box.minX + cx), cy: String(box.minY + cy), rx: String(rx), ry: String(ry) });
}

function rectangle(name: string, args: string, box: Bounds, x: Length, y: Length): string {
  const [sides, corners] = args.split(/\bround\b/);
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const parts = argumentsOf(sides);
  let [left, top, w, h] = [0, 0, width, height];
  if (name === 'xywh') [left, top, w, h] = [x(parts[0]), y(parts[1]), x(parts[2]), y(parts[3])];
  else {
    const [t, r = t, b = t, l = r] = parts;
    const edge = (part: string, of: Length, auto: number) => (part === 'auto' ? auto : of(part));
    if (name === 'rect') {
      [left, top] = [edge(l, x, 0), edge(t, y, 0)];
      [w, h] = [edge(r, x, width) - left, edge(b, y, height) - top];
    } else {
      [left, top] = [x(l), y(t)];
      [w, h] = [width - x(r) - left, height - y(b) - top];
    }
  }
  const [rx, ry] = (corners ?? '0').split('/').map((each) => argumentsOf(each)[0]);
  return shapePath('rect', {
    x: String(box.minX + left),
    y: String(box.minY + top),
    width: String(Math.max(0, w)),
    height: String(Math.max(0, h)),
    rx: String(x(rx)),
    ry: String(y(ry ?? rx)),
  });
}
