import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Slice, sliceRecord } from '../document/records';
import type { Region } from '../geometry/region';
import type { Piece } from '../pieces/pieces';

export const MAX_TILES = 10_000;

/** Words a tile's name may hold: `{name}`, `{row}` and `{column}` from 1, `{number}`, `{letter}` for the row as a, b, …. */
export const TILE_WORDS = ['name', 'row', 'column', 'number', 'letter'] as const;

export type TilesOptions =
  | { columns: number; rows: number; gapPx: number; naming: string }
  | { tileWidthPx: number; tileHeightPx: number; gapPx: number; naming: string };

const edges = (start: number, length: number, count: number, gap: number) =>
  Array.from({ length: count }, (_, i) => {
    // Shared edges fall on whole px, so that tiles meet exactly and none is between pixels.
    const at = (n: number) => (n === count ? length : Math.round((length * n) / count));
    const from = at(i) + (i > 0 ? gap / 2 : 0);
    const to = at(i + 1) - (i < count - 1 ? gap / 2 : 0);
    return { from: start + from, size: to - from };
  });

const steps = (start: number, length: number, size: number, gap: number) => {
  const list: { from: number; size: number }[] = [];
  for (let at = 0; at < length - 1e-9; at += size + gap) {
    if (list.length > MAX_TILES) break;
    list.push({ from: start + at, size: Math.min(size, length - at) });
  }
  return list;
};

/** `a` to `z`, then `aa`, `ab` …, for the n-th from 0. */
function letters(n: number): string {
  const last = String.fromCharCode(97 + (n % 26));
  return n < 26 ? last : letters(Math.floor(n / 26) - 1) + last;
}

/**
 * The tiles a region is cut into, row by row. By count they cover it exactly (less the gaps); by size the last of a row or
 * column may be smaller. Throws a `Refusal` for more than `MAX_TILES` or for tiles of no size.
 */
export function tileRegions(region: Region, options: TilesOptions): { region: Region; row: number; column: number }[] {
  const byCount = 'columns' in options;
  const across = byCount
    ? edges(region.x, region.width, options.columns, options.gapPx)
    : steps(region.x, region.width, options.tileWidthPx, options.gapPx);
  const down = byCount
    ? edges(region.y, region.height, options.rows, options.gapPx)
    : steps(region.y, region.height, options.tileHeightPx, options.gapPx);
  if (across.length * down.length > MAX_TILES)
    refuse('tiles.many', `${across.length} × ${down.length} tiles are more than ${MAX_TILES.toLocaleString('en')}`, {
      accepted: 'fewer or larger tiles',
    });
  if (across.some(({ size }) => size <= 0) || down.some(({ size }) => size <= 0))
    refuse('tiles.small', 'some tiles would have no size', { accepted: 'fewer tiles or a smaller gap' });
  return down.flatMap((y, row) =>
    across.map((x, column) => ({ region: { x: x.from, y: y.from, width: x.size, height: y.size }, row, column })),
  );
}

/** The tiles a piece was cut into before, in the project's order. */
export const tilesOf = (doc: ProjectDocument, pieceId: string): Slice[] =>
  doc.list('slice').filter(({ tile }) => tile?.of === pieceId);

/**
 * Slices that cut a piece into tiles. Of those in `earlier`, the one at the same row and column goes on as the new tile,
 * with its name, specs and switches; `left` are those without a place among the new ones.
 */
export function cutIntoTiles(
  doc: ProjectDocument,
  { id, region, name, specIds }: Pick<Piece, 'id' | 'region' | 'name' | 'specIds'>,
  options: TilesOptions,
  earlier: readonly Slice[] = [],
): { tiles: Slice[]; left: Slice[] } {
  const regions = tileRegions(region, options);
  const place = ({ row, column }: { row: number; column: number }) => `${row} ${column}`;
  const before = new Map(earlier.flatMap((slice) => (slice.tile ? [[place(slice.tile), slice]] : [])));
  const orders = ordersAfter(lastOrder(doc.list('slice')), regions.length);
  const digits = String(regions.length).length;
  const tiles = regions.map(({ region: rect, row, column }, i) => {
    const source = { kind: 'region' as const, ...rect };
    const tile = { of: id, row, column };
    const known = before.get(place(tile));
    if (known) return { ...known, source, tile };
    const values: Record<string, string> = {
      name,
      row: String(row + 1),
      column: String(column + 1),
      number: String(i + 1).padStart(digits, '0'),
      letter: letters(row),
    };
    const named = options.naming.replace(/\{(\w+)\}/g, (whole, word) => values[word] ?? whole).trim();
    return sliceRecord.parse({
      id: newId(),
      kind: 'slice',
      order: orders[i],
      name: named || `${name}-${i + 1}`,
      source,
      tile,
      specIds: [...specIds],
    });
  });
  const goOn = new Set(tiles.map((tile) => tile.id));
  return { tiles, left: earlier.filter((slice) => !goOn.has(slice.id)) };
}
