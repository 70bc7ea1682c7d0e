import { useVirtualizer } from '@tanstack/react-virtual';
import { acts, type NamesFrom, namedSo, namesFrom, type Piece, type RenameRule, renamed } from '@tolvik/core';
import { type ClipboardEvent, type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { doAct, plainIntent } from '../../project/session/act';
import { planOf, useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';
import { linesOfNames } from './lines-of-names';
import { NameRow, ROW_PX } from './NameRow';
import { NameRule } from './NameRule';

type Named = Piece['record'];

/**
 * Names side by side with pictures: typed down the list, pasted as a list, or taken from what is drawn; a rule goes on
 * top of them. The files that come of each are seen, and what would clash, before anything is done.
 */
export function NamesSheet({ records, onClose }: { records: readonly Named[]; onClose(): void }) {
  const session = useSession();
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [rule, setRule] = useState<RenameRule | null>(null);
  const [told, setTold] = useState('');
  // State: the rows are drawn once the dialog they scroll in is there.
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null);
  const go = useRef<HTMLButtonElement>(null);
  const rows = useVirtualizer({
    count: records.length,
    getScrollElement: () => scroller,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const isDrawn = rows.getVirtualItems().length > 0;
  useEffect(() => {
    if (isDrawn) scroller?.querySelector('input')?.focus();
  }, [scroller, isDrawn]);
  const { pieces } = planOf(session);
  const typedOf = ({ id, name }: Named) => typed[id] ?? name;
  const names = records.map((record, i) => {
    const name = typedOf(record);
    return (rule ? renamed(name, i, rule) : name.trim()).slice(0, 300);
  });
  const preview = namedSo(
    records,
    names,
    pieces.map(({ record }) => record),
  );
  const changed = preview.filter(({ record, name }) => name !== record.name).length;
  const empty = preview.filter(({ trouble }) => trouble === 'empty').length;
  const taken = preview.filter(({ trouble }) => trouble === 'taken').length;
  const byId = new Map(pieces.map((piece) => [piece.id, piece]));

  const apply = () => {
    if (changed === 0 || empty > 0) return;
    const ids = records.map(({ id }) => id);
    if (doAct(session, acts.rename, plainIntent(ids), { rule: { kind: 'list', names } })) onClose();
  };
  const type = (more: Readonly<Record<string, string>>) => {
    setTold('');
    setTyped({ ...typed, ...more });
  };
  const take = (from: NamesFrom) => {
    const found = namesFrom(session.doc, records, from);
    const said = found.filter((name) => name !== '').length;
    setTyped({ ...typed, ...Object.fromEntries(records.flatMap(({ id }, i) => (found[i] ? [[id, found[i]]] : []))) });
    setTold(
      said === records.length
        ? ''
        : `${said === 0 ? 'None' : said} of ${records.length} ${from === 'layers' ? 'has a layer with a name that says something' : 'has a text beside it'}`,
    );
  };
  /** The row `by` further on; behind the last comes the button. */
  const onTo = (index: number, by: 1 | -1) => {
    const next = index + by;
    if (next < 0) return;
    if (next >= records.length) return go.current?.focus();
    rows.scrollToIndex(next);
    const focus = () => {
      const field = scroller?.querySelector<HTMLInputElement>(`[data-row="${next}"] input`);
      field?.focus();
      field?.select();
      return field;
    };
    if (!focus()) requestAnimationFrame(focus);
  };
  const onKeys = (event: KeyboardEvent<HTMLInputElement>, index: number) => {
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) apply();
    else if (event.key === 'Enter') onTo(index, event.shiftKey ? -1 : 1);
    else if (event.key === 'Tab' && (event.shiftKey ? index > 0 : index < records.length - 1))
      onTo(index, event.shiftKey ? -1 : 1);
    else if (event.key === 'ArrowDown') onTo(index, 1);
    else if (event.key === 'ArrowUp') onTo(index, -1);
    else return;
    event.preventDefault();
  };
  const onPaste = (event: ClipboardEvent, index: number) => {
    const lines = linesOfNames(event.clipboardData.getData('text/plain'));
    if (lines.length < 2) return;
    event.preventDefault();
    const meant = records.slice(index, index + lines.length);
    type(Object.fromEntries(meant.flatMap(({ id }, i) => (lines[i] ? [[id, lines[i]]] : []))));
    const over = lines.length - meant.length;
    setTold(
      over > 0
        ? `${count(over, 'line')} more than there are pieces from here on`
        : `${count(meant.length, 'name')} pasted`,
    );
    onTo(index + meant.length - 1, 1);
  };
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Names of ${count(records.length, 'piece')}`}
      about="Type down the list: Enter goes on. Or paste a list from a spreadsheet, a line for each piece."
      footer={
        <>
          <span role="status" className={`mr-auto ${taken || empty ? 'text-bad' : 'text-ink-2'}`}>
            {empty
              ? `! ${count(empty, 'name')} would be empty`
              : taken
                ? `! ${count(taken, 'name')} would be taken twice`
                : told || 'no two share a name'}
          </span>
          <Button onClick={onClose}>Not now</Button>
          <Button ref={go} kind="go" disabled={changed === 0 || empty > 0} onClick={apply}>
            Rename {changed}
          </Button>
        </>
      }
    >
      <div ref={setScroller} className="h-[min(46vh,430px)] overflow-y-auto border border-line bg-white">
        <ul className="relative" aria-label="Pieces and their names" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start, key }) => {
            const record = records[index];
            const piece = byId.get(record.id);
            if (!piece) return null;
            return (
              <NameRow
                key={key}
                index={index}
                top={start}
                piece={piece}
                typed={typedOf(record)}
                {...preview[index]}
                onType={(name) => type({ [record.id]: name })}
                onKeys={(event) => onKeys(event, index)}
                onPaste={(event) => onPaste(event, index)}
              />
            );
          })}
        </ul>
      </div>
      <div className="mt-3 flex min-h-[30px] flex-wrap items-center gap-x-3 gap-y-2">
        <NameRule rule={rule} onRule={setRule} />
        <span className="ml-auto flex gap-1.5">
          <Button small onClick={() => take('layers')}>
            Take from layers
          </Button>
          <Button small onClick={() => take('texts')}>
            Take from texts beside them
          </Button>
        </span>
      </div>
    </Sheet>
  );
}
