import type { ReadArtwork } from '../artwork/reading/read-svg';
import type { Problem } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, artboardRecord, COORDINATE_LIMIT, type Layer, type ProjectRecord } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { isIdentity } from '../geometry/matrix';

export type NamedArtwork = { name: string; artwork: ReadArtwork };

const GAP = 16;

/** Where the next row of artboards starts: below everything there is. */
function startBelow(doc: ProjectDocument): number {
  let bottom = 0;
  let any = false;
  for (const board of doc.list('artboard')) {
    bottom = Math.max(bottom, board.y + board.height);
    any = true;
  }
  return any ? Math.ceil(bottom) + GAP * 2 : 0;
}

/**
 * Puts files on the Bench: one artboard a file, of the file's own size, named after it, in rows about
 * as wide as they are high altogether, on whole pixels. Answers the new records; a file for which the plane has no
 * room left is told and left out.
 */
export function placeFiles(
  doc: ProjectDocument,
  files: readonly NamedArtwork[],
  specIds: readonly string[],
  refused: (file: NamedArtwork, problem: Problem) => void = () => {},
): ProjectRecord[] {
  let area = 0;
  let widest = 0;
  for (const { artwork } of files) {
    area += (artwork.width + GAP) * (artwork.height + GAP);
    widest = Math.max(widest, artwork.width);
  }
  const rowWidth = Math.min(Math.max(widest, Math.sqrt(area * 1.6)), COORDINATE_LIMIT);
  const artboardOrders = ordersAfter(lastOrder(doc.list('artboard')), files.length);
  const layerOrders = ordersAfter(lastOrder(doc.children('root')), files.length);
  const records: ProjectRecord[] = [];
  let x = 0;
  let y = startBelow(doc);
  let rowHeight = 0;
  files.forEach((file, i) => {
    const { name, artwork } = file;
    if (x > 0 && x + artwork.width > rowWidth) {
      x = 0;
      y += Math.ceil(rowHeight) + gapFor(rowHeight);
      rowHeight = 0;
    }
    if (y + artwork.height > COORDINATE_LIMIT) {
      refused(file, {
        code: 'bench.full',
        message: `there is no room left on the Bench for ${name}`,
        where: name,
        accepted: `artwork within ${COORDINATE_LIMIT.toLocaleString('en')} px of the origin`,
      });
      return;
    }
    for (const layer of artwork.layers)
      records.push(layer.id === artwork.rootId ? moved(layer, x, y, layerOrders[i], name) : layer);
    records.push(
      artboardRecord.parse({
        id: newId(),
        kind: 'artboard',
        order: artboardOrders[i],
        name,
        x,
        y,
        width: artwork.width,
        height: artwork.height,
        specIds: [...specIds],
      }) satisfies Artboard,
    );
    x += Math.ceil(artwork.width) + gapFor(artwork.height);
    rowHeight = Math.max(rowHeight, artwork.height);
  });
  return records;
}

/** Large artwork stands further apart, so that tickets have room. */
const gapFor = (height: number) => Math.max(GAP, Math.round(height / 4 / 8) * 8);

function moved(layer: Layer, x: number, y: number, order: string, name: string): Layer {
  const [a, b, c, d, e, f] = layer.transform ?? [1, 0, 0, 1, 0, 0];
  const transform: Matrix = [a, b, c, d, e + x, f + y];
  return { ...layer, order, name: layer.name || name, transform: isIdentity(transform) ? undefined : transform };
}
