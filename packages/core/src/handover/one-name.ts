import { foldPath } from '../plan/names';
import type { Found, Known } from './steps';

/**
 * A disk that ignores case has one file under two names that differ by case alone: of those it is there under the one
 * that is wanted, and what an earlier delivery wrote under another was written under this one. Otherwise the old name
 * would be left over, and taking it away would take the new file. `files` are the paths that lead to one file each;
 * paths that are no longer there are taken out of `there`. Answers the receipt as it reads then.
 */
export function underOneName<Last extends Known>(
  there: Map<string, Found>,
  last: Last | null,
  wanted: ReadonlySet<string>,
  files: Iterable<readonly string[]>,
): Last | null {
  const nameOf = new Map<string, string>();
  for (const paths of files)
    for (const path of paths) {
      const now = paths.find((other) => wanted.has(other) && other !== path && foldPath(other) === foldPath(path));
      if (!now || wanted.has(path)) continue;
      there.delete(path);
      nameOf.set(path, now);
    }
  if (!last || nameOf.size === 0) return last;
  const known = new Set(last.files.map(({ path }) => path));
  const renamed = <T extends { path: string }>(list: readonly T[]): T[] =>
    list.map((file) => {
      const now = nameOf.get(file.path);
      return now === undefined || known.has(now) ? file : { ...file, path: now };
    });
  return { ...last, files: renamed(last.files), leftovers: renamed(last.leftovers) };
}
