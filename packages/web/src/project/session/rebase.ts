import type { ProjectRecord } from '@tolvik/core';
import { mergeRecord } from './merge';
import type { Pending } from './pending-edits';

/** What became of records when edits were put on top of newer ones. */
export type Rebased = {
  /** Each record that the edits change, as it is with them; null where they remove it. */
  now: Map<string, ProjectRecord | null>;
  /** By record the fields that others changed too, to other values: there the edits' own were kept. */
  both: Map<string, Set<string>>;
};

/**
 * Puts edits that were made on other records on top of `theirs`, in their order, by the one merge there is: a field that
 * an edit changed is as the edit has it, any other as they have it. The edits are changed in place, with what they
 * replace now, so that they can be put on top of something newer again. `isMeant` leaves records out.
 */
export function rebase(
  edits: readonly Pending[],
  theirs: (id: string) => ProjectRecord | undefined,
  isMeant: (id: string) => boolean = () => true,
): Rebased {
  const now = new Map<string, ProjectRecord | null>();
  const both = new Map<string, Set<string>>();
  for (const pending of edits) {
    const { edit } = pending;
    const before = new Map(pending.before.map((record) => [record.id, record]));
    for (const [at, mine] of edit.puts.entries()) {
      const { id } = mine;
      if (!isMeant(id)) continue;
      const current = now.has(id) ? (now.get(id) ?? undefined) : theirs(id);
      const base = before.get(id);
      if (!current) before.delete(id);
      else {
        const merged = mergeRecord(base, mine, current);
        edit.puts[at] = merged.record;
        before.set(id, current);
        for (const field of merged.both) both.set(id, (both.get(id) ?? new Set()).add(field));
      }
      now.set(id, edit.puts[at]);
    }
    // A record that an edit both removes and puts is there, as on the server.
    const put = new Set(edit.puts.map((record) => record.id));
    for (const id of edit.removes) if (isMeant(id) && !put.has(id)) now.set(id, null);
    pending.before = [...before.values()];
  }
  return { now, both };
}
