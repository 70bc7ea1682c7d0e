import type { Session } from '../../project/session/session';
import { shownEdition } from '../shown-edition';

/** The edition before or after the one shown, round the base. */
export function stepEdition(session: Session, by: -1 | 1): void {
  const { doc, selection } = session;
  const shown = shownEdition(session);
  const boardId =
    shown?.artboardId ?? [...selection].find((id) => doc.find('artboard', id)) ?? doc.list('edition')[0]?.artboardId;
  if (!boardId) return;
  const stops = [
    boardId,
    ...doc
      .list('edition')
      .filter((edition) => edition.artboardId === boardId)
      .map((edition) => edition.id),
  ];
  const at = stops.indexOf(shown?.id ?? boardId);
  session.select([stops[(at + by + stops.length) % stops.length]]);
}
