import { acts, type Spec, specToFile } from '@tolvik/core';
import { saveSpec, useKeptSpecs } from '../../outputs/kept-specs';
import { doAct, plainIntent } from '../../project/session/act';
import { planOf, useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { TextField } from '../../ui/TextField';
import { count } from '../../ui/words';

/** One spec of the project: its name, who follows it, and how its files are written. */
export function SpecRow({ spec }: { spec: Spec }) {
  const session = useSession();
  const { doc, selection } = session;
  const plan = planOf(session);
  const { keep } = useKeptSpecs();
  const outputs = plan.outputs.filter((output) => output.specId === spec.id).length;
  const following = plan.pieces.filter((piece) => piece.specIds.includes(spec.id)).length;
  const others = plan.specs.filter(({ id }) => id !== spec.id);
  const who = selection.size > 0 ? `${selection.size} selected` : 'all';
  const set = (said: Pick<Partial<Spec>, 'name' | 'drawnAtScale' | 'letterCase'>) =>
    doAct(session, acts.setSpec, plainIntent([]), { specId: spec.id, ...said });
  const follow = (settings: { on: boolean } | { instead: string }, specId = spec.id) =>
    doAct(session, acts.followSpec, plainIntent(selection), { specId, ...settings });
  return (
    <li className="border-line border-b px-3 py-2 last:border-b-0">
      <div className="flex items-center gap-3">
        <TextField
          label="Name of the spec"
          required
          value={spec.name}
          onChange={(name) => set({ name })}
          className="w-44"
        />
        <span className="text-ink-2">
          {count(outputs, 'output')}, followed by {following} of {plan.pieces.length}
        </span>
        <span className="ml-auto" />
        {doc.settings.defaultSpecId === spec.id ? (
          <span className="w-28 text-center text-note text-spruce">for new pieces</span>
        ) : (
          <Button small onClick={() => doAct(session, acts.setProject, plainIntent([]), { defaultSpecId: spec.id })}>
            Use for new pieces
          </Button>
        )}
        <Button small onClick={() => follow({ on: true })}>
          Use for {who}
        </Button>
        <Button small onClick={() => follow({ on: false })}>
          Stop using for {who}
        </Button>
        {others.length > 0 && following > 0 && (
          <select
            className="field w-32"
            aria-label={`Another spec for those that follow ${spec.name}`}
            value=""
            onChange={(event) => event.target.value && follow({ instead: spec.id }, event.target.value)}
          >
            <option value="">Swap for…</option>
            {others.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        )}
      </div>
      <div className="mt-1.5 flex items-center gap-2 text-ink-2">
        <span
          className="flex items-center gap-1.5"
          title="The scale the artwork was drawn at; all factors are divided by it"
        >
          drawn at
          <NumberField
            label="Drawn at scale"
            showLabel=""
            className="w-14"
            min={0.25}
            max={64}
            step={0.5}
            value={spec.drawnAtScale}
            onChange={(drawnAtScale) => set({ drawnAtScale })}
          />
          ×
        </span>
        <label className="ml-3 flex items-center gap-1.5">
          letters
          <select
            className="field"
            aria-label={`Letters of file names of ${spec.name}`}
            value={spec.letterCase}
            onChange={(event) => set({ letterCase: event.target.value as Spec['letterCase'] })}
          >
            <option value="project">as the project has them</option>
            <option value="asTyped">as typed</option>
            <option value="lower">lower case</option>
            <option value="kebab">kebab-case</option>
            <option value="snake">snake_case</option>
          </select>
        </label>
        <span className="ml-auto" />
        <Button small onClick={() => keep(specToFile(doc, spec))}>
          Keep for other projects
        </Button>
        <Button small onClick={() => saveSpec(specToFile(doc, spec))}>
          Save as a file
        </Button>
        <Button
          small
          kind="danger"
          onClick={() => doAct(session, acts.removeSpec, plainIntent([]), { specId: spec.id })}
        >
          Remove
        </Button>
      </div>
    </li>
  );
}
