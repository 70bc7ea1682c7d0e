import type { QueryClient } from '@tanstack/react-query';
import { fileUrl, pictureUrl, serverMade } from '../project/context';
import type { Session } from '../project/session';

/** About as many files as the first screen of the Proof shows. */
const FIRST = 48;
/** Long enough for the page to have drawn the cells that show them. */
const HELD_MS = 4000;

/**
 * Asks for the pictures of the Proof's first screen as soon as their keys are known: they are on their way while
 * the page is still being drawn for the first time.
 */
export async function askForFirstPictures(session: Session, queries: QueryClient): Promise<void> {
  const { files } = await queries.ensureQueryData(serverMade(session.id));
  const pictures = files.slice(0, FIRST).flatMap((file) => {
    const format = session.doc.find('output', file.outputId)?.settings.format;
    // What was not made yet would only hold up what was.
    if (!format || !file.key || file.bytes === null) return [];
    const picture = new Image();
    picture.src = format === 'pdf' ? pictureUrl(session.id, file) : fileUrl(session.id, file);
    return [picture];
  });
  // The browser forgets a picture that nothing holds.
  setTimeout(() => pictures.splice(0), HELD_MS);
}
