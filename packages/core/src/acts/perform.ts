import { ZodError } from 'zod';
import { inputProblem, Refusal, refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { withFollowerSizes } from '../pieces/placements';
import type { Act, AnyAct, Intent, Outcome } from './act';
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
  return { ...outcome, ...withFollowerSizes(doc, outcome) };
}

function run(act: AnyAct, doc: ProjectDocument, intent: Intent, settings: unknown): Outcome {
  try {
    return act.run(doc, intent, settings);
  } catch (error) {
    // Such as a name that became too long.
    if (error instanceof ZodError) throw new Refusal(inputProblem(error));
    throw error;
  }
}
