import type { ReadArtwork } from '../artwork/reading/read-svg';
import type { Problem } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, artboardRecord, COORDINATE_LIMIT, type Layer, type ProjectRecord } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { unlessIdentity } from '../geometry/matrix';
import { LEAST_GAP, ROWS_RATIO, roomFor } from './rows';

export type NamedArtwork = { name: string; artwork: ReadArtwork };

/** Where the next row of artboards starts: below everything there is. */
function startBelow(doc: ProjectDocument): number {
  let bottom = 0;
  let any = false;
  for (const board of doc.list('artboard')) {
    bottom = Math.max(bottom, board.y + board.height);
    any = true;
  }
  return any ? Math.ceil(bottom) + LEAST_GAP * 2 : 0;
}

/**
 * Puts files on the Bench: one artboard a file, of the file's own size, named after it, on whole pixels, in rows about
 * as wide as they are high altogether. Files of very different sizes stand in rows of their own, the small first, each
 * in the order in which they came. Answers the new records; a file for which the plane has no room left is told and
 * left out.
 */
export function placeFiles(
  doc: ProjectDocument,
  files: readonly NamedArtwork[],
  specIds: readonly string[],
  refused: (file: NamedArtwork, problem: Problem) => void = () => {},
): ProjectRecord[] {
  const artboardOrders = ordersAfter(lastOrder(doc.list('artboard')), files.length);
  const layerOrders = ordersAfter(lastOrder(doc.children('root')), files.length);
  const places = placesFor(files, startBelow(doc));
  const records: ProjectRecord[] = [];
  files.forEach((file, i) => {
    const { name, artwork } = file;
    const { x, y } = places[i];
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
  });
  return records;
}

/** Longer sides within this factor stand in rows together. */
const ALIKE = 4;

/** Where each file goes, from a height of the plane down; in the order of the files. */
function placesFor(files: readonly NamedArtwork[], top: number): { x: number; y: number }[] {
  const places: { x: number; y: number }[] = [];
  let y = top;
  for (const group of bySize(files)) {
    const area = group.reduce((sum, i) => sum + roomOf(files[i]), 0);
    const widest = Math.max(...group.map((i) => files[i].artwork.width));
    const rowWidth = Math.min(Math.max(widest, Math.sqrt(area * ROWS_RATIO)), COORDINATE_LIMIT);
    let x = 0;
    let rowHeight = 0;
    const nextRow = () => {
      x = 0;
      y += Math.ceil(rowHeight) + roomFor(rowHeight);
      rowHeight = 0;
    };
    for (const i of group) {
      const { width, height } = files[i].artwork;
      if (x > 0 && x + width > rowWidth) nextRow();
      places[i] = { x, y };
      // A file that the plane has no room for takes none.
      if (y + height > COORDINATE_LIMIT) continue;
      x += Math.ceil(width) + roomFor(height);
      rowHeight = Math.max(rowHeight, height);
    }
    nextRow();
    y += LEAST_GAP;
  }
  return places;
}

const roomOf = ({ artwork: { width, height } }: NamedArtwork): number => (width + LEAST_GAP) * (height + LEAST_GAP);

/** Files by their places, in groups whose sizes can be worked on side by side, the smallest group first. */
function bySize(files: readonly NamedArtwork[]): number[][] {
  const longest = files.map(({ artwork }) => Math.max(artwork.width, artwork.height));
  const groups: number[][] = [];
  let from = 0;
  for (const i of files.map((_, at) => at).sort((a, b) => longest[a] - longest[b] || a - b)) {
    if (groups.length === 0 || longest[i] > from * ALIKE) {
      groups.push([]);
      from = longest[i];
    }
    groups.at(-1)?.push(i);
  }
  return groups.map((group) => group.sort((a, b) => a - b));
}

function moved(layer: Layer, x: number, y: number, order: string, name: string): Layer {
  const [a, b, c, d, e, f] = layer.transform ?? [1, 0, 0, 1, 0, 0];
  const transform: Matrix = [a, b, c, d, e + x, f + y];
  return { ...layer, order, name: layer.name || name, transform: unlessIdentity(transform) };
}
