import { type Bounds, intersect, referred } from '@tolvik/core';
import { maskSpace } from '../svg/definition-spaces';
import { INITIAL, inherit } from '../svg/style';
import { Content, matrixText, nums, type Ref } from './content';
import { drawGroup, maskObject } from './groups';
import { DEEPEST, decimalsFor, inStream, type Page, type Place, within } from './place';

/** A mask as a soft mask (CSS Masking 1 §5, ISO 32000-1 §11.5); null when there is none. */
export function softMask(page: Page, id: string, box: Bounds | null, place: Place): Ref | 'nothing' | null {
  const definition = page.byId.get(id);
  if (definition?.tag !== 'mask') return null;
  const { attrs } = definition;
  const space = maskSpace(definition, box);
  const seen = space && intersect(space.region, place.seen);
  if (!seen) return 'nothing';
  const { region, content: base } = space;
  const luminance = attrs['mask-type'] !== 'alpha';
  const form = new Content();
  const at: Place = {
    ...inStream(place),
    seen,
    style: inherit(INITIAL, attrs),
    grey: luminance,
    depth: place.depth + 1,
  };
  const draw = (to: Content, inner: Place) => {
    to.op(
      `q\n${nums([region.minX, region.minY, region.maxX - region.minX, region.maxY - region.minY], decimalsFor(place))} re W n`,
    );
    to.op(`${matrixText(base)} cm`);
    page.drawChildren(page, definition, within(inner, base), to);
    to.op('Q');
  };
  const own = referred(attrs.mask);
  const further = own && own !== id && at.depth < DEEPEST ? softMask(page, own, box, at) : null;
  if (further === 'nothing') return 'nothing';
  if (further) drawGroup(page, at, form, { mask: further }, draw);
  else draw(form, at);
  return maskObject(page, form, seen, luminance ? 'Luminosity' : 'Alpha');
}
