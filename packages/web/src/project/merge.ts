import type { ProjectRecord } from '@tolvik/core';

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Settles one record that two people changed: what I changed stays as I made it, all else is as they
 * made it. `both` names the fields we both changed to different values.
 */
export function mergeRecord(before: ProjectRecord | undefined, mine: ProjectRecord, theirs: ProjectRecord): { record: ProjectRecord; both: string[] } {
  const record: Record<string, unknown> = { ...theirs };
  const both: string[] = [];
  for (const [field, value] of Object.entries(mine)) {
    const base = (before as Record<string, unknown> | undefined)?.[field];
    const other = (theirs as Record<string, unknown>)[field];
    if (before && same(value, base)) continue;
    if (!same(other, base) && !same(other, value)) both.push(field);
    record[field] = value;
  }
  return { record: record as ProjectRecord, both };
}
