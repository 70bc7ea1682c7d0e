import { type Bounds, largestScale, type TreeNode } from '@tolvik/core';
import { drawnAlone } from '../filtered';
import { unpremultiply } from '../png/encode';
import { type Content, num } from './content';
import { pixelsObject } from './pictures';
import type { Page, Place } from './place';

/** A picture has at least so many px for each px of the page: 600 dpi of its real size. */
const PX_PER_PX = 600 / 96;

/**
 * Draws a node with a filter as a picture, since PDF knows none: only around what it leaves, with its filter but
 * without its clip, mask, opacity and blending, which stay what they are.
 */
export function drawnByPixels(page: Page, node: TreeNode, place: Place, alpha: number, content: Content): void {
  const drawn = drawnAlone(page.root, node, place.style, place.seen, largestScale(place.toPage) * PX_PER_PX);
  if (!drawn) return;
  const { pixels, width, height, box } = drawn;
  unpremultiply(pixels);
  page.flattened = true;
  const object = pixelsObject(page.doc, pixels, width, height, { grey: place.grey });
  content.op('q');
  if (alpha < 1) {
    const state = page.doc.ref({ Type: 'ExtGState', ca: alpha, CA: alpha });
    state.end();
    content.op(`/${content.name('ExtGState', state)} gs`);
  }
  content.op(`${placedIn(box)} cm\n/${content.name('XObject', object)} Do\nQ`);
}

/** An image fills the unit square, its first row on top (ISO 32000-1 §8.9.5). */
const placedIn = ({ minX, minY, maxX, maxY }: Bounds): string =>
  [maxX - minX, 0, 0, minY - maxY, minX, maxY].map((value) => num(value, 10)).join(' ');
