import type { Edition } from '@tolvik/core';
import type { Session } from '../project/session/session';

const lastShown = new WeakMap<Session, string>();

/**
 * The edition the Bench shows: the one selected; while layers are selected, the one before, so that
 * its layers can be worked on.
 */
export function shownEdition(session: Session): Edition | undefined {
  const { doc, selection } = session;
  let picked: Edition | undefined;
  let onlyLayers = selection.size > 0;
  for (const id of selection) {
    picked ??= doc.find('edition', id);
    if (!doc.find('layer', id)) onlyLayers = false;
  }
  if (picked) lastShown.set(session, picked.id);
  else if (!onlyLayers) lastShown.delete(session);
  return picked ?? doc.find('edition', lastShown.get(session) ?? '');
}
