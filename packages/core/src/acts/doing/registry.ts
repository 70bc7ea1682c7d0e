import { refuse } from '../../basics/problem';
import type { Act, ActGroup } from '../act';
import * as all from '../all';

const GROUPS: readonly ActGroup[] = ['Arrange', 'Layers', 'Pieces', 'Files'];

type Listed = (typeof all)[keyof typeof all];
export type ActName = Listed['name'];

/** All acts as they are listed: by group, then by title. */
export const ACTS: readonly Act[] = (Object.values(all) as readonly unknown[] as Act[]).sort(
  (a, b) => GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group) || (a.title < b.title ? -1 : 1),
);
const byName = new Map(ACTS.map((act) => [act.name, act]));

/** The act of that name. Throws a `Refusal` that names all when there is none. */
export const actNamed = (name: string): Act =>
  byName.get(name) ??
  refuse('act.unknown', `there is no act "${name.slice(0, 60)}"`, { accepted: ACTS.map((act) => act.name).join(', ') });
