import type { PlannedFile } from '@tolvik/core';
import { useMemo } from 'react';
import { count } from '../ui/words';

const MAX_LISTED = 400;

/** The folders and files that will be written, those that share a path marked. */
export function PathTree({ files: all }: { files: readonly PlannedFile[] }) {
  const folders = useMemo(() => {
    const tree = new Map<string, { name: string; clash: boolean }[]>();
    for (const file of all) {
      const cut = file.path.lastIndexOf('/');
      const folder = file.path.slice(0, Math.max(0, cut));
      const list = tree.get(folder) ?? [];
      list.push({ name: file.path.slice(cut + 1), clash: file.clashCount > 0 });
      tree.set(folder, list);
    }
    return [...tree].sort(([a], [b]) => (a < b ? -1 : 1));
  }, [all]);
  let left = MAX_LISTED;
  return (
    <div className="h-[52vh] overflow-auto border border-line bg-white p-3 font-mono text-[11.5px] leading-[1.6]">
      {folders.map(([folder, files]) => {
        const part = files.slice(0, Math.max(0, left));
        left -= part.length;
        return (
          <div key={folder} className="mb-2">
            {folder && <div className="font-semibold">{folder}/</div>}
            <ul className={folder ? 'pl-4' : ''}>
              {part.map(({ name, clash }, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: clashing files have one name
                <li key={i} className={clash ? 'font-semibold text-bad' : ''}>
                  {clash ? '! ' : ''}
                  {name}
                </li>
              ))}
              {part.length < files.length && (
                <li className="text-ink-3">and {count(files.length - part.length, 'file')} more</li>
              )}
            </ul>
          </div>
        );
      })}
    </div>
  );
}
