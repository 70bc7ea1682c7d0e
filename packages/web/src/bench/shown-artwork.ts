import {
  artboardUnder,
  type Bounds,
  type Edition,
  type Fonts,
  type Layer,
  type Matrix,
  measureTextWith,
  type ProjectDocument,
  shapedAsShown,
  shownArtwork,
  transformLayers,
} from '@tolvik/core';
import { fontsAtHand } from '../painter/fonts-at-hand';
import type { Session } from '../project/session';
import { useBench } from './bench-state';
import { shownEdition } from './shown-edition';

type Shown = { edition: Edition; artwork: ProjectDocument };
const kept = new WeakMap<Session, Shown & { revision: number; fonts: Fonts | null }>();

/** The edition that the Bench shows and its artwork as it is shown; null while it shows the base. */
export function shownNow(session: Session): Shown | null {
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
export function artworkOf(session: Session, ids: Iterable<string>): ProjectDocument {
  const artwork = shownNow(session)?.artwork;
  return artwork && [...ids].every((id) => artwork.find('layer', id)) ? artwork : session.doc;
}

/**
 * The edition that changes of these layers go to; undefined when they go to the base: since the switch says so, or
 * since not all of them are on what the edition shows.
 */
export function editedEdition(session: Session, ids: Iterable<string>): Edition | undefined {
  const shown = shownNow(session);
  return shown && useBench.getState().changes === 'edition' && artworkOf(session, ids) === shown.artwork
    ? shown.edition
    : undefined;
}

/** Layers of the base after a matrix that acts on them where one sees them. */
export function shapedLayers(session: Session, ids: Iterable<string>, onPlane: Matrix): Layer[] {
  const shown = shownNow(session);
  return shown && artworkOf(session, ids) === shown.artwork
    ? shapedAsShown(session.doc, shown.edition, ids, onPlane)
    : transformLayers(session.doc, ids, onPlane);
}
