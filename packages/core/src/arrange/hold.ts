import { layerBoxes } from '../artwork/bounds/artwork-index';
import type { ProjectDocument } from '../document/document';
import type { Artboard, Layer, ProjectRecord } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { type Bounds, multiply, translate } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import { regionOf } from '../pieces/placements';
import { layersOn } from './move';
import { transformedLayer } from './transform';

type Side = { from: number; to: number };

/** Where the ends of a span go when what it lies in is resized. */
function held(span: Side, before: Side, after: Side, hold: 'start' | 'centre' | 'end' | 'both' | undefined): Side {
  const [start, end] = [after.from - before.from, after.to - before.to];
  switch (hold) {
    case undefined:
      return span;
    case 'start':
      return { from: span.from + start, to: span.to + start };
    case 'end':
      return { from: span.from + end, to: span.to + end };
    case 'centre':
      return { from: span.from + (start + end) / 2, to: span.to + (start + end) / 2 };
    case 'both':
      // Never turned inside out: at the least it is left a px wide.
      return {
        from: span.from + start,
        to: Math.max(span.from + start + Math.min(1, span.to - span.from), span.to + end),
      };
  }
}

const ENDS = { left: 'start', top: 'start', centre: 'centre', right: 'end', bottom: 'end', both: 'both' } as const;

/** The matrix on the plane that takes a box to where its holds want it; null when it stays. */
function heldMatrix(box: Bounds, { hold = {} }: Layer, before: Region, after: Region): Matrix | null {
  const x = held(
    { from: box.minX, to: box.maxX },
    { from: before.x, to: before.x + before.width },
    { from: after.x, to: after.x + after.width },
    hold.x && ENDS[hold.x],
  );
  const y = held(
    { from: box.minY, to: box.maxY },
    { from: before.y, to: before.y + before.height },
    { from: after.y, to: after.y + after.height },
    hold.y && ENDS[hold.y],
  );
  const grown = (side: Side, from: number, to: number) => (to > from ? (side.to - side.from) / (to - from) : 1);
  const [sx, sy] = [grown(x, box.minX, box.maxX), grown(y, box.minY, box.maxY)];
  if (sx === 1 && sy === 1 && x.from === box.minX && y.from === box.minY) return null;
  return multiply(multiply(translate(x.from, y.from), [sx, 0, 0, sy, 0, 0]), translate(-box.minX, -box.minY));
}

/**
 * An artboard of another size or place, with the layers on it that hold to its edges or middle moved or stretched along;
 * others stay where they are on the plane. A layer inside one that holds goes with that.
 */
export function resizeArtboard(doc: ProjectDocument, artboard: Artboard, region: Region): ProjectRecord[] {
  const puts: ProjectRecord[] = [{ ...artboard, ...region }];
  const before = regionOf(artboard);
  const boxes = layerBoxes(doc);
  const walk = (layer: Layer) => {
    if (!layer.hold?.x && !layer.hold?.y) {
      for (const child of doc.children(layer.id)) walk(child);
      return;
    }
    // Hidden layers move along, too: an edition may show them.
    const box = boxes.get(layer.id);
    const matrix = box && heldMatrix(box, layer, before, region);
    if (matrix) puts.push(transformedLayer(doc, layer, matrix));
  };
  if (!artboard.follows) for (const layer of layersOn(doc, artboard)) walk(layer);
  return puts;
}
