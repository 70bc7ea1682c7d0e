import type { TreeNode } from '../tree';

/** How far from a place a filter takes what it draws there: in units of the user space, and in px of its picture. */
export type Reach = { units: number; px: number };

type Attrs = Readonly<Record<string, string>>;

const px = (text: string | undefined, otherwise: number): number => {
  const value = Number.parseFloat(text ?? '');
  return Number.isFinite(value) ? value : otherwise;
};
const largest = (text: string | undefined): number =>
  Math.max(0, ...(text ?? '0').split(/[\s,]+/).map((each) => Math.abs(Number.parseFloat(each) || 0)));
const nowhere = (): Reach => ({ units: 0, px: 0 });
const moved = ({ dx, dy }: Attrs, otherwise: number) =>
  Math.max(Math.abs(px(dx, otherwise)), Math.abs(px(dy, otherwise)));

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
  feDisplacementMap: ({ scale }) => ({ units: Math.abs(px(scale, 0)) / 2, px: 1 }),
  feConvolveMatrix: ({ order }) => ({ units: 0, px: largest(order ?? '3') }),
  feDiffuseLighting: () => ({ units: 0, px: 1 }),
  feSpecularLighting: () => ({ units: 0, px: 1 }),
};

/** How far a filter reaches at the most; null where it may take from anywhere, or measures by its object's box. */
export function filterReach({ attrs, children }: TreeNode): Reach | null {
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
export const thickestMorphology = ({ children }: TreeNode): number =>
  Math.max(0, ...children.map(({ tag, attrs }) => (tag === 'feMorphology' ? largest(attrs.radius) : 0)));
