import { acts, type NamesFrom, namedSo, namesFrom, type Piece, type RenameRule, renamed } from '@tolvik/core';
import { useRef, useState } from 'react';
import { doAct, plainIntent } from '../../project/session/act';
import { planOf, useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';
import { NameRule } from './NameRule';
import { NamesTable } from './NamesTable';

const FOUND_IN: Record<NamesFrom, string> = {
  layers: 'a layer with a name that says something',
  texts: 'a text beside it',
};

/**
 * Names side by side with pictures: typed down the list, pasted as a list, or taken from what is drawn; a rule goes on
 * top of them. The files that come of each are seen, and what would clash, before anything is done.
 */
export function NamesSheet({ pieces, onClose }: { pieces: readonly Piece[]; onClose(): void }) {
  const session = useSession();
  const [changes, setChanges] = useState<Readonly<Record<string, string>>>({});
  const [rule, setRule] = useState<RenameRule | null>(null);
  const [told, setTold] = useState('');
  const go = useRef<HTMLButtonElement>(null);
  const records = pieces.map(({ record }) => record);
  const typed = records.map(({ id, name }) => changes[id] ?? name);
  const names = typed.map((name, i) => (rule ? renamed(name, i, rule) : name.trim()).slice(0, 300));
  const all = planOf(session).pieces.map(({ record }) => record);
  const preview = namedSo(records, names, all);
  const changed = preview.filter(({ record, name }) => name !== record.name).length;
  const empty = preview.filter(({ trouble }) => trouble === 'empty').length;
  const taken = preview.filter(({ trouble }) => trouble === 'taken').length;

  const apply = () => {
    if (changed === 0 || empty > 0) return;
    const ids = records.map(({ id }) => id);
    if (doAct(session, acts.rename, plainIntent(ids), { rule: { kind: 'list', names } })) onClose();
  };
  /** Puts names into the fields from one row on; where one is empty, what stands there stays. */
  const put = (from: number, list: readonly string[]) =>
    setChanges({
      ...changes,
      ...Object.fromEntries(
        records.slice(from, from + list.length).flatMap(({ id }, i) => (list[i] ? [[id, list[i]]] : [])),
      ),
    });
  const takeList = (from: number, list: readonly string[]) => {
    put(from, list);
    const over = from + list.length - records.length;
    setTold(
      over > 0
        ? `${count(over, 'line')} more than there are pieces from here on`
        : `${count(list.length, 'name')} pasted`,
    );
  };
  const takeFrom = (from: NamesFrom) => {
    const found = namesFrom(session.doc, records, from);
    put(0, found);
    const said = found.filter((name) => name !== '').length;
    setTold(`${count(said, 'piece has', 'pieces have')} ${FOUND_IN[from]}`);
  };
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Names of ${count(pieces.length, 'piece')}`}
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
      <NamesTable
        pieces={pieces}
        typed={typed}
        preview={preview}
        onType={(at, name) => {
          setTold('');
          setChanges({ ...changes, [records[at].id]: name });
        }}
        onList={takeList}
        onDone={apply}
        onEnd={() => go.current?.focus()}
      />
      <div className="mt-3 flex min-h-[30px] flex-wrap items-center gap-x-3 gap-y-2">
        <NameRule rule={rule} onRule={setRule} />
        <span className="ml-auto flex gap-1.5">
          <Button small onClick={() => takeFrom('layers')}>
            Take from layers
          </Button>
          <Button small onClick={() => takeFrom('texts')}>
            Take from texts beside them
          </Button>
        </span>
      </div>
    </Sheet>
  );
}
