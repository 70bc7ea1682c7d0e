import { FORMAT_LIST, FORMATS } from '../formats';
import type { Begun, Receipt, ReceiptFile } from './receipt';

/**
 * A file as it lies in a folder; `other` for a folder, a link or anything else that has the name. Of a file whose length
 * is none that the delivery or the receipt says, nobody needs the hash: it is '' then.
 */
export type Found = { bytes: number; sha256: string } | 'other';

/** What is known to be of earlier deliveries, as a receipt says it. */
export type Known = Pick<Receipt, 'files' | 'leftovers'>;

const ENDINGS = new Set(FORMAT_LIST.map((format) => FORMATS[format].extension));
/** Whether a path can be that of a file of ours: whatever a receipt says, nothing of another kind is taken away. */
const isOfOurKind = (path: string): boolean => ENDINGS.has(path.slice(path.lastIndexOf('.') + 1).toLowerCase());

/** What to do so that a folder holds a delivery. */
export type FolderSteps = {
  /** Nothing is there yet. */
  fresh: ReceiptFile[];
  /** What an earlier delivery wrote there and nobody touched since. */
  changed: ReceiptFile[];
  /** There already, byte for byte. */
  same: ReceiptFile[];
  /** Written by an earlier delivery, no longer made, and not touched since. */
  leftovers: string[];
  /** Where somebody else put or changed a file: wanted ones are never replaced without a yes, others are left alone. */
  foreign: { path: string; wanted: boolean }[];
};

/**
 * The steps from what is there to what a delivery wants. `there` tells of the paths that the delivery or the receipt
 * names; a path that it does not have is free. A delivery of `some` files says nothing of the others. `begun` is what
 * writings that did not come to their end were about to write.
 */
export function folderSteps(
  there: ReadonlyMap<string, Found>,
  last: Known | null,
  wanted: readonly ReceiptFile[],
  { some = false, begun }: { some?: boolean; begun?: Begun } = {},
): FolderSteps {
  const steps: FolderSteps = { fresh: [], changed: [], same: [], leftovers: [], foreign: [] };
  const written = new Map([...(last?.files ?? []), ...(last?.leftovers ?? [])].map((file) => [file.path, file.sha256]));
  const isOurs = (path: string, found: Found) =>
    found !== 'other' && (written.get(path) === found.sha256 || begun?.files.get(path)?.sha256 === found.sha256);
  const names = new Set<string>();
  for (const file of wanted) {
    names.add(file.path);
    const found = there.get(file.path);
    if (!found) steps.fresh.push(file);
    else if (found !== 'other' && found.sha256 === file.sha256) steps.same.push(file);
    else if (isOurs(file.path, found)) steps.changed.push(file);
    else steps.foreign.push({ path: file.path, wanted: true });
  }
  if (some) return steps;
  for (const path of written.keys()) {
    const found = names.has(path) ? undefined : there.get(path);
    if (!found) continue;
    if (isOfOurKind(path) && isOurs(path, found)) steps.leftovers.push(path);
    else steps.foreign.push({ path, wanted: false });
  }
  return steps;
}

/** What may be done beside writing what is new or ours. */
export type Allowed = { removeLeftovers: boolean; replaceForeign: boolean };

/** The files to write and the paths to remove, by what somebody allowed. */
export function allowedSteps(
  { fresh, changed, leftovers, foreign }: FolderSteps,
  wanted: readonly ReceiptFile[],
  { removeLeftovers, replaceForeign }: Allowed,
): { write: ReceiptFile[]; remove: string[] } {
  const replaced = new Set(replaceForeign ? foreign.flatMap((each) => (each.wanted ? [each.path] : [])) : []);
  return {
    write: [...fresh, ...changed, ...wanted.filter(({ path }) => replaced.has(path))],
    remove: removeLeftovers ? leftovers : [],
  };
}

/**
 * The receipt after steps were done: what lies there of this delivery, and what is left over from before. What
 * somebody else changed stays known as it was written, so that it is told again.
 */
export function receiptAfter(
  head: Omit<Receipt, 'files' | 'leftovers'>,
  last: Known | null,
  wanted: readonly ReceiptFile[],
  steps: FolderSteps,
  allowed: Allowed,
  some = false,
): Receipt {
  const { write, remove } = allowedSteps(steps, wanted, allowed);
  const now = new Map([...steps.same, ...write].map((file) => [file.path, file]));
  const gone = new Set(remove);
  const names = new Set(wanted.map(({ path }) => path));
  const before = new Map((last?.files ?? []).map((file) => [file.path, file]));
  const files = [...now.values()];
  for (const [path, file] of before) if (!now.has(path) && (names.has(path) || some)) files.push(file);
  const leftovers = [...(some ? [] : (last?.files ?? [])), ...(last?.leftovers ?? [])]
    .filter(({ path }) => !names.has(path) && !gone.has(path))
    .map(({ path, bytes, sha256 }) => ({ path, bytes, sha256 }));
  const byPath = <T extends { path: string }>(list: T[]) => list.sort((a, b) => (a.path < b.path ? -1 : 1));
  return {
    ...head,
    files: byPath(files),
    leftovers: byPath([...new Map(leftovers.map((each) => [each.path, each])).values()]),
  };
}
