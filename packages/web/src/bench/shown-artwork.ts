import {
  artboardUnder,
  type Bounds,
  changedEdition,
  type Edition,
  type Fonts,
  type Layer,
  type Matrix,
  measureTextWith,
  type ProjectDocument,
  type ShownEdition,
  seenArtwork,
  shapedAsSeen,
  shownArtwork,
} from '@tolvik/core';
import { fontsAtHand } from '../painter/fonts-at-hand';
import type { Session } from '../project/session/session';
import { useBench } from './bench-state';
import { shownEdition } from './shown-edition';

const kept = new WeakMap<Session, ShownEdition & { revision: number; fonts: Fonts | null }>();

/** The edition that the Bench shows and its artwork as it is shown; null while it shows the base. */
export function shownNow(session: Session): ShownEdition | null {
  const edition = shownEdition(session);
  if (!edition) return null;
  const { doc } = session;
  const known = kept.get(session);
  const fonts = fontsAtHand();
  if (known?.revision === doc.revision && known.edition === edition && known.fonts === fonts) return known;
  const artwork = shownArtwork(doc, edition);
  if (fonts) measureTextWith(artwork, fonts);
  const shown = { edition, artwork, revision: doc.revision, fonts };
  kept.set(session, shown);
  return shown;
}

/** The document in which what is at a point of the plane lies where one sees it. */
export function artworkAt(session: Session, px: number, py: number): ProjectDocument {
  const shown = shownNow(session);
  const point: Bounds = { minX: px, minY: py, maxX: px, maxY: py };
  return shown && artboardUnder(session.doc, point)?.id === shown.edition.artboardId ? shown.artwork : session.doc;
}

/** The document in which these layers lie where one sees them; the project's own when not all are on what an edition shows. */
export const artworkOf = (session: Session, ids: Iterable<string>): ProjectDocument =>
  seenArtwork(session.doc, shownNow(session), ids);

/** The edition that changes of these layers go to; undefined when they go to the base. */
export const editedEdition = (session: Session, ids: Iterable<string>): Edition | undefined =>
  changedEdition(session.doc, { shown: shownNow(session), changes: useBench.getState().changes }, ids);

/** Layers of the base after a matrix that acts on them where one sees them. */
export const shapedLayers = (session: Session, ids: Iterable<string>, onPlane: Matrix): Layer[] =>
  shapedAsSeen(session.doc, shownNow(session), ids, onPlane);
