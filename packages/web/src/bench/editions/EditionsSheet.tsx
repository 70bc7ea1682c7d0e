import {
  type Artboard,
  acts,
  choicesOn,
  combinations,
  editionsOf,
  editionTable,
  namingOf,
  parseTable,
  printTable,
  readEditionTable,
  type Choice as Turns,
} from '@tolvik/core';
import { useMemo, useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { Ticked } from '../../ui/Tick';
import { count, few, upper } from '../../ui/words';
import { act } from '../act';
import { CombinationFields } from './CombinationFields';
import { TableFields } from './TableFields';

const takesTurns = ({ options }: Turns): boolean => options.filter((option) => option.shown).length === 1;

/** "Make 2 editions, change 3". */
const inOne = (steps: readonly [n: number, verb: string][]): string =>
  steps.length === 0
    ? 'Nothing to change'
    : upper(
        steps.map(([n, verb], i) => `${verb} ${i === 0 ? count(n, 'edition') : n.toLocaleString('en')}`).join(', '),
      );

/** Many editions at once, from a table or as all combinations of groups; all is seen before it is made. */
export function EditionsSheet({ base, onClose }: { base: Artboard; onClose(): void }) {
  const session = useSession();
  const { doc } = session;
  const [from, setFrom] = useState<'table' | 'combinations'>('table');
  // biome-ignore lint/correctness/useExhaustiveDependencies: a beginning, made once
  const beginning = useMemo(() => editionTable(doc, base), []);
  const [text, setText] = useState(() => printTable(beginning.rows));
  const [takeOutMissing, setTakeOutMissing] = useState(false);
  const all = choicesOn(doc, base).sort((a, b) => Number(takesTurns(b)) - Number(takesTurns(a)));
  // Groups that show one of their layers already are the ones made for taking turns.
  const [picked, setPicked] = useState<ReadonlySet<string>>(
    new Set(all.filter(takesTurns).map(({ group }) => group.id)),
  );
  const choices = all.filter(({ group }) => picked.has(group.id));
  const [naming, setNaming] = useState<string | null>(null);
  const cells = parseTable(text);
  const table = readEditionTable(doc, base, cells);
  const drafts = from === 'table' ? table.drafts : combinations(doc, base, choices, naming ?? namingOf(choices));
  const steps: [n: number, verb: string][] =
    from === 'table'
      ? [
          [drafts.length, 'make'],
          [table.changed.length, 'change'],
          [takeOutMissing ? table.missing.length : 0, 'take out'],
        ]
      : [[drafts.length, 'make']];
  const does = steps.filter(([n]) => n > 0);
  const apply = () => {
    const done =
      from === 'table'
        ? act(session, acts.editionsFromTable, { table: cells, takeOutMissing, partly: true }, [base.id])
        : act(session, acts.combineEditions, { groups: [...picked], naming: naming ?? undefined }, [base.id]);
    if (!done) return;
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
            {base.on && editionsOf(doc, base).length === 0
              ? 'The base itself is switched off; its row on the Proof brings it back.'
              : ''}
          </span>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={does.length === 0} onClick={apply}>
            {inOne(does)}
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
        <TableFields base={base} text={text} onText={setText} table={table} left={beginning.left}>
          {table.missing.length > 0 && (
            <Ticked
              checked={takeOutMissing}
              onChange={setTakeOutMissing}
              label={`Take out ${count(table.missing.length, 'edition')} without a row`}
              note={few(table.missing.map(({ name }) => name))}
              className="mt-2"
            />
          )}
        </TableFields>
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
