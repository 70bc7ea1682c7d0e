import {
  type Bounds,
  IDENTITY,
  type Matrix,
  multiply,
  parseTransform,
  parseViewBox,
  type TreeNode,
  viewBoxTransform,
} from '@tolvik/core';
import { INITIAL, inherit, number } from '../svg/style';
import { Content, Exact, matrixText, type Ref } from './content';
import { boxMatrix } from './gradients';
import { DEEPEST, type Page, type Place, within } from './place';

/** A tiling pattern (ISO 32000-1 §8.7.3); null where it draws nothing (SVG 2 §14.3). */
export function tilingPattern(page: Page, node: TreeNode, box: Bounds | null, place: Place): Ref | null {
  if (place.depth > DEEPEST) return null;
  const { attrs } = node;
  const inBox = boxMatrix(box);
  const units = attrs.patternUnits === 'userSpaceOnUse' ? IDENTITY : inBox;
  if (!units) return null;
  const length = (name: string) =>
    attrs[name]?.trim().endsWith('%') ? number(attrs[name], 0) / 100 : number(attrs[name], 0);
  const [x, y] = [units[0] * length('x') + units[4], units[3] * length('y') + units[5]];
  const [width, height] = [units[0] * length('width'), units[3] * length('height')];
  if (!(width > 0) || !(height > 0)) return null;
  const view = parseViewBox(attrs.viewBox);
  const content = view
    ? viewBoxTransform(view, width, height, attrs.preserveAspectRatio)
    : attrs.patternContentUnits === 'objectBoundingBox'
      ? inBox && ([inBox[0], 0, 0, inBox[3], 0, 0] as Matrix)
      : IDENTITY;
  if (!content) return null;
  const tile = multiply(
    multiply(parseTransform(attrs.patternTransform ?? '') ?? IDENTITY, [1, 0, 0, 1, x, y]),
    IDENTITY,
  );
  const stream = new Content();
  const at: Place = {
    ...place,
    style: inherit(INITIAL, attrs),
    toStream: IDENTITY,
    toPage: multiply(place.toPage, tile),
    seen: { minX: 0, minY: 0, maxX: width, maxY: height },
    depth: place.depth + 1,
  };
  // The origin of the content is the tile's corner.
  stream.op(`${matrixText(content)} cm`);
  page.drawChildren(page, node, within(at, content), stream);
  return stream.toObject(page.doc, {
    Type: 'Pattern',
    PatternType: 1,
    PaintType: 1,
    TilingType: 1,
    BBox: new Exact([0, 0, width, height]),
    XStep: width,
    YStep: height,
    Matrix: new Exact(multiply(place.toStream, tile)),
  });
}
