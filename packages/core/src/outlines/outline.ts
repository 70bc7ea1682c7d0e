import { type Bounds, invert } from '../geometry/matrix';
import { AreaBuilder, turnedBy } from './area';
import { cleaned, contoursOf, printContours } from './contours';
import type { InkStep } from './ink-steps';
import type { PathKernel } from './kernel';
import { merged } from './merge';

/** The kernel works on a drawing of about this size, whatever its own. */
const KERNEL_UNITS = 4096;
const DECIMALS = 4;
/** How far a curve may be from those that it stands for, in px, and at the most one so many times smaller than the drawing. */
const MOST_OFF_PX = 0.01;
const MOST_OFF_SHARE = 8192;

export type Outline = {
  /** Path data in px; '' where nothing is left. It fills the same by both rules. */
  d: string;
  segments: number;
};

/** A way through the kernel. What one gets wrong, which is rare, another gets right. */
export type Way = { turned: number; halved: boolean; units: number };

/** In the order in which they are tried. */
export const WAYS: readonly Way[] = [
  { turned: 0, halved: false, units: KERNEL_UNITS },
  { turned: 0, halved: true, units: KERNEL_UNITS },
  { turned: 11, halved: false, units: KERNEL_UNITS },
  { turned: 37, halved: true, units: KERNEL_UNITS / 4 },
];

/**
 * Areas of ink as one compound path: united, cut, clipped to `page`, strokes as what they cover. Throws `NoOutline` when the
 * kernel gives up. It may be wrong without a word: hold it against the drawing.
 */
export function outlineOf(steps: readonly InkStep[], page: Bounds, kernel: PathKernel, way: Way): Outline {
  const size = Math.max(page.maxX - page.minX, page.maxY - page.minY, 1e-6);
  const scale = 2 ** Math.round(Math.log2(way.units / size));
  const builder = new AreaBuilder(kernel, { scale, turned: way.turned, halved: way.halved });
  try {
    for (const step of steps) builder.add(step);
    builder.within(page);
    const back = invert(turnedBy(way.turned, scale));
    const cut = cleaned(builder.commands().flatMap((commands) => contoursOf(commands, back)));
    const contours = cut.map((contour) => merged(contour, Math.min(MOST_OFF_PX, size / MOST_OFF_SHARE)));
    return {
      d: printContours(contours, DECIMALS),
      segments: contours.reduce((sum, { segments }) => sum + segments.length, 0),
    };
  } finally {
    builder.end();
  }
}
