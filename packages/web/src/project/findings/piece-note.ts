import type { Piece } from '@tolvik/core';
import { count, plain } from '../../ui/words';

/** What is said of a piece below its name: what is wrong with it, or what it is and how large. */
export function pieceNote(piece: Piece): string {
  const { region, record, problem } = piece;
  if (problem) return problem;
  const size = `${plain(region.width)} × ${plain(region.height)}`;
  if (record.kind === 'edition') return `edition, ${count(Object.keys(record.overrides).length, 'difference')}`;
  if (record.kind === 'artboard') return record.follows ? `follows, ${size}` : size;
  const from = {
    region: 'slice',
    layer: 'slice of a layer',
    artboards: 'slice of artboards',
    everything: 'slice of everything',
  }[record.source.kind];
  return `${from}, ${size}`;
}
