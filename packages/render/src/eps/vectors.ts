import {
  type CanvasClip,
  type CanvasPaint,
  type CanvasShape,
  type CanvasStep,
  canvasSteps,
  type Matrix,
  multiply,
  parseColour,
  type Shading,
  stepsOf,
} from '@tolvik/core';

import { masksAsClips } from '../outlines/mask-clips';

/** What covers less is half transparent. */
const SOLID = 0.996;

/** No vectors can say it. */
class NotSaid extends Error {}

/**
 * A composed SVG as the operators that paint it (PostScript Language Reference, third edition, §4); `toPage` leads from its
 * coordinates to points. Null where anything is half transparent, or is no shape with a colour or a gradient.
 */
export function vectorProgram(svg: string, toPage: Matrix): { program: string; level: 2 | 3 } | null {
  const steps = canvasSteps(masksAsClips(svg));
  if (!steps) return null;
  const writer = new Writer(toPage);
  try {
    for (const step of steps) writer.step(step);
  } catch (error) {
    if (error instanceof NotSaid) return null;
    throw error;
  }
  return { program: writer.lines.join('\n'), level: writer.level };
}

class Writer {
  readonly lines: string[] = [];
  level: 2 | 3 = 2;
  private colour = '';

  constructor(private readonly toPage: Matrix) {}

  step(step: CanvasStep): void {
    // What is faded as one is half transparent.
    if (step.kind === 'group') throw new NotSaid();
    const { clips, fill, stroke, strokeFirst } = step;
    if (clips.length > 0) this.save();
    for (const clip of clips) {
      const path = this.path(clip);
      this.lines.push(path || '0 0 m', clip.rule === 'evenodd' ? 'x' : 'w');
    }
    const paints = [fill && (() => this.fill(step, fill)), stroke && (() => this.stroke(step, stroke))];
    for (const paint of strokeFirst ? paints.reverse() : paints) paint?.();
    if (clips.length > 0) this.restore();
  }

  private fill(shape: CanvasShape, { paint, alpha }: CanvasPaint): void {
    const path = this.path(shape);
    if (!path) return;
    if (typeof paint !== 'string') {
      this.shaded(shape, paint, alpha, [path, shape.rule === 'evenodd' ? 'x' : 'w']);
      return;
    }
    this.setColour(paint, alpha);
    this.lines.push(path, shape.rule === 'evenodd' ? 'g' : 'f');
  }

  private stroke(shape: CanvasShape, { paint, alpha, ...line }: NonNullable<CanvasShape['stroke']>): void {
    const path = printPath(stepsOf({ tag: 'path', attrs: { d: shape.d } }), [1, 0, 0, 1, 0, 0]);
    if (!path) return;
    if (typeof paint === 'string') this.setColour(paint, alpha);
    // The line is as wide as the units of its shape say, which may be turned or longer one way.
    const matrix = multiply(this.toPage, shape.matrix);
    const dash = line.dash.length > 0 ? `[${line.dash.map(print).join(' ')}] ${print(line.dashOffset)} setdash ` : '';
    const pen =
      `${print(line.width)} setlinewidth ${{ butt: 0, round: 1, square: 2 }[line.cap]} setlinecap ` +
      `${{ miter: 0, round: 1, bevel: 2 }[line.join]} setlinejoin ${print(Math.max(1, line.miterLimit))} setmiterlimit ${dash}`;
    const drawn = [`[${matrix.map(print).join(' ')}] concat`, pen.trim(), path];
    if (typeof paint !== 'string') {
      this.shaded(shape, paint, alpha, [...drawn, 'strokepath', `[${inverse(matrix).join(' ')}] concat`, 'w']);
      return;
    }
    this.save();
    this.lines.push(...drawn, 'stroke');
    this.restore();
  }

