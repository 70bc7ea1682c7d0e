import { type QueryClient, queryOptions } from '@tanstack/react-query';
import { cellKey, FIRST_FILES, FORMATS, type Format, type MadeRow } from '@tolvik/core';
import { request } from '../../api/client';
import type { ServerFile, ServerMade } from '../../api/types';
import { fileUrl, pictureUrl } from './file-urls';

/** What the server made of a project's files, as the window keeps it. */
export type Made = Pick<ServerMade, 'version' | 'formats'> & {
  files: readonly ServerFile[];
  /** By cell, pages among them. */
  byCell: ReadonlyMap<string, ServerFile>;
  /** Files of several pages by their output. */
  whole: ReadonlyMap<string, ServerFile>;
  /** Files that are still to be made. */
  missing: number;
};

const asFile = ([pieceId, outputId, key, bytes, seen, pages, failed]: MadeRow): ServerFile => ({
  pieceId,
  outputId,
  key,
  bytes,
  seen: seen ?? undefined,
  pages: pages || undefined,
  failed,
});

/** What is seen of a file goes by its key: when both are known again, so is that. */
const isStill = (file: ServerFile, [, , key, bytes, seen, pages, failed]: MadeRow): boolean =>
  file.key === key &&
  file.bytes === bytes &&
  !file.seen === !seen &&
  (file.pages ?? 0) === (pages ?? 0) &&
  file.failed === failed;

/**
 * An answer of the server as the window keeps it: files that are as they were stay the same objects, and an answer that
 * says nothing new is the one before, so that nothing is drawn again for it.
 */
export function takenIn({ version, formats, total, files: rows, pages }: ServerMade, before?: Made): Made {
  const byCell = new Map<string, ServerFile>();
  let anew = 0;
  // What was not told yet is asked for again as what was not made.
  let missing = total - rows.length;
  const take = (row: MadeRow): ServerFile => {
    const cell = cellKey(row[0], row[1]);
    const known = before?.byCell.get(cell);
    const file = known && isStill(known, row) ? known : asFile(row);
    if (file !== known) anew++;
    byCell.set(cell, file);
    return file;
  };
  const files = rows.map(take);
  for (const page of pages) take(page);
  for (const { key, bytes, failed } of files) if (bytes === null && key && !failed) missing++;
  const same =
    before &&
    anew === 0 &&
    before.byCell.size === byCell.size &&
    before.files.length === files.length &&
    files.every((file, i) => file === before.files[i]);
  if (same && before.version === version && alike(before.formats, formats)) return before;
  if (same) return { ...before, version, formats };
  const whole = new Map(files.flatMap((file) => (file.pages ? [[file.outputId, file]] : [])));
  return { version, formats, files, byCell, whole, missing };
}

const alike = (a: Made['formats'], b: Made['formats']): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Small pictures of the first screen that came with the answer. What belongs to a render key never changes. */
let firstPictures: Readonly<Record<string, string>> = {};

/** Where what a file looks like is found: with the first answer, or at an address of its own. */
export const shownFrom = (projectId: string, file: ServerFile, format: Format): string =>
  FORMATS[format].shown
    ? (firstPictures[file.key] ?? fileUrl(projectId, file))
    : (firstPictures[`${file.key}-picture`] ?? pictureUrl(projectId, file));

/** The same of the first screen's files, which is known long before the rest is; taken for all that is known until then. */
export async function firstMade(projectId: string, client: QueryClient): Promise<Made> {
  const answer = await request<ServerMade>(`/projects/${projectId}/made?first=${FIRST_FILES}`);
  firstPictures = answer.pictures ?? {};
  const known = client.getQueryData<Made>(['made', projectId]);
  if (known) return known;
  const first = takenIn(answer);
  client.setQueryData(['made', projectId], first);
  return first;
}

/** What the server made of a project's files. */
export const serverMade = (projectId: string) =>
  queryOptions({
    queryKey: ['made', projectId],
    // `takenIn` keeps what stayed the same, and knows how.
    structuralSharing: false,
    queryFn: async ({ client }: { client: QueryClient }): Promise<Made> => {
      const answer = await request<ServerMade>(`/projects/${projectId}/made`);
      return takenIn(answer, client.getQueryData<Made>(['made', projectId]));
    },
  });
