import {
  lastOrder,
  newId,
  ordersAfter,
  type ProjectRecord,
  readSpecFile,
  recordsOfLibrarySpec,
  recordsOfSpecFile,
  SPEC_LIBRARY,
  type Spec,
  type SpecFile,
  specRecord,
  specToFile,
} from '@tolvik/core';
import { useRef } from 'react';
import { planOf, useSession } from '../project/context';
import type { Session } from '../project/session';
import { Button } from '../ui/controls';
import { NumberField } from '../ui/NumberField';
import { useNotice } from '../ui/notices';
import { Sheet } from '../ui/Sheet';
import { TextField } from '../ui/TextField';
import { count } from '../ui/words';
import { saveSpec, useKeptSpecs } from './kept-specs';

const followers = (session: Session) => [
  ...session.doc.list('artboard'),
  ...session.doc.list('slice'),
  ...session.doc.list('edition'),
];

/** Lets pieces follow a spec, or no longer. */
function follow(session: Session, spec: Spec, ids: ReadonlySet<string> | null, on: boolean): void {
  const records = followers(session).filter(
    (record) => (!ids || ids.has(record.id)) && record.specIds.includes(spec.id) !== on,
  );
  const puts = records.map(
    (record): ProjectRecord => ({
      ...record,
      specIds: on ? [...record.specIds, spec.id] : record.specIds.filter((id) => id !== spec.id),
    }),
  );
  session.commit({
    label: `${count(puts.length, 'piece')} ${on ? 'follow' : 'no longer follow'} ${spec.name}`,
    puts,
    removes: [],
  });
}