  /** A gradient within what some operators clip to (§4.9.3), in the coordinates of the shape. */
  private shaded({ matrix }: CanvasShape, paint: Shading, alpha: number, clip: readonly string[]): void {
    this.level = 3;
    this.save();
    const toPage = multiply(this.toPage, matrix);
    this.lines.push(...clip, `[${toPage.map(print).join(' ')}] concat`, `${shadingOf(paint, alpha)} shfill`);
    this.restore();
  }

  private setColour(paint: string, alpha: number): void {
    const colour = rgbOf(paint, alpha).map(print).join(' ');
    if (colour !== this.colour) this.lines.push(`${colour} k`);
    this.colour = colour;
  }

  private save(): void {
    this.lines.push('q');
  }

  /** The colour from before is the current one again, whatever it was. */
  private restore(): void {
    this.lines.push('r');
    this.colour = '';
  }

  private path({ d, matrix }: CanvasClip): string {
    return printPath(stepsOf({ tag: 'path', attrs: { d } }), multiply(this.toPage, matrix));
  }
}

/** Steps as operators, a line for each. */
function printPath(steps: ReturnType<typeof stepsOf>, [a, b, c, d, e, f]: Matrix): string {
  const names = { M: 'm', L: 'l', C: 'c', Z: 'h' } as const;
  return steps
    .map(({ op, n }) => {
      const numbers: number[] = [];
      for (let i = 0; i < n.length; i += 2) numbers.push(a * n[i] + c * n[i + 1] + e, b * n[i] + d * n[i + 1] + f);
      return [...numbers.map(print), names[op]].join(' ');
    })
    .join('\n');
}

/** Red, green and blue from 0 to 1. */
function rgbOf(paint: string, alpha: number): [number, number, number] {
  const colour = parseColour(paint);
  if (!colour || colour.a * alpha < SOLID) throw new NotSaid();
  return [colour.r / 255, colour.g / 255, colour.b / 255];
}

/** A shading dictionary (§4.9.3, types 2 and 3) with a function of its stops (§3.10, types 2 and 3). */
function shadingOf(shading: Shading, alpha: number): string {
  const stops = shading.stops.map(({ offset, colour, alpha: own }) => ({
    at: offset,
    rgb: rgbOf(colour, own * alpha),
  }));
  if (stops[0].at > 0) stops.unshift({ ...stops[0], at: 0 });
  if (stops[stops.length - 1].at < 1) stops.push({ ...stops[stops.length - 1], at: 1 });
  const list = (values: readonly number[]) => `[${values.map(print).join(' ')}]`;
  const pieces = stops
    .slice(1)
    .map(({ rgb }, i) => `<< /FunctionType 2 /Domain [0 1] /C0 ${list(stops[i].rgb)} /C1 ${list(rgb)} /N 1 >>`);
  const between = stops.slice(1, -1).map(({ at }) => at);
  const whole =
    pieces.length === 1
      ? pieces[0]
      : `<< /FunctionType 3 /Domain [0 1] /Bounds ${list(between)} /Encode ${list(pieces.flatMap(() => [0, 1]))} /Functions [${pieces.join('\n')}] >>`;
  const line =
    shading.kind === 'linear'
      ? [shading.x1, shading.y1, shading.x2, shading.y2]
      : [shading.fx, shading.fy, shading.fr, shading.cx, shading.cy, shading.r];
  return `<< /ShadingType ${shading.kind === 'linear' ? 2 : 3} /ColorSpace /DeviceRGB /Coords ${list(line)} /Extend [true true] /Function ${whole} >>`;
}

/** A number as PostScript reads it: no exponent, no more digits than a real has there. */
function print(value: number): string {
  if (!Number.isFinite(value) || Math.abs(value) > 1e9) throw new NotSaid();
  const small = Math.abs(value) < 1 ? 7 : 4;
  const text = value.toFixed(small).replace(/\.?0+$/, '');
  return text === '-0' || text === '' ? '0' : text;
}

function inverse([a, b, c, d, e, f]: Matrix): string[] {
  const det = a * d - b * c;
  if (!(Math.abs(det) > 1e-12)) throw new NotSaid();
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det].map(print);
}
