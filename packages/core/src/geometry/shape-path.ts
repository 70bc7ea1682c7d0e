import { printNumber } from './matrix';

const number = (attrs: Readonly<Record<string, string>>, name: string) => Number.parseFloat(attrs[name] ?? '');
const finite = (value: number, otherwise: number) => (Number.isFinite(value) ? value : otherwise);
const print = (...values: number[]) => values.map((value) => printNumber(value)).join(' ');

/** The numbers of a list of points (SVG 2 §10.6), x and y in turn; what is no number is left out. */
export const pointNumbers = (points = ''): number[] =>
  points
    .trim()
    .split(/[\s,]+/)
    .map(Number)
    .filter(Number.isFinite);

/** Lines and polygons as path data; a path's own otherwise. */
export function pathDataOf(tag: string, attrs: Readonly<Record<string, string>>): string {
  const from = (name: string) => finite(number(attrs, name), 0);
  if (tag === 'line') return `M${from('x1')} ${from('y1')}L${from('x2')} ${from('y2')}`;
  if (tag === 'polyline' || tag === 'polygon') {
    const points = pointNumbers(attrs.points);
    if (points.length < 4) return '';
    const pairs: string[] = [];
    for (let i = 0; i + 1 < points.length; i += 2) pairs.push(`${points[i]} ${points[i + 1]}`);
    return `M${pairs.join('L')}${tag === 'polygon' ? 'Z' : ''}`;
  }
  return attrs.d ?? '';
}

/** A basic shape as the path data it stands for (SVG 2 §10); a path's own; '' for what draws nothing. */
export function shapePath(tag: string, attrs: Readonly<Record<string, string>>): string {
  if (tag === 'rect') return rectanglePath(attrs);
  if (tag === 'circle' || tag === 'ellipse') {
    const rx = tag === 'circle' ? number(attrs, 'r') : finite(number(attrs, 'rx'), number(attrs, 'ry'));
    const ry = tag === 'circle' ? rx : finite(number(attrs, 'ry'), rx);
    if (!(rx > 0) || !(ry > 0)) return '';
    const [cx, cy] = [finite(number(attrs, 'cx'), 0), finite(number(attrs, 'cy'), 0)];
    return `M${print(cx + rx, cy)}A${print(rx, ry)} 0 0 1 ${print(cx - rx, cy)}A${print(rx, ry)} 0 0 1 ${print(cx + rx, cy)}Z`;
  }
  return pathDataOf(tag, attrs);
}

function rectanglePath(attrs: Readonly<Record<string, string>>): string {
  const [width, height] = [number(attrs, 'width'), number(attrs, 'height')];
  if (!(width > 0) || !(height > 0)) return '';
  const [x, y] = [finite(number(attrs, 'x'), 0), finite(number(attrs, 'y'), 0)];
  const rx = Math.min(width / 2, finite(number(attrs, 'rx'), finite(number(attrs, 'ry'), 0)));
  const ry = Math.min(height / 2, finite(number(attrs, 'ry'), finite(number(attrs, 'rx'), 0)));
  if (!(rx > 0) || !(ry > 0)) return `M${print(x, y)}H${print(x + width)}V${print(y + height)}H${print(x)}Z`;
  const turn = (toX: number, toY: number) => `A${print(rx, ry)} 0 0 1 ${print(toX, toY)}`;
  return `M${print(x + rx, y)}H${print(x + width - rx)}${turn(x + width, y + ry)}V${print(y + height - ry)}${turn(x + width - rx, y + height)}H${print(x + rx)}${turn(x, y + height - ry)}V${print(y + ry)}${turn(x + rx, y)}Z`;
}
