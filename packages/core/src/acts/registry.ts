import type { z } from 'zod';
import { refuse } from '../basics/problem';
import type { Act } from './act';
import { addOutput } from './add-output';
import { addSpec } from './add-spec';
import { align } from './align';
import { artboardsAround } from './artboards-around';
import { artboardsForGroups } from './artboards-for-groups';
import { attachDifferences } from './attach-differences';
import { bringToSize } from './bring-to-size';
import { centreArtwork } from './centre-artwork';
import { changeColour } from './change-colour';
import { combineEditions } from './combine-editions';
import { convert } from './convert';
import { remove } from './delete';
import { distribute } from './distribute';
import { drawPiece } from './draw-piece';
import { duplicate } from './duplicate';
import { duplicateOutput } from './duplicate-output';
import { editionsFromTable } from './editions-from-table';
import { followSpec } from './follow-spec';
import { group } from './group';
import { mirror } from './mirror';
import { move } from './move';
import { number } from './number';
import { sayOutputs } from './outputs-in-words';
import { removeOutput } from './remove-output';
import { removeSpec } from './remove-spec';
import { rename } from './rename';
import { reorder } from './reorder';
import { resize } from './resize';
import { rows } from './rows';
import { setPieceRules } from './set-piece-rules';
import { setRect } from './set-rect';
import { shiftOutput } from './shift-output';
import { show } from './show';
import { sliceArtboards } from './slice-artboards';
import { sliceEverything } from './slice-everything';
import { sliceLayers } from './slice-layers';
import { switchFiles } from './switch-files';
import { switchPieces } from './switch-pieces';
import { tiles } from './tiles';
import { toPixelGrid } from './to-pixel-grid';
import { trimToArtwork } from './trim-to-artwork';
import { turn } from './turn';
import { ungroup } from './ungroup';
import { varyOutput } from './vary-output';
import { wholePixels } from './whole-pixels';

/** To add an act: its file, and a line here. */
const LIST = [
  move,
  align,
  distribute,
  toPixelGrid,
  mirror,
  turn,
  resize,
  duplicate,
  remove,
  group,
  ungroup,
  reorder,
  show,
  changeColour,
  drawPiece,
  artboardsAround,
  artboardsForGroups,
  sliceLayers,
  sliceArtboards,
  sliceEverything,
  setPieceRules,
  trimToArtwork,
  centreArtwork,
  wholePixels,
  setRect,
  bringToSize,
  convert,
  number,
  rename,
  rows,
  tiles,
  attachDifferences,
  editionsFromTable,
  combineEditions,
  switchPieces,
  switchFiles,
  addOutput,
  duplicateOutput,
  varyOutput,
  sayOutputs,
  shiftOutput,
  removeOutput,
  addSpec,
  followSpec,
  removeSpec,
] as const;

type Listed = (typeof LIST)[number];
export type ActName = Listed['name'];
/** The settings of an act as they may be said: what has a default may be left out. */
export type ActSettings<Name extends ActName> = z.input<Extract<Listed, { name: Name }>['settings']>;

/** All acts, in the order in which they are listed. */
export const ACTS = LIST as readonly unknown[] as readonly Act[];
const byName = new Map(ACTS.map((act) => [act.name, act]));

/** The act of that name. Throws a `Refusal` that names all when there is none. */
export const actNamed = (name: string): Act =>
  byName.get(name) ??
  refuse('act.unknown', `there is no act "${name.slice(0, 60)}"`, { accepted: ACTS.map((act) => act.name).join(', ') });
