import { few } from '../basics/words';
import type { Artboard, Edition, Slice } from '../document/records';

/** A difference of an edition whose layer went when its artwork was replaced. */
export type LostDifference = { layerId: string /** What the layer was called. */; was: string };

/** The differences of a piece that hang on nothing any more, until somebody attaches them anew or takes them out. */
export const lostDifferences = (record: Artboard | Slice | Edition): LostDifference[] =>
  record.kind === 'edition'
    ? Object.entries(record.overrides).flatMap(([layerId, { was }]) => (was === undefined ? [] : [{ layerId, was }]))
    : [];

/** Why the files of such a piece are held: they would silently be the base's. */
export function lostInWords(record: Artboard | Slice | Edition): string | undefined {
  const lost = lostDifferences(record);
  if (lost.length === 0) return undefined;
  const names = [...new Set(lost.map(({ was }) => was || 'a layer without a name'))];
  const told = few(names);
  return lost.length === 1
    ? `one of its differences is for a layer that is gone: ${told}`
    : `${lost.length} of its differences are for layers that are gone: ${told}`;
}
