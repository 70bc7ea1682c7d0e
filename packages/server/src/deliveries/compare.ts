import type { DeliveryFileRow, EarlierFile } from '../db/deliveries';

export type FileChange = 'same' | 'changed' | 'renamed' | 'new' | 'gone';

export type ComparedFile = { path: string; change: FileChange; now?: DeliveryFileRow; before?: EarlierFile };

/**
 * The files of a delivery against what there was of each path before. What is no longer made comes last, and only
 * where all files were asked for: a delivery of some says nothing of the others. A file of the same piece and output
 * under another path is that file, renamed; its old path is what is left over.
 */
export function compareDeliveries(
  now: readonly DeliveryFileRow[],
  before: readonly EarlierFile[],
  whole: boolean,
): ComparedFile[] {
  const left = new Map(before.map((file) => [file.path, file]));
  const compared = now.map((file): ComparedFile => {
    const earlier = left.get(file.path);
    left.delete(file.path);
    if (!earlier) return { path: file.path, change: 'new', now: file };
    return {
      path: file.path,
      change: earlier.render_key === file.render_key ? 'same' : 'changed',
      now: file,
      before: earlier,
    };
  });
  const cellOf = (file: DeliveryFileRow) => `${file.piece_id} ${file.output_id}`;
  const byCell = new Map([...left.values()].map((file) => [cellOf(file), file]));
  for (const file of compared) {
    const earlier = file.change === 'new' && file.now ? byCell.get(cellOf(file.now)) : undefined;
    if (!earlier) continue;
    byCell.delete(cellOf(earlier));
    left.delete(earlier.path);
    Object.assign(file, { change: 'renamed', before: earlier });
  }
  if (whole)
    for (const earlier of left.values()) compared.push({ path: earlier.path, change: 'gone', before: earlier });
  return compared;
}
