import type { DeliveryFileRow } from '../db/deliveries';

export type FileChange = 'same' | 'changed' | 'new' | 'gone';

export type ComparedFile = { path: string; change: FileChange; now?: DeliveryFileRow; before?: DeliveryFileRow };

/** The files of a delivery against those of the one before, path by path; what is no longer made comes last. */
export function compareDeliveries(
  now: readonly DeliveryFileRow[],
  before: readonly DeliveryFileRow[] | null,
): ComparedFile[] {
  const old = new Map((before ?? []).map((file) => [file.path, file]));
  const compared: ComparedFile[] = now.map((file) => {
    const earlier = old.get(file.path);
    old.delete(file.path);
    if (!before) return { path: file.path, change: 'new', now: file };
    if (!earlier) return { path: file.path, change: 'new', now: file };
    return {
      path: file.path,
      change: earlier.render_key === file.render_key ? 'same' : 'changed',
      now: file,
      before: earlier,
    };
  });
  for (const earlier of old.values()) compared.push({ path: earlier.path, change: 'gone', before: earlier });
  return compared;
}
