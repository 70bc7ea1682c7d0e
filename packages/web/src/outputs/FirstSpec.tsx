import { acts, SPEC_LIBRARY, STARTING_SPEC } from '@tolvik/core';
import { doAct, plainIntent } from '../project/session/act';
import { planOf, useSession } from '../project/session/context';
import { count } from '../ui/words';
import { useKeptSpecs } from './kept-specs';

/** Which files come of what is brought into an empty project: a ready-made spec, or one that is kept. */
export function FirstSpec() {
  const session = useSession();
  const { specs, outputs } = planOf(session);
  const { kept } = useKeptSpecs();
  const [spec] = specs;
  const first = kept.find(({ isFirst }) => isFirst);
  const ready = SPEC_LIBRARY.map(({ key, name, outputs }) => ({ key, name, outputs: outputs.length }));
  const own = kept.map(({ id, name, body }) => ({ key: id, name, outputs: body.outputs.length }));
  /** What it will be while nothing was chosen. */
  const unsaid = first?.id ?? STARTING_SPEC;
  const choose = (key: string) => {
    const saved = kept.find(({ id }) => id === key)?.body;
    const instead = spec ? { instead: spec.id } : {};
    doAct(session, acts.addSpec, plainIntent([]), saved ? { saved, ...instead } : { ready: key, ...instead });
  };
  return (
    <label className="mt-3 flex items-center justify-center gap-2 text-ink-2">
      Made of each:
      <select
        className="field w-[220px]"
        aria-label="Which files come of it"
        value={spec ? '' : unsaid}
        onChange={(event) => event.target.value && choose(event.target.value)}
      >
        {spec && (
          <option value="">
            {spec.name}, {count(outputs.length, 'file')}
          </option>
        )}
        {[...own, ...ready].map((each) => (
          <option key={each.key} value={each.key}>
            {each.name}, {count(each.outputs, 'file')}
          </option>
        ))}
      </select>
    </label>
  );
}
