import { artworkIndex } from '../artwork/bounds/artwork-index';
import { layerBounds } from '../artwork/bounds/bounds';
import { textWords } from '../artwork/text/words';
import type { ProjectDocument } from '../document/document';
import { meansNothing } from '../document/given-names';
import type { Artboard, Edition, Layer, Slice } from '../document/records';
import { type Bounds, boundsOf, grow } from '../geometry/matrix';
import { pieces } from '../pieces/pieces';
import { layersOn } from './move';

type Named = Artboard | Slice | Edition;

/** Where names can be taken from: the layers on each piece, or the text that stands nearest to it. */
export const NAMES_FROM = ['layers', 'texts'] as const;
export type NamesFrom = (typeof NAMES_FROM)[number];

/** A text further away than this, in sides of the piece, is not about it. */
const FARTHEST_TEXT = 1;
const MOST_LETTERS = 80;
/** Texts that are looked at for one piece, the nearest. */
const MOST_NEAR = 12;

/** A name for each of some pieces from what is drawn; '' where nothing there says one. */
export const namesFrom = (doc: ProjectDocument, records: readonly Named[], from: NamesFrom): string[] =>
  from === 'layers' ? records.map((record) => nameFromLayers(doc, record)) : namesFromTexts(doc, records);

const area = ({ minX, minY, maxX, maxY }: Bounds): number => (maxX - minX) * (maxY - minY);

/**
 * The name of the largest layer that has one, from the outermost level at which any has: a group called “bell” around
 * a path called “path834” says bell.
 */
function nameFromLayers(doc: ProjectDocument, record: Named): string {
  let level = outermost(doc, record);
  while (level.length > 0) {
    const said = level.filter(({ name }) => !meansNothing(name));
    if (said.length > 0) {
      const sized = said.map((layer) => {
        const box = layerBounds(doc, layer.id);
        return { name: layer.name, size: box ? area(box) : 0 };
      });
      return sized.reduce((largest, each) => (each.size > largest.size ? each : largest)).name;
    }
    level = level.flatMap((layer) => doc.children(layer.id));
  }
  return '';
}

function outermost(doc: ProjectDocument, record: Named): readonly Layer[] {
  if (record.kind === 'slice')
    return record.source.kind === 'layer' ? [doc.find('layer', record.source.layerId)].filter((at) => !!at) : [];
  const artboard = record.kind === 'artboard' ? record : doc.find('artboard', record.artboardId);
  if (!artboard) return [];
  const followed = artboard.follows && doc.find('artboard', artboard.follows.artboardId);
  return layersOn(doc, followed || artboard);
}

const gap = (a: Bounds, b: Bounds): number =>
  Math.hypot(Math.max(0, a.minX - b.maxX, b.minX - a.maxX), Math.max(0, a.minY - b.maxY, b.minY - a.maxY));
const byDistance = (a: { away: number; aside: number }, b: { away: number; aside: number }) =>
  a.away - b.away || a.aside - b.aside;
const middleX = ({ minX, maxX }: Bounds): number => (minX + maxX) / 2;

/**
 * Each text names the piece it stands nearest to, and each piece is named by one: pairs are made from the nearest on.
 * Of two as near the one that is in line with the middle of the piece counts, as words below an icon are.
 */
function namesFromTexts(doc: ProjectDocument, records: readonly Named[]): string[] {
  const regions = new Map(pieces(doc).map(({ id, region }) => [id, boundsOf(region)]));
  const index = artworkIndex(doc);
  const pairs = records.flatMap((record, at) => {
    const region = regions.get(record.id);
    if (!region) return [];
    const reach = FARTHEST_TEXT * Math.max(region.maxX - region.minX, region.maxY - region.minY);
    const near = index.search(grow(region, reach)).flatMap(({ layer, visible, ...box }) => {
      const away = gap(region, box);
      return layer.tag !== 'text' || !visible || away > reach
        ? []
        : [{ at, text: layer, away, aside: Math.abs(middleX(region) - middleX(box)) }];
    });
    return near.sort(byDistance).slice(0, MOST_NEAR);
  });
  pairs.sort(byDistance);
  const names = records.map(() => '');
  const used = new Set<Layer>();
  for (const { at, text } of pairs) {
    if (names[at] !== '' || used.has(text)) continue;
    const words = textWords(text).replace(/\s+/g, ' ').trim().slice(0, MOST_LETTERS);
    if (words === '') continue;
    names[at] = words;
    used.add(text);
  }
  return names;
}
