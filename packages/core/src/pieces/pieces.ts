import { artworkIndex } from '../artwork/bounds/artwork-index';
import { layerBounds } from '../artwork/bounds/bounds';
import { groupBy } from '../basics/group-by';
import type { ProjectDocument } from '../document/document';
import type { Artboard, Edition, Slice } from '../document/records';
import type { Bounds } from '../geometry/matrix';
import { outward, type Region, regionAround, regionOfBounds, squared, withMargin } from '../geometry/region';
import { followedLayout, regionOf } from './placements';

/** What a piece is as a record. */
export type PieceRecord = Artboard | Slice | Edition;

/** The record of a piece as it is now. */
export const pieceRecord = (doc: ProjectDocument, id: string): PieceRecord | undefined =>
  doc.find('artboard', id) ?? doc.find('slice', id) ?? doc.find('edition', id);

/** The artboard that a piece is, or is an edition of; none for a slice. */
export const artboardOf = (doc: ProjectDocument, record: PieceRecord): Artboard | undefined =>
  record.kind === 'artboard' ? record : record.kind === 'edition' ? doc.find('artboard', record.artboardId) : undefined;

/** Whatever becomes files, with the part of the plane it shows. */
export type Piece = {
  id: string;
  kind: 'artboard' | 'slice' | 'edition';
  /** Its place in the project, from 1; also what `{number}` writes. */
  number: number;
  name: string;
  on: boolean;
  specIds: readonly string[];
  offOutputIds: readonly string[];
  region: Region;
  /** In words, when it cannot become files: what it follows is gone, or it holds nothing. */
  problem?: string;
  record: PieceRecord;
};

const NOWHERE: Region = { x: 0, y: 0, width: 1, height: 1 };

/** The part of the plane a slice shows, or why there is none. */
export function sliceRegion(doc: ProjectDocument, slice: Slice): Region | string {
  const { source } = slice;
  let region: Region | null = null;
  switch (source.kind) {
    case 'region':
      region = { x: source.x, y: source.y, width: source.width, height: source.height };
      break;
    case 'layer': {
      const layer = doc.find('layer', source.layerId);
      if (!layer) return 'the layer it follows was deleted';
      const bounds = layerBounds(doc, layer.id);
      if (!bounds) return 'the layer it follows draws nothing';
      region = regionOfBounds(bounds);
      break;
    }
    case 'artboards': {
      const boards = source.artboardIds.map((id) => doc.find('artboard', id)).filter((board) => board !== undefined);
      const outer = regionAround(boards);
      if (!outer) return 'its artboards were deleted';
      region = outer;
      break;
    }
    case 'everything': {
      const outer = source.to === 'artboards' ? regionAround(doc.list('artboard')) : null;
      const { bounds } = artworkIndex(doc);
      if (!outer && !bounds) return 'there is no artwork yet';
      region = outer ?? regionOfBounds(bounds as Bounds);
      break;
    }
  }
  region = withMargin(region, slice.margin);
  if (!(region.width > 0 && region.height > 0)) return 'nothing is left inside its margin';
  if (source.kind === 'region') return region;
  const { square = false, wholePx = false } = slice;
  const whole = wholePx ? outward(region) : region;
  return square ? squared(whole, wholePx) : whole;
}

/** Every piece of a project in its order, each with a number of its own: artboards, each followed by its editions, then slices. */
export function pieces(doc: ProjectDocument): readonly Piece[] {
  const known = listed.get(doc);
  if (known?.revision === doc.revision) return known.list;
  const list = listPieces(doc);
  listed.set(doc, { revision: doc.revision, list });
  return list;
}

const listed = new WeakMap<ProjectDocument, { revision: number; list: readonly Piece[] }>();

function listPieces(doc: ProjectDocument): Piece[] {
  const list: Piece[] = [];
  const editions = groupBy(doc.list('edition'), (edition) => edition.artboardId);
  let number = 0;
  for (const record of doc.list('artboard')) {
    number++;
    const region = regionOf(record);
    const layout = record.follows ? followedLayout(doc, record) : null;
    list.push(
      typeof layout === 'string'
        ? { ...piece(record, number, region), problem: layout }
        : piece(record, number, region),
    );
    for (const edition of editions.get(record.id) ?? []) list.push(piece(edition, ++number, region));
  }
  for (const record of doc.list('slice')) {
    number++;
    const region = sliceRegion(doc, record);
    list.push(
      typeof region === 'string'
        ? { ...piece(record, number, NOWHERE), problem: region }
        : piece(record, number, region),
    );
  }
  return list;
}

/** A record as a piece by itself, to be composed outside of the project's list. */
export const pieceAlone = (record: PieceRecord, region: Region): Piece => piece(record, 1, region);

function piece(record: PieceRecord, number: number, region: Region): Piece {
  const { id, kind, name, on, specIds, offOutputIds } = record;
  return { id, kind, number, name, on, specIds, offOutputIds, region, record };
}

/**
 * Picks from a list by what was typed: "3-9, 12" by number, anything else by text in the name.
 * An empty query picks all.
 */
export function pickPieces<T extends { name: string; number: number }>(list: readonly T[], query: string): T[] {
  const text = query.trim();
  if (!text) return [...list];
  if (/^[\d\s,;–-]+$/.test(text) && /\d/.test(text)) {
    const ranges = text.split(/[,;]+/).map((part) => {
      const [from, to] = part.split(/[-–]/).map((n) => (n.trim() === '' ? Number.NaN : Number(n)));
      return to === undefined ? [from, from] : [Number.isNaN(from) ? 1 : from, Number.isNaN(to) ? Infinity : to];
    });
    return list.filter(({ number }) =>
      ranges.some(([from, to]) => number >= Math.min(from, to) && number <= Math.max(from, to)),
    );
  }
  const folded = text.toLowerCase();
  return list.filter(({ name }) => name.toLowerCase().includes(folded));
}

/**
 * Picks as `pickPieces` does, but a name that is one's own alone picks just that: "mark" is not "mark-bold". Names and
 * numbers with commas between are picked together, in their order in the list; nothing when one of them is nobody's.
 */
export function picked<T extends { name: string; number: number }>(list: readonly T[], query: string): T[] {
  const folded = query.trim().toLowerCase();
  const own = list.filter(({ name }) => name.toLowerCase() === folded);
  if (own.length > 0) return own;
  const all = pickPieces(list, query);
  if (all.length > 0 || !query.includes(',')) return all;
  const parts = query.split(',').flatMap((part) => (part.trim() === '' ? [] : [picked(list, part)]));
  if (parts.some((part) => part.length === 0)) return [];
  const chosen = new Set(parts.flat());
  return list.filter((each) => chosen.has(each));
}
