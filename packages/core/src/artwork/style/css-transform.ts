import type { Matrix } from '../../geometry/matrix';
import { type Bounds, IDENTITY, multiply, scaling, translate } from '../../geometry/matrix';
import { argumentsOf, degrees, functionsIn, lengthPx, type Measures } from '../markup/css-values';

/** How the transform of an element is said in CSS (CSS Transforms 1 and 2). */
export type SaidTransform = {
  transform?: string;
  origin?: string;
  translate?: string;
  rotate?: string;
  scale?: string;
};

const turned = (angle: number): Matrix => {
  const turn = (angle * Math.PI) / 180;
  return [Math.cos(turn), Math.sin(turn), -Math.sin(turn), Math.cos(turn), 0, 0];
};

/** A `transform` list in CSS as a matrix; null when it cannot be read. Percentages are of the reference box. */
function listed(text: string, box: Bounds, measures: Measures): Matrix | null {
  if (!text || text === 'none') return IDENTITY;
  let result: Matrix = IDENTITY;
  for (const { name, args } of functionsIn(text) ?? [{ name: '', args: '' }]) {
    const parts = argumentsOf(args);
    const x = (at: number) =>
      parts[at] === undefined ? 0 : lengthPx(parts[at], { ...measures, percentOf: box.maxX - box.minX });
    const y = (at: number) =>
      parts[at] === undefined ? 0 : lengthPx(parts[at], { ...measures, percentOf: box.maxY - box.minY });
    const factor = (at: number, otherwise: number) =>
      parts[at] === undefined ? otherwise : lengthPx(parts[at], { ...measures, percentOf: 1 });
    const angle = (at: number) => (parts[at] === undefined ? 0 : degrees(parts[at]));
    let numbers: (number | undefined)[];
    let make: (n: number[]) => Matrix;
    switch (name) {
      case 'matrix':
        numbers = [0, 1, 2, 3, 4, 5].map((at) => (parts[at] === undefined ? undefined : lengthPx(parts[at], measures)));
        make = (n) => n as unknown as Matrix;
        break;
      case 'translate':
      case 'translate3d':
        [numbers, make] = [[x(0), y(1)], (n) => translate(n[0], n[1])];
        break;
      case 'translatex':
        [numbers, make] = [[x(0)], (n) => translate(n[0], 0)];
        break;
      case 'translatey':
        [numbers, make] = [[y(0)], (n) => translate(0, n[0])];
        break;
      case 'scale':
        [numbers, make] = [
          [factor(0, 1), parts[1] === undefined ? factor(0, 1) : factor(1, 1)],
          (n) => scaling(n[0], n[1]),
        ];
        break;
      case 'scalex':
        [numbers, make] = [[factor(0, 1)], (n) => scaling(n[0], 1)];
        break;
      case 'scaley':
        [numbers, make] = [[factor(0, 1)], (n) => scaling(1, n[0])];
        break;
      case 'rotate':
      case 'rotatez':
        // An attribute may turn around a point; CSS has the origin for that.
        [numbers, make] = [
          [angle(0), x(1), y(2)],
          (n) => multiply(multiply(translate(n[1], n[2]), turned(n[0])), translate(-n[1], -n[2])),
        ];
        break;
      case 'skew':
        [numbers, make] = [
          [angle(0), angle(1)],
          (n) => [1, Math.tan((n[1] * Math.PI) / 180), Math.tan((n[0] * Math.PI) / 180), 1, 0, 0],
        ];
        break;
      case 'skewx':
        [numbers, make] = [[angle(0)], (n) => [1, 0, Math.tan((n[0] * Math.PI) / 180), 1, 0, 0]];
        break;
      case 'skewy':
        [numbers, make] = [[angle(0)], (n) => [1, Math.tan((n[0] * Math.PI) / 180), 0, 1, 0, 0]];
        break;
      default:
        return null;
    }
    if (numbers.some((value) => value === undefined)) return null;
    result = multiply(result, make(numbers as number[]));
  }
  return result;
}

const PLACES: Record<string, [axis: 'x' | 'y' | '', share: string]> = {
  left: ['x', '0%'],
  right: ['x', '100%'],
  top: ['y', '0%'],
  bottom: ['y', '100%'],
  center: ['', '50%'],
};

/** `transform-origin` in user space; the upper left corner of the user space when it says nothing. */
function originOf(said: string | undefined, box: Bounds, measures: Measures): [number, number] | null {
  if (said === undefined) return [0, 0];
  let [first = '50%', second = '50%'] = argumentsOf(said.toLowerCase());
  if (PLACES[first]?.[0] === 'y' || PLACES[second]?.[0] === 'x') [first, second] = [second, first];
  const x = lengthPx(PLACES[first]?.[1] ?? first, { ...measures, percentOf: box.maxX - box.minX });
  const y = lengthPx(PLACES[second]?.[1] ?? second, { ...measures, percentOf: box.maxY - box.minY });
  return x === undefined || y === undefined ? null : [box.minX + x, box.minY + y];
}

/**
 * All that is said of an element's transform as one matrix (CSS Transforms 2 §13). `box` is the reference box that
 * `transform-box` names. Null when something of it cannot be read.
 */
export function cssTransform(
  { transform, origin, translate: moved, rotate, scale }: SaidTransform,
  box: Bounds,
  measures: Measures,
): Matrix | null {
  const list = listed(transform ?? '', box, measures);
  const step =
    moved && moved !== 'none' ? listed(`translate(${argumentsOf(moved).join(',')})`, box, measures) : IDENTITY;
  const turn = rotate && rotate !== 'none' ? listed(`rotate(${rotate})`, box, measures) : IDENTITY;
  const size = scale && scale !== 'none' ? listed(`scale(${argumentsOf(scale).join(',')})`, box, measures) : IDENTITY;
  const around = originOf(origin, box, measures);
  if (!list || !step || !turn || !size || !around) return null;
  const all = [step, turn, size, list].reduce((sum, matrix) => multiply(sum, matrix), translate(...around));
  return multiply(all, translate(-around[0], -around[1]));
}
