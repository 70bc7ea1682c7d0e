import { type ActSettings, acts, isStartingSpec, readSpecFile, SPEC_LIBRARY, type SpecFile } from '@tolvik/core';
import { useRef, useState } from 'react';
import { useKeptSpecs } from '../../outputs/kept-specs';
import { doAct, plainIntent } from '../../project/session/act';
import { planOf, useSession } from '../../project/session/context';
import { useNotice } from '../../ui/notices';
import { Tick } from '../../ui/Tick';
import { KeptSpecChoice } from './KeptSpecChoice';
import { SpecChoice } from './SpecChoice';

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
            <SpecChoice
              look={PLAIN}
              title={entry.name}
              outputs={entry.outputs.length}
              about={entry.about}
              onClick={() => add({ ready: entry.key, ...instead })}
            />
          </li>
        ))}
        {kept.map((each) => (
          <KeptSpecChoice key={each.id} spec={each} onAdd={() => addSaved(each.body)} />
        ))}
        <li>
          <SpecChoice
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
          <SpecChoice
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
