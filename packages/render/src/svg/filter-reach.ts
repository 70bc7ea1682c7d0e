import type { Bounds, TreeNode } from '@tolvik/core';
import { number } from './style';

/** How far from a place a filter takes what it draws there: in units of the user space, and in px of its picture. */
export type Reach = { units: number; px: number };

type Attrs = Readonly<Record<string, string>>;

const largest = (text: string | undefined): number =>
  Math.max(0, ...(text ?? '0').split(/[\s,]+/).map((each) => Math.abs(number(each, 0))));
const nowhere = (): Reach => ({ units: 0, px: 0 });
const moved = ({ dx, dy }: Attrs, otherwise: number) =>
  Math.max(Math.abs(number(dx, otherwise)), Math.abs(number(dy, otherwise)));

const REACH: Record<string, (attrs: Attrs) => Reach> = {
  feColorMatrix: nowhere,
  feComponentTransfer: nowhere,
  feFlood: nowhere,
  feTurbulence: nowhere,
  feMerge: nowhere,
  feBlend: nowhere,
  feComposite: nowhere,
  feOffset: (attrs) => ({ units: moved(attrs, 0), px: 0 }),
  feMorphology: ({ radius }) => ({ units: largest(radius), px: 1 }),
  feGaussianBlur: ({ stdDeviation }) => ({ units: 3 * largest(stdDeviation), px: 1 }),
  feDropShadow: (attrs) => ({ units: moved(attrs, 2) + 3 * largest(attrs.stdDeviation ?? '2'), px: 1 }),
  feDisplacementMap: ({ scale }) => ({ units: Math.abs(number(scale, 0)) / 2, px: 1 }),
  feConvolveMatrix: ({ order }) => ({ units: 0, px: largest(order ?? '3') }),
  feDiffuseLighting: () => ({ units: 0, px: 1 }),
  feSpecularLighting: () => ({ units: 0, px: 1 }),
};

/** How far a filter reaches at the most; null where it may take from anywhere, or measures by its object's box. */
export function reachOf({ attrs, children }: TreeNode): Reach | null {
  if (attrs.primitiveUnits === 'objectBoundingBox') return null;
  const reach = { units: 0, px: 0 };
  for (const { tag, attrs: said } of children) {
    const own = REACH[tag]?.(said);
    if (!own) return null;
    reach.units += own.units;
    reach.px += own.px;
  }
  return reach;
}

/** The largest radius, in units, by which a filter grows or thins shapes: the time that takes goes by its square. */
export const thickest = ({ children }: TreeNode): number =>
  Math.max(0, ...children.map(({ tag, attrs }) => (tag === 'feMorphology' ? largest(attrs.radius) : 0)));

export const grown = ({ minX, minY, maxX, maxY }: Bounds, by: number): Bounds => ({
  minX: minX - by,
  minY: minY - by,
  maxX: maxX + by,
  maxY: maxY + by,
});
