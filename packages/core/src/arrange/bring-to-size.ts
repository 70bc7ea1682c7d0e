import { ProjectDocument } from '../document/document';
import type { Artboard, Edition, ProjectRecord } from '../document/records';
import { type Matrix, multiply, unlessIdentity } from '../geometry/matrix';
import { layersOn } from './move';
import { layOutInRows, ROWS_RATIO, roomFor } from './rows';

/**
 * Artboards scaled with what lies on them, so that the longer side of each is so many px, and laid out in rows where
 * there is room. Those that follow others are left to what they follow.
 */
export function broughtToSize(
  doc: ProjectDocument,
  artboards: readonly Artboard[],
  longestPx: number,
): ProjectRecord[] {
  const puts = new Map<string, ProjectRecord>();
  const own = artboards.filter(({ follows }) => !follows);
  for (const artboard of own) {
    const { x, y, width, height } = artboard;
    const scale = longestPx / Math.max(width, height);
    if (Math.abs(scale - 1) < 1e-9) continue;
    const grown: Matrix = [scale, 0, 0, scale, x - x * scale, y - y * scale];
    const tops = new Set<string>();
    for (const layer of layersOn(doc, artboard)) {
      if (puts.has(layer.id)) continue;
      tops.add(layer.id);
      puts.set(layer.id, {
        ...layer,
        transform: unlessIdentity(layer.transform ? multiply(grown, layer.transform) : grown),
      });
    }
    const side = (length: number) => Math.round(length * scale * 1e6) / 1e6;
    puts.set(artboard.id, { ...artboard, width: side(width), height: side(height) });
    for (const edition of doc.list('edition')) {
      const scaled = edition.artboardId === artboard.id ? withOffsets(edition, tops, scale) : edition;
      if (scaled !== edition) puts.set(edition.id, scaled);
    }
  }
  if (puts.size === 0 || own.length < 2) return [...puts.values()];
  const next = new ProjectDocument(doc.all());
  next.apply({ puts: [...puts.values()], removes: [] });
  const columns = Math.ceil(Math.sqrt(own.length * ROWS_RATIO));
  const grown = own.flatMap(({ id }) => next.find('artboard', id) ?? []);
  const options = { columns, gapPx: roomFor(longestPx), by: 'number' as const, renumber: false };
  for (const record of layOutInRows(next, grown, options)) puts.set(record.id, record);
  return [...puts.values()];
}

/** Differences of place of the layers that were scaled themselves; those within them are scaled with their group. */
function withOffsets(edition: Edition, tops: ReadonlySet<string>, scale: number): Edition {
  const moved = Object.entries(edition.overrides).filter(([id, { offset }]) => offset && tops.has(id));
  if (moved.length === 0) return edition;
  const overrides = { ...edition.overrides };
  for (const [id, override] of moved) {
    const { x, y } = override.offset ?? { x: 0, y: 0 };
    overrides[id] = { ...override, offset: { x: x * scale, y: y * scale } };
  }
  return { ...edition, overrides };
}
