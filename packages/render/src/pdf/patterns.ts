import { type Bounds, IDENTITY, multiply, type TreeNode } from '@tolvik/core';
import { patternSpace } from '../svg/definition-spaces';
import { INITIAL, inherit } from '../svg/style';
import { Content, Exact, matrixText, type Ref } from './content';
import { DEEPEST, type Page, type Place, within } from './place';

/** A tiling pattern (ISO 32000-1 §8.7.3); null where it draws nothing (SVG 2 §14.3). */
export function tilingPattern(page: Page, node: TreeNode, box: Bounds | null, place: Place): Ref | null {
  if (place.depth > DEEPEST) return null;
  const space = patternSpace(node, box);
  if (!space) return null;
  const { tile, width, height, content } = space;
  const stream = new Content();
  const at: Place = {
    ...place,
    style: inherit(INITIAL, node.attrs),
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
