import * as z from 'zod';
import { inputProblem, Refusal, refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import { type ProjectRecord, RECORD_SCHEMAS } from '../../document/records';
import { withFollowerSizes } from '../../pieces/placements';
import type { Act, AnyAct, Intent, Outcome } from '../act';
import { missing } from './needs';

/** Why an act cannot be done to what is selected, in words; null when it can. */
export const lacking = (
  { needs }: Pick<Act, 'needs'>,
  doc: ProjectDocument,
  selection: ReadonlySet<string>,
): string | null => missing(needs, doc, selection);

/**
 * Does an act: its settings are read, what it needs is looked for, what follows from it (sizes of followers) comes
 * with it. Throws a `Refusal` when it cannot be done, would change nothing, has settings that are none, or would make
 * a record that no project may hold.
 */
export function perform(doc: ProjectDocument, act: AnyAct, intent: Intent, settings: unknown = {}): Outcome {
  const lacks = missing(act.needs, doc, intent.selection);
  if (lacks) refuse('act.selection', lacks[0].toLowerCase() + lacks.slice(1), { where: act.name });
  const said = act.settings.safeParse(settings);
  if (!said.success) throw new Refusal(inputProblem(said.error));
  const outcome = run(act, doc, intent, said.data);
  if (outcome.puts.length === 0 && outcome.removes.length === 0)
    refuse('act.nothing', act.nothing[0].toLowerCase() + act.nothing.slice(1), { where: act.name });
  const whole = { ...outcome, ...withFollowerSizes(doc, outcome) };
  return { ...whole, puts: storable(doc, whole.puts, act), removes: [...new Set(whole.removes)] };
}

/**
 * Each record once, as it is in the end, and none that no project may hold. Of a record that is there only the fields
 * that differ are looked at. Throws a `Refusal` that says what of it would not do.
 */
function storable(
  doc: ProjectDocument,
  puts: readonly ProjectRecord[],
  { name }: Pick<AnyAct, 'name'>,
): ProjectRecord[] {
  const last = new Map(puts.map((record) => [record.id, record]));
  for (const record of last.values()) {
    const before = doc.get(record.id);
    const schema = before ? differing(before, record) : RECORD_SCHEMAS[record.kind];
    const said = schema.safeParse(record);
    if (said.success) continue;
    const problem = inputProblem(said.error);
    throw new Refusal({
      ...problem,
      message: `${calledInWords(record)}: ${problem.message}`,
      where: problem.where ?? name,
    });
  }
  return [...last.values()];
}

const calledInWords = (record: ProjectRecord): string =>
  'name' in record && record.name !== '' ? record.name : `one ${record.kind}`;

const schemas = new Map<string, z.ZodType>();

/** The schema of the fields in which a record differs; few sets of fields differ together, and each is made once. */
function differing(before: ProjectRecord, after: ProjectRecord): z.ZodType {
  if (before.kind !== after.kind) return RECORD_SCHEMAS[after.kind];
  const shape: Readonly<Record<string, z.ZodType>> = RECORD_SCHEMAS[after.kind].shape;
  const changed = Object.keys(shape).filter(
    (field) => before[field as keyof ProjectRecord] !== after[field as keyof ProjectRecord],
  );
  const key = `${after.kind} ${changed}`;
  const known = schemas.get(key) ?? z.object(Object.fromEntries(changed.map((field) => [field, shape[field]])));
  schemas.set(key, known);
  return known;
}

function run(act: AnyAct, doc: ProjectDocument, intent: Intent, settings: unknown): Outcome {
  try {
    return act.run(doc, intent, settings);
  } catch (error) {
    // Such as a name that became too long.
    if (error instanceof z.ZodError) throw new Refusal(inputProblem(error));
    throw error;
  }
}
