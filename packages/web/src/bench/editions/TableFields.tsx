import { type Artboard, decodeText, type EditionTable, MAX_TABLE_BYTES } from '@tolvik/core';
import { type ReactNode, useRef, useState } from 'react';
import { Button } from '../../ui/controls';
import { fileName, saveText } from '../../ui/save-file';
import { count } from '../../ui/words';
import { EditionRows } from './EditionRows';
import { columnWidth, whatBecomes } from './table-words';

/** The table, what it makes of the editions, and what of it cannot be used. */
export function TableFields({
  base,
  text,
  onText,
  table,
  left,
  children,
}: {
  base: Artboard;
  text: string;
  onText(text: string): void;
  table: EditionTable;
  /** Differences of the editions that the table cannot say. */
  left: number;
  children: ReactNode;
}) {
  const picker = useRef<HTMLInputElement>(null);
  const [tooLarge, setTooLarge] = useState(false);
  const mixed = table.changed.length + table.same.length + table.missing.length > 0;
  // With the mark by which spreadsheets know the encoding.
  const save = () =>
    saveText(`${fileName(base.name, 'editions')} editions.tsv`, `\uFEFF${text}`, 'text/tab-separated-values');
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
          <span className="flex gap-1.5">
            <Button small onClick={save}>
              Save as a file
            </Button>
            <Button small onClick={() => picker.current?.click()}>
              Open a file…
            </Button>
          </span>
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
          style={{ tabSize: columnWidth(text) }}
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
          {left > 0 &&
            ` ${count(left, 'difference has', 'differences have')} no column, such as a move, and ${left === 1 ? 'stays' : 'stay'} as ${left === 1 ? 'it is' : 'they are'}.`}
        </p>
      </div>
      <div className="min-w-0">
        <h3 className="heading mb-1">{whatBecomes(table)}</h3>
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
        <EditionRows
          rows={[
            ...table.changed.map((edition) => ({ ...edition, becomes: 'changed' })),
            ...table.drafts.map((draft) => ({ ...draft, becomes: mixed ? 'new' : undefined })),
            ...table.same.map((edition) => ({ ...edition, becomes: 'as it is' })),
          ]}
        />
        {table.renamed.map(({ was, now }) => (
          <p key={was} className="mt-1.5 text-ink-2 text-note">
            {was} is called {now} now: its cells say what the editions say there.
          </p>
        ))}
        {table.likeBase > 0 && (
          <p className="mt-1.5 text-ink-2 text-note">
            {count(table.likeBase, 'cell says', 'cells say')} what the base says, so{' '}
            {table.likeBase === 1 ? 'it follows' : 'they follow'} the base.
          </p>
        )}
        {children}
      </div>
    </div>
  );
}
