import { type ActSettings, acts, isStartingSpec, readSpecFile, SPEC_LIBRARY, type SpecFile } from '@tolvik/core';
import { type ReactNode, useRef, useState } from 'react';
import { type KeptSpec, useKeptSpecs } from '../../outputs/kept-specs';
import { doAct, plainIntent } from '../../project/act';
import { planOf, useSession } from '../../project/context';
import { useNotice } from '../../ui/notices';
import { Tick } from '../../ui/Tick';
import { count } from '../../ui/words';

const PLAIN = 'border-line border-solid bg-white hover:border-ink';
const OWN = 'border-ink-3 border-dashed hover:bg-white';

/** Specs to add: ready-made ones, those kept for all projects, one from a file, an empty one. */
export function MoreSpecs() {
  const session = useSession();
  const { doc, selection } = session;
  const tell = useNotice();
  const { kept } = useKeptSpecs();
  const picker = useRef<HTMLInputElement>(null);
  const [said, setReplaces] = useState<boolean | null>(null);
  // What a project began with goes for the first that somebody chooses for all; some may have that one beside.
  const replaces = said ?? selection.size === 0;
  const [began] = isStartingSpec(doc) ? planOf(session).specs : [];
  const add = (what: ActSettings<typeof acts.addSpec>) => doAct(session, acts.addSpec, plainIntent(selection), what);
  const instead = began && replaces ? { instead: began.id } : {};
  const addSaved = (saved: SpecFile) => add({ saved, ...instead });
  const addFile = async (file: File) => {
    try {
      addSaved(readSpecFile(await file.text(), file.name));
    } catch (error) {
      tell((error as Error).message, { bad: true });
    }
  };
  return (
    <>
      <div className="mb-1.5 flex items-baseline gap-4">
        <h3 className="heading">
          Add a ready-made one{selection.size > 0 ? ` for the ${selection.size} selected` : ' for all pieces'}
        </h3>
        {began && (
          <label className="flex items-center gap-1.5">
            <Tick
              checked={replaces}
              onChange={setReplaces}
              label={`In place of ${began.name}, which the project began with`}
            />
            in place of {began.name}, which the project began with
          </label>
        )}
      </div>
      <ul className="grid grid-cols-2 gap-2">
        {SPEC_LIBRARY.map((entry) => (
          <li key={entry.key}>
            <Choice
              look={PLAIN}
              title={entry.name}
              outputs={entry.outputs.length}
              about={entry.about}
              onClick={() => add({ ready: entry.key, ...instead })}
            />
          </li>
        ))}
        {kept.map((each) => (
          <Kept key={each.id} spec={each} onAdd={() => addSaved(each.body)} />
        ))}
        <li>
          <Choice
            look={OWN}
            title="From a file…"
            about="A spec that was saved as JSON."
            onClick={() => picker.current?.click()}
          />
          <input
            ref={picker}
            type="file"
            hidden
            data-testid="import-spec"
            accept=".json,application/json"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) void addFile(file);
              event.target.value = '';
            }}
          />
        </li>
        <li>
          <Choice
            look={OWN}
            title="An empty spec"
            about="To fill with outputs of your own."
            onClick={() => add({ empty: true })}
          />
        </li>
      </ul>
    </>
  );
}

/** A spec kept for all projects; one of them new projects begin with. */
function Kept({ spec, onAdd }: { spec: KeptSpec; onAdd(): void }) {
  const { drop, begin } = useKeptSpecs();
  const { id, name, body, isFirst } = spec;
  return (
    <li className="relative">
      <Choice
        look="border-spruce border-solid bg-white hover:border-ink"
        title={name}
        outputs={body.outputs.length}
        about={`Kept here for all projects. ${body.spec.about}`}
        onClick={onAdd}
      />
      <span className="absolute top-1.5 right-1.5 flex items-center gap-2">
        <button
          type="button"
          aria-pressed={isFirst}
          className={`rounded-sm px-1 text-note hover:text-ink ${isFirst ? 'font-semibold text-spruce' : 'text-ink-3'}`}
          onClick={() => begin(spec, !isFirst)}
        >
          {isFirst ? 'new projects begin with it' : 'Begin new projects with it'}
        </button>
        <button
          type="button"
          aria-label={`Stop keeping ${name}`}
          className="rounded-sm px-1 text-ink-3 hover:text-bad"
          onClick={() => drop(id)}
        >
          ×
        </button>
      </span>
    </li>
  );
}

function Choice({
  look,
  title,
  outputs,
  about,
  onClick,
}: {
  look: string;
  title: ReactNode;
  outputs?: number;
  about: string;
  onClick(): void;
}) {
  return (
    <button
      type="button"
      onClick={onClick}
      className={`flex h-full w-full flex-col items-start border px-3 py-2 text-left ${look}`}
    >
      <span className="font-semibold">
        {title}
        {outputs !== undefined && <span className="font-normal text-ink-3"> {count(outputs, 'output')}</span>}
      </span>
      <span className="text-ink-2 text-note">{about}</span>
    </button>
  );
}
