import { type ProjectRecord, same } from '@tolvik/core';

type Fields = Record<string, unknown>;
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Fields whose own fields are changed one by one: attributes of a layer, differences of an edition. */
const NESTED = new Set(['attrs', 'overrides']);

/**
 * What I changed from `before` to `mine`, done to `theirs`: a field that I set is as I set it, one that I took out is
 * out, all else is as they made it. `both` is told the fields that we both changed to different values.
 */
function mergeFields(before: Fields | undefined, mine: Fields, theirs: Fields, both: (field: string) => void): Fields {
  const merged: Fields = { ...theirs };
  for (const field of new Set([...Object.keys(mine), ...Object.keys(before ?? {})])) {
    const [was, here, there] = [before?.[field], mine[field], theirs[field]];
    if (before && same(here, was)) continue;
    if (NESTED.has(field) && isFields(here) && isFields(there)) {
      merged[field] = mergeFields(before ? (isFields(was) ? was : {}) : undefined, here, there, both);
      continue;
    }
    if (!same(there, was) && !same(there, here)) both(field);
    if (here === undefined) delete merged[field];
    else merged[field] = here;
  }
  return merged;
}

/** Settles one record that two people changed; `both` names the fields we both changed to different values. */
export function mergeRecord(
  before: ProjectRecord | undefined,
  mine: ProjectRecord,
  theirs: ProjectRecord,
): { record: ProjectRecord; both: string[] } {
  const both = new Set<string>();
  const record = mergeFields(before, mine, theirs, (field) => both.add(field)) as ProjectRecord;
  return { record, both: [...both] };
}

/** One record before and after something I did; either is missing where it did not exist. */
export type Did = { id: string; before?: ProjectRecord; after?: ProjectRecord };

/** Something I did, record by record. Steps that follow each other and have the same `joins` are one. */
export type Step = { id: string; label: string; did: Did[]; joins?: string };

/** Two steps, one after the other, as one. */
export function joinedSteps(first: Step, second: Step): Step {
  const did = new Map(first.did.map((each) => [each.id, each]));
  for (const each of second.did) {
    const earlier = did.get(each.id);
    did.set(each.id, earlier ? { ...each, before: earlier.before } : each);
  }
  return { ...second, id: first.id, did: [...did.values()] };
}

/**
 * Takes back what I did to a record that is now as `current`: only the fields I changed, and only where nobody has
 * changed them since. Answers the record as it becomes, null when it goes, undefined when there is nothing to take back.
 */
export function takenBack(
  { before, after }: Did,
  current: ProjectRecord | undefined,
): ProjectRecord | null | undefined {
  if (!after) return current ? undefined : before;
  if (!current) return undefined;
  // What others have worked on since stays.
  if (!before) return same(current, after) ? null : undefined;
  const back = backFields(before, after, current as Fields) as ProjectRecord;
  return same(back, current) ? undefined : back;
}

function backFields(before: Fields, after: Fields, current: Fields): Fields {
  const back: Fields = { ...current };
  for (const field of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const [was, mine, now] = [before[field], after[field], current[field]];
    if (same(was, mine)) continue;
    if (NESTED.has(field) && isFields(was) && isFields(mine) && isFields(now)) back[field] = backFields(was, mine, now);
    else if (!same(now, mine)) continue;
    else if (was === undefined) delete back[field];
    else back[field] = was;
  }
  return back;
}

/**
 * The steps of a pile, the last first to go, without those that would take nothing back: what they did was refused, or
 * changed by others since. Each is tried on the records as the steps above it would leave them.
 */
export function withoutIdle(pile: readonly Step[], current: (id: string) => ProjectRecord | undefined): Step[] {
  const then = new Map<string, ProjectRecord | null>();
  const kept: Step[] = [];
  for (const step of pile.toReversed()) {
    let does = false;
    for (const did of step.did) {
      const now = then.get(did.id);
      const back = takenBack(did, now === undefined ? current(did.id) : (now ?? undefined));
      if (back === undefined) continue;
      does = true;
      then.set(did.id, back);
    }
    if (does) kept.push(step);
  }
  return kept.reverse();
}
