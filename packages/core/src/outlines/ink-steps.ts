import { parseColour } from '../artwork/colour/colours';
import {
  type CanvasClip,
  type CanvasPaint,
  type CanvasShape,
  type CanvasStep,
  canvasSteps,
} from '../compose/canvas-steps';
import { NoOutline } from './kernel';

/** One area that is added to the ink, or cut out of it, within its clips: a path filled, or stroked. */
export type InkStep = CanvasClip & {
  clips: readonly CanvasClip[];
  stroke: Omit<NonNullable<CanvasShape['stroke']>, keyof CanvasPaint> | null;
  cuts: boolean;
};

/** Paint that covers less than this is ground, and else ink. */
export const COVERS = 0.5;

/**
 * The areas of a drawing in black and white, from back to front: what is light is ink, what is dark is cut out of it.
 * Whatever is half transparent or more solid counts as solid, the rest is left out. `svg` is a composed SVG without
 * anything but shapes, groups, solid colours, gradients of one lightness and clips by one shape; throws `NoOutline` for
 * others.
 */
export function inkSteps(svg: string): InkStep[] {
  const steps = canvasSteps(svg);
  if (!steps) throw new NoOutline('it holds what has no outline: a mask, a filter, a pattern, a picture', true);
  return flattened(steps);
}

function flattened(steps: readonly CanvasStep[]): InkStep[] {
  return steps.flatMap((step) => {
    if (step.kind === 'group') return step.alpha >= COVERS ? flattened(step.steps) : [];
    const { d, matrix, rule, clips, fill, stroke, strokeFirst } = step;
    const made: InkStep[] = [];
    const light = fill && lightness(fill);
    if (light !== null) made.push({ d, matrix, rule, clips, stroke: null, cuts: light === 'dark' });
    const lightStroke = stroke && lightness(stroke);
    if (stroke && lightStroke !== null) {
      const { paint: _, alpha: __, ...line } = stroke;
      made.push({ d, matrix, rule, clips, stroke: line, cuts: lightStroke === 'dark' });
    }
    return strokeFirst ? made.reverse() : made;
  });
}

/** Whether paint is light or dark; null for what hardly covers. */
function lightness({ paint, alpha }: CanvasPaint): 'light' | 'dark' | null {
  const colours = (typeof paint === 'string' ? [{ colour: paint, alpha: 1 }] : paint.stops).map((stop) => {
    const colour = parseColour(stop.colour);
    if (!colour) throw new NoOutline(`no colour: ${stop.colour}`, true);
    return { light: colour.r >= 128, alpha: colour.a * stop.alpha };
  });
  const covers = colours.map((colour) => colour.alpha * alpha >= COVERS);
  if (covers.some((each) => each !== covers[0]) || colours.some(({ light }) => light !== colours[0].light))
    throw new NoOutline('a gradient goes from ink to ground', true);
  return covers[0] ? (colours[0].light ? 'light' : 'dark') : null;
}
