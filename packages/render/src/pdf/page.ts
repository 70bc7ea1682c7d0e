import { IDENTITY, type Matrix, multiply, PT_PER_PX, parseViewBox, readTree, viewBoxTransform } from '@tolvik/core';
import { inRasteriserTerms } from '../svg/filter-terms';
import { INITIAL, inherit } from '../svg/style';
import { Content, type Doc, matrixText, type Ref } from './content';
import { drawChildren, drawNode } from './draw';
import type { Picture } from './pictures';
import type { Page, Place } from './place';

export type DrawnPage = { text: string; resources: Record<string, Record<string, Ref>>; flattened: boolean };

/** A composed SVG as the content of a PDF page of its size. `pictures` are those that stand in it, decoded. */
export function drawSvgPage(
  doc: Doc,
  svg: string,
  widthPx: number,
  heightPx: number,
  pictures: ReadonlyMap<string, Picture>,
): DrawnPage {
  const { root, byId } = readTree(svg);
  if (svg.includes('<filter')) inRasteriserTerms(byId);
  const page: Page = { doc, byId, root, pictures, widthPx, heightPx, flattened: false, drawChildren, drawNode };
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width: widthPx, height: heightPx };
  const toPage = viewBoxTransform(box, widthPx, heightPx, 'none');
  // PDF counts in points from below (ISO 32000-1 §8.3.2.3).
  const flip: Matrix = [PT_PER_PX, 0, 0, -PT_PER_PX, 0, heightPx * PT_PER_PX];
  const toStream = multiply(flip, toPage);
  const content = new Content();
  const seen = { minX: box.x, minY: box.y, maxX: box.x + box.width, maxY: box.y + box.height };
  const place: Place = { style: inherit(INITIAL, root.attrs), toStream, toPage, seen, grey: false, depth: 0 };
  content.op(`${matrixText(multiply(toStream, IDENTITY))} cm`);
  drawChildren(page, root, place, content);
  return { ...content.written, flattened: page.flattened };
}
