import type { Seen } from '../artwork/bounds/standing-out';
import type { PlannedFile } from '../plan/plan';
import type { Finding, Looked } from './check';

type Told = Omit<Finding, 'check' | 'pieceId'>;

/** What a check finds in the files of a piece that were rendered; `tell` answers null for a file with nothing to tell. */
export const inEachFile = (
  { files, seen }: Looked,
  tell: (seen: Seen, file: PlannedFile) => Omit<Told, 'outputId'> | null,
): Told[] =>
  files.flatMap((file, i) => {
    const facts = seen[i];
    const told = facts ? tell(facts, file) : null;
    return told ? [{ ...told, outputId: file.outputId }] : [];
  });
