import {
  type ActSettings,
  type AnyAct,
  type Artboard,
  type Bounds,
  boundsOfLayers,
  type Intent,
  type Layer,
  nameOfChosen,
  referencePoint,
} from '@tolvik/core';
import { doAct } from '../project/session/act';
import type { Session } from '../project/session/session';
import { useBench } from './bench-state';
import { artworkOf, shownNow } from './shown-artwork';
import { shownEdition } from './shown-edition';

/** What is selected, as the Bench shows it now. */
export function benchIntent(session: Session, ids: Iterable<string> = session.selection): Intent {
  const { changes, carry } = useBench.getState();
  return { selection: new Set(ids), shown: shownNow(session), changes, carry };
}

/** Does an act to what is selected on the Bench, or to `ids`; those that say the same `joins` are undone as one. */
export const act = <Done extends AnyAct>(
  session: Session,
  done: Done,
  settings: ActSettings<Done>,
  ids?: Iterable<string>,
  joins?: string,
): boolean => doAct(session, done, benchIntent(session, ids), settings, joins);

export const selectedLayers = ({ doc, selection }: Session): Layer[] =>
  [...selection].flatMap((id) => doc.find('layer', id) ?? []);
export const selectedArtboards = ({ doc, selection }: Session): Artboard[] =>
  doc.list('artboard').filter((artboard) => selection.has(artboard.id));

/** "Kelp sprig", or "4 layers". */
export const nameOfSelection = ({ doc, selection }: Session): string => nameOfChosen(doc, selection);

/** Whether a layer is shown where one looks: in the edition that the Bench shows, or in the base. */
export const isShownHere = (session: Session, layer: Layer): boolean =>
  shownEdition(session)?.overrides[layer.id]?.shown ?? layer.shown;

/** The box of the selected layers where one sees them, with the point that numbers are told from. */
export function selectionFrame(session: Session): { box: Bounds; x: number; y: number } | null {
  const box = boundsOfLayers(artworkOf(session, session.selection), session.selection);
  return box && { box, ...referencePoint(box, useBench.getState().reference) };
}
