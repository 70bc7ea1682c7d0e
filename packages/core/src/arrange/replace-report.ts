import type { ReadArtwork } from '../artwork/reading/read-svg';
import type { ProjectDocument } from '../document/document';
import type { Artboard } from '../document/records';
import { layerTitle } from '../document/titles';
import { planFiles } from '../plan/plan';
import type { Replacement } from './replace-artwork';

/** What hung on a layer that would be gone. */
export type LooseLayer = {
  layerId: string;
  title: string;
  /** Names of what hangs on it, and how many files those become. */
  editions: string[];
  slices: string[];
  files: number;
  /** The likeliest of the new layers, by its place among the layers that came; null when there is none. */
  guess: number | null;
};

/** What replacing the artwork of an artboard would do, for a person to look at before it is done. */
export type ReplaceReport = {
  artboardId: string;
  name: string;
  kept: number;
  fresh: { place: number; title: string }[];
  gone: number;
  loose: LooseLayer[];
};

/** Tells what a replacement would do; `loose` is empty when nothing hangs on what goes. */
export function replaceReport(
  doc: ProjectDocument,
  artboard: Artboard,
  artwork: ReadArtwork,
  { matches, gone, fresh, likely }: Replacement,
): ReplaceReport {
  const places = new Map(artwork.layers.map(({ id }, place) => [id, place]));
  const titled = new Map(artwork.layers.map((layer) => [layer.id, layerTitle(layer)]));
  const hanging = gone.flatMap((layerId) => {
    const editions = doc.list('edition').filter(({ overrides }) => layerId in overrides);
    const slices = doc
      .list('slice')
      .filter(
        ({ source, shape }) =>
          (source.kind === 'layer' && source.layerId === layerId) ||
          (shape.kind === 'outline' && shape.layerId === layerId),
      );
    return editions.length + slices.length > 0 ? [{ layerId, editions, slices }] : [];
  });
  const guesses = hanging.length > 0 ? likely() : new Map<string, string>();
  const made = hanging.length > 0 ? planFiles(doc, '').files : [];
  const loose = hanging.map(({ layerId, editions, slices }): LooseLayer => {
    const pieces = new Set([...editions, ...slices].map(({ id }) => id));
    const layer = doc.find('layer', layerId);
    return {
      layerId,
      title: layer ? layerTitle(layer) : 'a layer',
      editions: editions.map(({ name }) => name),
      slices: slices.map(({ name }) => name),
      files: made.filter(({ pieceId }) => pieces.has(pieceId)).length,
      guess: places.get(guesses.get(layerId) ?? '') ?? null,
    };
  });
  return {
    artboardId: artboard.id,
    name: artboard.name,
    kept: matches.length,
    fresh: fresh.map((id) => ({ place: places.get(id) ?? 0, title: titled.get(id) ?? '' })),
    gone: gone.length,
    loose,
  };
}
