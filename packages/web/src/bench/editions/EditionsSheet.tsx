import {
  type Artboard,
  choicesOn,
  combinationCount,
  combinations,
  decodeText,
  type EditionDraft,
  MAX_EDITIONS,
  makeEditions,
  namingOf,
  readEditionTable,
  startingTable,
  type Choice as Turns,
} from '@tolvik/core';
import { useMemo, useRef, useState } from 'react';
import { useSession } from '../../project/context';
import { Button, Choice } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { Tick } from '../../ui/Tick';
import { toggled } from '../../ui/toggled';
import { count } from '../../ui/words';

/** The largest table that is read, in bytes. */
const MAX_TABLE_BYTES = 4 * 1_048_576;
const ROWS_SHOWN = 60;

const takesTurns = ({ options }: Turns): boolean => options.filter((option) => option.shown).length === 1;

/** Many editions at once, from a table or as all combinations of groups; all is seen before it is made. */
export function EditionsSheet({ base, onClose }: { base: Artboard; onClose(): void }) {
  const session = useSession();
  const { doc } = session;
  const [from, setFrom] = useState<'table' | 'combinations'>('table');
  // biome-ignore lint/correctness/useExhaustiveDependencies: a beginning, made once
  const beginning = useMemo(() => startingTable(doc, base), []);
  const [text, setText] = useState(beginning);
  const all = choicesOn(doc, base).sort((a, b) => Number(takesTurns(b)) - Number(takesTurns(a)));
  // Groups that show one of their layers already are the ones made for taking turns.
  const [picked, setPicked] = useState<ReadonlySet<string>>(
    new Set(all.filter(takesTurns).map(({ group }) => group.id)),
  );
  const choices = all.filter(({ group }) => picked.has(group.id));
  const [naming, setNaming] = useState<string | null>(null);
  const table = readEditionTable(doc, base, text);
  const drafts = from === 'table' ? table.drafts : combinations(doc, base, choices, naming ?? namingOf(choices));
  const apply = () => {
    const puts = makeEditions(doc, base, drafts);
    session.commit({ label: `make ${count(drafts.length, 'edition')} of ${base.name}`, puts, removes: [] });
    session.select([base.id]);
    onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Editions of ${base.name}`}
      about="An edition holds only what differs; whatever it does not say follows the base."
      footer={
        <>
          <span className="mr-auto text-ink-2">
            {base.on && doc.list('edition').every((edition) => edition.artboardId !== base.id)
              ? 'The base itself is switched off; its row on the Proof brings it back.'
              : ''}
          </span>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={drafts.length === 0} onClick={apply}>
            Make {count(drafts.length, 'edition')}
          </Button>
        </>
      }
    >
      <Choice
        label="Made from"
        value={from}
        onChange={setFrom}
        options={[
          { value: 'table', title: 'From a table' },
          { value: 'combinations', title: 'All combinations' },
        ]}
      />
      {from === 'table' ? (
        <TableFields text={text} onText={setText} table={table} />
      ) : (
        <CombinationFields
          choices={all}
          picked={picked}
          onPicked={setPicked}
          naming={naming ?? namingOf(choices)}
          onNaming={setNaming}
          drafts={drafts}
        />
      )}
    </Sheet>
  );
}

function TableFields({
  text,
  onText,
  table,
}: {
  text: string;
  onText(text: string): void;
  table: ReturnType<typeof readEditionTable>;
}) {
  const picker = useRef<HTMLInputElement>(null);
  const [tooLarge, setTooLarge] = useState(false);
  const read = async (file: File) => {
    setTooLarge(file.size > MAX_TABLE_BYTES);
    if (file.size <= MAX_TABLE_BYTES) onText(decodeText(new Uint8Array(await file.arrayBuffer())));
  };
  return (
    <div className="mt-3 grid grid-cols-2 gap-5">
      <div>
        <div className="mb-1 flex items-center justify-between">
          <label htmlFor="edition-table" className="heading">
            A row each, the first column names it
          </label>
          <Button small onClick={() => picker.current?.click()}>
            Open a file…
          </Button>
          <input
            ref={picker}
            type="file"
            hidden
            data-testid="edition-table-file"
            accept=".csv,.tsv,.txt"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) void read(file);
              event.target.value = '';
            }}
          />
        </div>
        <textarea
          id="edition-table"
          className="h-[300px] w-full resize-none rounded-md border border-line-strong bg-white p-2 font-mono text-[11.5px] leading-[1.5]"
          spellCheck={false}
          wrap="off"
          value={text}
          onChange={(event) => onText(event.target.value)}
        />
        {tooLarge && (
          <p role="alert" className="mt-1 text-bad">
            That file is larger than {MAX_TABLE_BYTES / 1_048_576} MB.
          </p>
        )}
        <p className="mt-1.5 text-ink-2 text-note">
          Paste from a spreadsheet, or commas or semicolons. A column is headed by a layer: for a group it says which of
          its layers shows, for a text its words, for a shape its colour or yes and no. An empty cell is as the base has
          it.
        </p>
      </div>
      <div className="min-w-0">
        <h3 className="heading mb-1">{count(table.drafts.length, 'edition')}</h3>
        {table.trouble.length > 0 && (
          <ul
            aria-label="What cannot be used"
            className="mb-2 max-h-[110px] overflow-auto border-bad border-l-2 bg-bad-pale px-3 py-1.5"
          >
            {table.trouble.map(({ row, column, message }) => (
              <li key={`${row} ${column} ${message}`}>
                <span className="font-mono text-[11px]">
                  row {row}, column {column}
                </span>{' '}
                {message}
              </li>
            ))}
          </ul>
        )}
        <DraftList drafts={table.drafts} />
      </div>
    </div>
  );
}

function CombinationFields({
  choices,
  picked,
  onPicked,
  naming,
  onNaming,
  drafts,
}: {
  choices: readonly Turns[];
  picked: ReadonlySet<string>;
  onPicked(picked: ReadonlySet<string>): void;
  naming: string;
  onNaming(naming: string): void;
  drafts: readonly EditionDraft[];
}) {
  const chosen = choices.filter(({ group }) => picked.has(group.id));
  const total = combinationCount(chosen);
  return (
    <div className="mt-3 grid grid-cols-2 gap-5">
      <div>
        <label className="mb-3 block">
          <span className="heading mb-1 block">Names</span>
          <input
            className="field w-full font-mono text-[11.5px]"
            value={naming}
            maxLength={300}
            onChange={(event) => onNaming(event.target.value)}
          />
          <span className="mt-1 block text-ink-2 text-note">
            A group’s name in braces stands for its layer; {'{base}'} and {'{n}'} are the artboard and a count.
          </span>
        </label>
        <h3 className="heading mb-1.5">One layer of each group shows</h3>
        {choices.length === 0 && (
          <p className="text-ink-2">No group on this artboard holds layers that could take turns.</p>
        )}
        {choices.map(({ group, options }) => (
          <label key={group.id} className="flex items-start gap-2 py-1">
            <Tick
              checked={picked.has(group.id)}
              onChange={(on) => onPicked(toggled(picked, group.id, on))}
              label={`Combine ${group.name || 'group'}`}
              className="mt-0.5"
            />
            <span className="min-w-0">
              <strong className="font-semibold">{group.name || 'group'}</strong>{' '}
              <span className="font-mono text-[11px] text-ink-3">× {options.length}</span>
              <span className="block truncate text-ink-2 text-note">
                {options.map((option) => option.name || option.tag).join(', ')}
              </span>
            </span>
          </label>
        ))}
        {total > MAX_EDITIONS && (
          <p role="alert" className="mt-2 text-bad">
            {total.toLocaleString('en')} are more than the {MAX_EDITIONS.toLocaleString('en')} editions one artboard may
            have. Leave a group out.
          </p>
        )}
      </div>
      <div className="min-w-0">
        <h3 className="heading mb-1">
          {chosen.map(({ options }) => options.length).join(' × ')}{' '}
          {chosen.length > 0 ? `= ${total.toLocaleString('en')}` : 'No group is chosen'}
        </h3>
        <DraftList drafts={drafts} />
      </div>
    </div>
  );
}

/** The editions to be, with what each changes. */
function DraftList({ drafts }: { drafts: readonly EditionDraft[] }) {
  const { doc } = useSession();
  const told = (draft: EditionDraft) =>
    Object.entries(draft.overrides).flatMap(([id, { shown, words, tint }]) => {
      const name = doc.find('layer', id)?.name || 'a layer';
      return [
        ...(shown ? [name] : []),
        ...(words !== undefined ? [`“${words.split('\n')[0]}”`] : []),
        ...(tint ? [`${name} ${tint}`] : []),
      ];
    });
  return (
    <ol className="max-h-[300px] overflow-auto border border-line bg-white">
      {drafts.slice(0, ROWS_SHOWN).map((draft, i) => (
        <li key={draft.name} className="flex items-baseline gap-2 border-line border-b px-2 py-1">
          <span className="w-7 shrink-0 text-right font-mono text-[11px] text-ink-3">{i + 1}</span>
          <span className="shrink-0 font-semibold">{draft.name}</span>
          <span className="min-w-0 truncate text-ink-2 text-note">{told(draft).join(', ')}</span>
        </li>
      ))}
      {drafts.length > ROWS_SHOWN && (
        <li className="px-2 py-1 text-ink-2">and {count(drafts.length - ROWS_SHOWN, 'more edition')}</li>
      )}
    </ol>
  );
}
