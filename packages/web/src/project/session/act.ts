import { type ActSettings, type AnyAct, type Intent, type Problem, perform, Refusal } from '@tolvik/core';
import { upper } from '../../ui/words';
import type { Session } from './session';

/** What is selected, as an act takes it where no edition is shown. */
export const plainIntent = (ids: Iterable<string>): Intent => ({
  selection: new Set(ids),
  shown: null,
  changes: 'base',
  carry: true,
});

/** Does an act of core as one change that can be undone, and selects what it says. Why it cannot be done is told in a notice. */
export function doAct<Done extends AnyAct>(
  session: Session,
  act: Done,
  intent: Intent,
  settings: ActSettings<Done>,
  joins?: string,
): boolean {
  try {
    const { selected, ...change } = perform(session.doc, act, intent, settings);
    session.commit(change, joins);
    if (selected) session.select(selected);
    return true;
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    session.onNotice(...refusedInWords(error.problem));
    return false;
  }
}

/** Why an act was not done, as a notice, and whether that is trouble. */
export function refusedInWords({ code, message }: Problem): [words: string, isTrouble: boolean] {
  // Names stay as they are written, also where they begin a sentence.
  const words = code.startsWith('act.') ? upper(message) : message;
  return [`${words}.`, code !== 'act.nothing'];
}
