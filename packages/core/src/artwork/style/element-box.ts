import { type Bounds, IDENTITY, multiply, parseTransform, transformBounds, unite } from '../../geometry/matrix';
import { eachPiece, pathBounds, pathSegments } from '../../geometry/path-geometry';
import { shapePath } from '../../geometry/shape-path';
import { isElement, type XmlElement } from '../markup/xml';

/** The box of an element in its own user space without strokes (SVG 2 §8.10), where its shapes tell it; null where text or pictures would. */
export function elementBox(node: XmlElement): Bounds | null {
  const boxes = (at: XmlElement, matrix = IDENTITY): Bounds | null => {
    if (at.foreign) return null;
    if (at.tag === 'g' || at.tag === 'a' || at.tag === 'svg') {
      let all: Bounds | null = null;
      for (const child of at.children) {
        if (!isElement(child) || child.attrs.display === 'none') continue;
        all = unite(all, boxes(child, multiply(matrix, parseTransform(child.attrs.transform ?? '') ?? IDENTITY)));
      }
      return all;
    }
    const d = at.tag === 'image' ? shapePath('rect', at.attrs) : shapePath(at.tag, at.attrs);
    const box = d ? pathBounds(pathSegments(d), null) : null;
    return box && transformBounds(matrix, box);
  };
  return boxes(node);
}

const PIECES_OF_A_CURVE = 64;

/** How long a shape's outline is, in its own units. */
export function lengthOf({ tag, attrs }: Pick<XmlElement, 'tag' | 'attrs'>): number {
  let length = 0;
  for (const { segments } of pathSegments(shapePath(tag, attrs))) {
    for (const segment of segments) {
      let [x, y] = segment;
      eachPiece([segment], PIECES_OF_A_CURVE, (toX, toY) => {
        length += Math.hypot(toX - x, toY - y);
        [x, y] = [toX, toY];
      });
    }
  }
  return length;
}
