import { parseColour, type TreeNode } from '@tolvik/core';

/** Filters, in a tree that was just read, said so that the rasteriser draws what browsers draw. */

/** sRGB to linear light (IEC 61966-2-1), 0–255. */
const linear = (value: number): number => {
  const share = value / 255;
  return Math.round(255 * (share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4));
};

/** Changes the filters of a tree in place; answers whether it changed any. */
export function inRasteriserTerms(byId: ReadonlyMap<string, TreeNode>): boolean {
  let changed = false;
  for (const filter of byId.values()) {
    if (filter.tag !== 'filter') continue;
    for (const primitive of [...filter.children])
      changed = litInLinear(filter, primitive) || movedByOpaqueMap(filter, primitive) || changed;
  }
  return changed;
}

const spaceOf = (filter: TreeNode, { attrs }: TreeNode): string | undefined =>
  attrs['color-interpolation-filters'] ?? filter.attrs['color-interpolation-filters'];

/** A filter counts in linear light unless it says otherwise (Filter Effects 1 §11); the rasteriser forgets that for the colour of its lights. */
function litInLinear(filter: TreeNode, light: TreeNode): boolean {
  if (!/^fe(?:Diffuse|Specular)Lighting$/.test(light.tag) || spaceOf(filter, light) === 'sRGB') return false;
  const { r, g, b } = parseColour(light.attrs['lighting-color'] ?? '#fff') ?? { r: 255, g: 255, b: 255 };
  light.attrs['lighting-color'] = `rgb(${linear(r)},${linear(g)},${linear(b)})`;
  return true;
}

/**
 * What shifts a picture is read from colours as they are, not as their alpha thins them (Filter Effects 1 §9.8), which
 * the rasteriser does: so it gets them with an alpha of one, where alpha itself shifts nothing.
 */
function movedByOpaqueMap(filter: TreeNode, moved: TreeNode): boolean {
  const { attrs, tag } = moved;
  const byColour = (name: string) => /^[RGB]$/.test(attrs[name] ?? 'A');
  if (tag !== 'feDisplacementMap' || !byColour('xChannelSelector') || !byColour('yChannelSelector')) return false;
  const at = filter.children.indexOf(moved);
  const before = filter.children[at - 1];
  if (before && !attrs.in) before.attrs.result ??= `before-${at}`;
  const previous = before?.attrs.result ?? 'SourceGraphic';
  const space = spaceOf(filter, moved);
  filter.children.splice(at, 0, {
    tag: 'feComponentTransfer',
    attrs: {
      in: attrs.in2 ?? previous,
      result: `map-${at}`,
      ...(space === undefined ? {} : { 'color-interpolation-filters': space }),
    },
    children: [{ tag: 'feFuncA', attrs: { type: 'linear', slope: '0', intercept: '1' }, children: [] }],
  });
  attrs.in ??= previous;
  attrs.in2 = `map-${at}`;
  return true;
}
