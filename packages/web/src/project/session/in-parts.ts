import { type Change, MAX_RECORDS_PER_EDIT, type ProjectRecord } from '@tolvik/core';

/**
 * A change as edits that are small enough to be sent, each of which leaves a tree of layers: what is put comes first,
 * parents before what lies in them, and what goes last, from the leaves up. `find` tells of records before or after it.
 */
export function inParts(change: Change, find: (id: string) => ProjectRecord | undefined): Change[] {
  const { label, puts, removes } = change;
  if (puts.length <= MAX_RECORDS_PER_EDIT && removes.length <= MAX_RECORDS_PER_EDIT) return [change];
  const put = new Map(puts.map((record) => [record.id, record]));
  const depths = new Map<string, number>();
  const depthOf = (id: string): number => {
    const known = depths.get(id);
    if (known !== undefined) return known;
    // A ring ends where it is come upon again.
    depths.set(id, 0);
    const record = put.get(id) ?? find(id);
    const depth = record?.kind === 'layer' ? depthOf(record.parentId) + 1 : 0;
    depths.set(id, depth);
    return depth;
  };
  const fromTheTop = [...puts].sort((a, b) => depthOf(a.id) - depthOf(b.id));
  const fromTheLeaves = [...removes].sort((a, b) => depthOf(b) - depthOf(a));
  const parts: Change[] = [];
  for (let at = 0; at < fromTheTop.length; at += MAX_RECORDS_PER_EDIT)
    parts.push({ label, puts: fromTheTop.slice(at, at + MAX_RECORDS_PER_EDIT), removes: [] });
  for (let at = 0; at < fromTheLeaves.length; at += MAX_RECORDS_PER_EDIT)
    parts.push({ label, puts: [], removes: fromTheLeaves.slice(at, at + MAX_RECORDS_PER_EDIT) });
  return parts;
}
