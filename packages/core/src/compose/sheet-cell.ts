import { printNumber } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import { RULE } from './page-words';

const n = (value: number) => printNumber(value, 3);
/** Room around artwork in a cell, as a share of its shorter side. */
const INSET = 0.08;

type Drawn = {
  /** What of the plane is shown. */
  region: Region;
  ground: string | null;
  /** An id of its own. */
  clip: string;
  /** The drawing, from the upper left corner of its region. */
  inner: string;
};

/** A drawing on its ground, within its own edges, at a place of the page (px) and a scale. */
export function drawnAt({
  x,
  y,
  scale,
  region,
  ground,
  clip,
  inner,
}: Drawn & { x: number; y: number; scale: number }): string {
  const edges = `width="${n(region.width)}" height="${n(region.height)}"`;
  const under = ground ? `<rect ${edges} fill="${ground}"/>` : '';
  return `<g transform="translate(${n(x)} ${n(y)}) scale(${printNumber(scale, 6)})"><clipPath id="${clip}"><rect ${edges}/></clipPath><g clip-path="url(#${clip})">${under}${inner}</g></g>`;
}

export type SheetCell = Drawn & {
  /** Where the cell is on the page, in px. */
  box: Region;
  /** Whether the ground fills the cell, or only lies under the artwork. */
  fills: boolean;
};

/** A cell of a page: a drawing as large as there is room for, in the middle of a frame. */
export function inCell({ box, ground, fills, ...drawn }: SheetCell): string {
  const { region } = drawn;
  const inset = ground && !fills ? 0 : INSET * Math.min(box.width, box.height);
  const [w, h] = [box.width - 2 * inset, box.height - 2 * inset];
  const scale = Math.min(w / region.width, h / region.height);
  const x = box.x + (box.width - region.width * scale) / 2;
  const y = box.y + (box.height - region.height * scale) / 2;
  const cell = `x="${n(box.x)}" y="${n(box.y)}" width="${n(box.width)}" height="${n(box.height)}"`;
  const below = fills ? `<rect ${cell} fill="${ground}"/>` : '';
  const frame = `<rect ${cell} fill="none" stroke="${RULE}" stroke-width="0.75"/>`;
  return below + drawnAt({ ...drawn, x, y, scale, ground: fills ? null : ground }) + frame;
}
