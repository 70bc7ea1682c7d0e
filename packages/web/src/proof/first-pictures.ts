import type { QueryClient } from '@tanstack/react-query';
import { FIRST_FILES } from '@tolvik/core';
import { firstMade, serverMade, shownFrom } from '../project/files/made';
import { FIRST_MS } from '../project/findings/looked-with';

/** Long enough for the page to have drawn the cells that show them. */
const HELD_MS = 4000;

/**
 * Asks for the pictures of the Proof's first screen as soon as their keys are known: they are on their way while
 * the records are still being read and the page drawn for the first time.
 */
export async function askForFirstPictures(projectId: string, queries: QueryClient): Promise<void> {
  const { files, formats } = await firstMade(projectId, queries);
  const pictures = files.slice(0, FIRST_FILES).flatMap((file) => {
    // What was not made yet would only hold up what was.
    if (!file.key || file.bytes === null) return [];
    const picture = new Image();
    picture.src = shownFrom(projectId, file, formats[file.outputId]);
    return [picture];
  });
  // The browser forgets a picture that nothing holds.
  setTimeout(() => pictures.splice(0), HELD_MS);
  setTimeout(() => void queries.prefetchQuery({ ...serverMade(projectId), staleTime: 0 }), FIRST_MS);
}