/** The specs of the project, who follows them, and ready-made ones to add. */
export function SpecsSheet({ open, onClose }: { open: boolean; onClose(): void }) {
  const session = useSession();
  const { doc, selection } = session;
  const plan = planOf(session);
  const tell = useNotice();
  const add = (key: string) => {
    const { spec, outputs } = recordsOfLibrarySpec(key, doc);
    const puts: ProjectRecord[] = [spec, ...outputs];
    if (plan.specs.length === 0) puts.push({ ...doc.settings, defaultSpecId: spec.id });
    const who =
      selection.size > 0 ? followers(session).filter((record) => selection.has(record.id)) : followers(session);
    for (const record of who) puts.push({ ...record, specIds: [...record.specIds, spec.id] });
    session.commit({ label: `add spec ${spec.name}`, puts, removes: [] });
  };
  /** Adds a spec from a file or from those kept; the selected follow it, or all. */
  const addFile = (file: SpecFile) => {
    const { spec, outputs } = recordsOfSpecFile(file, doc);
    const puts: ProjectRecord[] = [spec, ...outputs];
    if (plan.specs.length === 0) puts.push({ ...doc.settings, defaultSpecId: spec.id });
    const who =
      selection.size > 0 ? followers(session).filter((record) => selection.has(record.id)) : followers(session);
    for (const record of who) puts.push({ ...record, specIds: [...record.specIds, spec.id] });
    session.commit({ label: `add spec ${spec.name}`, puts, removes: [] });
  };
  const importFile = async (file: File) => {
    try {
      addFile(readSpecFile(await file.text(), file.name));
    } catch (error) {
      tell((error as Error).message, { bad: true });
    }
  };
  const { kept, keep, drop } = useKeptSpecs();
  const picker = useRef<HTMLInputElement>(null);
  const empty = () => {
    const spec = specRecord.parse({
      id: newId(),
      kind: 'spec',
      order: ordersAfter(lastOrder(plan.specs), 1)[0],
      name: `Spec ${plan.specs.length + 1}`,
    });
    session.commit({ label: 'add a spec', puts: [spec], removes: [] });
  };
  const remove = (spec: Spec) => {
    const puts: ProjectRecord[] = followers(session)
      .filter((record) => record.specIds.includes(spec.id))
      .map((record) => ({ ...record, specIds: record.specIds.filter((id) => id !== spec.id) }));
    if (doc.settings.defaultSpecId === spec.id) puts.push({ ...doc.settings, defaultSpecId: null });
    session.commit({
      label: `remove spec ${spec.name}`,
      puts,
      removes: [
        spec.id,
        ...doc
          .list('output')
          .filter((output) => output.specId === spec.id)
          .map((output) => output.id),
      ],
    });
  };
  const chosen = selection.size > 0 ? selection : null;
  return (
    <Sheet
      open={open}
      onClose={onClose}
      wide
      title="Specs"
      about="A spec is a named list of outputs; a piece follows one or more."
      footer={<Button onClick={onClose}>Done</Button>}
    >
      <h3 className="heading mb-1.5">In this project</h3>
      <ul className="mb-5 border border-line bg-white">
        {plan.specs.map((spec) => {
          const outputs = plan.outputs.filter((output) => output.specId === spec.id).length;
          const following = plan.pieces.filter((piece) => piece.specIds.includes(spec.id)).length;
          return (
            <li key={spec.id} className="border-line border-b px-3 py-2 last:border-b-0">
              <div className="flex items-center gap-3">
                <TextField
                  label="Name of the spec"
                  required
                  value={spec.name}
                  onChange={(name) =>
                    session.commit({ label: `rename spec ${spec.name}`, puts: [{ ...spec, name }], removes: [] })
                  }
                  className="w-44"
                />
                <span className="text-ink-2">
                  {count(outputs, 'output')}, followed by {following} of {plan.pieces.length}
                </span>
                <span className="ml-auto" />
                {doc.settings.defaultSpecId === spec.id ? (
                  <span className="w-28 text-center text-note text-spruce">for new pieces</span>
                ) : (
                  <Button
                    small
                    onClick={() =>
                      session.commit({
                        label: `${spec.name} for new pieces`,
                        puts: [{ ...doc.settings, defaultSpecId: spec.id }],
                        removes: [],
                      })
                    }
                  >
                    Use for new pieces
                  </Button>
                )}
                <Button small onClick={() => follow(session, spec, chosen, true)}>
                  Follow: {chosen ? `${chosen.size} selected` : 'all'}
                </Button>
                <Button small onClick={() => follow(session, spec, chosen, false)}>
                  Not: {chosen ? `${chosen.size} selected` : 'all'}
                </Button>
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
                    onChange={(drawnAtScale) =>
                      session.commit({
                        label: `drawing scale of ${spec.name}`,
                        puts: [{ ...spec, drawnAtScale }],
                        removes: [],
                      })
                    }
                  />
                  ×
                </span>
                <label className="ml-3 flex items-center gap-1.5">
                  letters
                  <select
                    className="field"
                    aria-label={`Letters of file names of ${spec.name}`}
                    value={spec.letterCase}
                    onChange={(event) =>
                      session.commit({
                        label: `letters of ${spec.name}`,
                        puts: [{ ...spec, letterCase: event.target.value as Spec['letterCase'] }],
                        removes: [],
                      })
                    }
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
                <Button small kind="danger" onClick={() => remove(spec)}>
                  Remove
                </Button>
              </div>
            </li>
          );
        })}
        {plan.specs.length === 0 && <li className="px-3 py-2 text-ink-2">None yet.</li>}
      </ul>
      <h3 className="heading mb-1.5">
        Add a ready-made one{chosen ? ` for the ${chosen.size} selected` : ' for all pieces'}
      </h3>
      <ul className="grid grid-cols-2 gap-2">
        {SPEC_LIBRARY.map((entry) => (
          <li key={entry.key}>
            <button
              type="button"
              onClick={() => add(entry.key)}
              className="flex h-full w-full flex-col items-start border border-line bg-white px-3 py-2 text-left hover:border-ink"
            >
              <span className="font-semibold">
                {entry.name} <span className="font-normal text-ink-3">{count(entry.outputs.length, 'output')}</span>
              </span>
              <span className="text-ink-2 text-note">{entry.about}</span>
            </button>
          </li>
        ))}
        {kept.map(({ id, name, body }) => (
          <li key={id} className="relative">
            <button
              type="button"
              onClick={() => addFile(body)}
              className="flex h-full w-full flex-col items-start border border-spruce bg-white px-3 py-2 text-left hover:border-ink"
            >
              <span className="font-semibold">
                {name} <span className="font-normal text-ink-3">{count(body.outputs.length, 'output')}</span>
              </span>
              <span className="text-ink-2 text-note">Kept here for all projects. {body.spec.about}</span>
            </button>
            <button
              type="button"
              aria-label={`Keep ${name} no longer`}
              className="absolute top-1.5 right-1.5 rounded-sm px-1 text-ink-3 hover:text-bad"
              onClick={() => drop(id)}
            >
              ×
            </button>
          </li>
        ))}
        <li>
          <button
            type="button"
            onClick={() => picker.current?.click()}
            className="flex h-full w-full flex-col items-start border border-ink-3 border-dashed px-3 py-2 text-left hover:bg-white"
          >
            <span className="font-semibold">From a file…</span>
            <span className="text-ink-2 text-note">A spec that was saved as JSON.</span>
          </button>
          <input
            ref={picker}
            type="file"
            hidden
            data-testid="import-spec"
            accept=".json,application/json"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) void importFile(file);
              event.target.value = '';
            }}
          />
        </li>
        <li>
          <button
            type="button"
            onClick={empty}
            className="flex h-full w-full flex-col items-start border border-ink-3 border-dashed px-3 py-2 text-left hover:bg-white"
          >
            <span className="font-semibold">An empty spec</span>
            <span className="text-ink-2 text-note">To fill with outputs of your own.</span>
          </button>
        </li>
      </ul>
    </Sheet>
  );
}
