import { acts, type Piece, previewRename, type RenameRule } from '@tolvik/core';
import { useState } from 'react';
import { doAct, plainIntent } from '../../project/session/act';
import { planOf, useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';

const STARTS: Record<RenameRule['kind'], RenameRule> = {
  replace: { kind: 'replace', find: '', replaceBy: '' },
  template: { kind: 'template', template: '{name}-{number}', start: 1, digits: 2 },
  case: { kind: 'case', letterCase: 'kebab' },
};

/** Many names by one rule; what would clash is seen before. */
export function RenameSheet({ records, onClose }: { records: readonly Piece['record'][]; onClose(): void }) {
  const session = useSession();
  const [rule, setRule] = useState<RenameRule>(STARTS.replace);
  const all = planOf(session).pieces.map((piece) => piece.record);
  const preview = previewRename(records, rule, all);
  const changed = preview.filter(({ record, name }) => name !== record.name);
  const empty = preview.filter(({ trouble }) => trouble === 'empty').length;
  const taken = preview.filter(({ trouble }) => trouble === 'taken').length;
  const apply = () => {
    const ids = records.map((record) => record.id);
    if (doAct(session, acts.rename, plainIntent(ids), { rule })) onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Rename ${count(records.length, 'piece')}`}
      footer={
        <>
          <span className={`mr-auto ${taken || empty ? 'text-bad' : 'text-ink-2'}`}>
            {empty
              ? `! ${count(empty, 'name')} would be empty`
              : taken
                ? `! ${count(taken, 'name')} would be taken twice`
                : 'no two share a name'}
          </span>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={changed.length === 0 || empty > 0} onClick={apply}>
            Rename {changed.length}
          </Button>
        </>
      }
    >
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <Choice
          label="How"
          value={rule.kind}
          onChange={(kind) => setRule(STARTS[kind])}
          options={[
            { value: 'replace', title: 'Find and replace' },
            { value: 'template', title: 'Template' },
            { value: 'case', title: 'Letters' },
          ]}
        />
        {rule.kind === 'replace' && (
          <>
            <input
              className="field w-40 font-mono text-[11.5px]"
              aria-label="Find"
              placeholder="find"
              value={rule.find}
              onChange={(event) => setRule({ ...rule, find: event.target.value })}
            />
            <input
              className="field w-40 font-mono text-[11.5px]"
              aria-label="Replace by"
              placeholder="replace by"
              value={rule.replaceBy}
              onChange={(event) => setRule({ ...rule, replaceBy: event.target.value })}
            />
          </>
        )}
        {rule.kind === 'template' && (
          <>
            <input
              className="field w-48 font-mono text-[11.5px]"
              aria-label="Template"
              value={rule.template}
              onChange={(event) => setRule({ ...rule, template: event.target.value })}
            />
            <NumberField
              label="first number"
              showLabel="from"
              whole
              min={0}
              max={100_000}
              value={rule.start}
              onChange={(start) => setRule({ ...rule, start })}
              className="w-28"
            />
            <NumberField
              label="digits"
              whole
              min={1}
              max={6}
              value={rule.digits}
              onChange={(digits) => setRule({ ...rule, digits })}
              showLabel="digits"
              className="w-28"
            />
          </>
        )}
        {rule.kind === 'case' && (
          <select
            className="field"
            aria-label="Letters"
            value={rule.letterCase}
            onChange={(event) =>
              setRule({ kind: 'case', letterCase: event.target.value as 'lower' | 'kebab' | 'snake' })
            }
          >
            <option value="lower">lower case</option>
            <option value="kebab">kebab-case</option>
            <option value="snake">snake_case</option>
          </select>
        )}
      </div>
      <ul className="max-h-[46vh] overflow-auto border border-line bg-white font-mono text-[11.5px]">
        {preview.slice(0, 500).map(({ record, name, trouble }) => (
          <li key={record.id} className="grid grid-cols-2 gap-4 border-line border-b px-3 py-1 last:border-b-0">
            <span className="truncate text-ink-3">{record.name}</span>
            <span
              className={`truncate ${trouble ? 'font-semibold text-bad' : name === record.name ? 'text-ink-3' : 'font-semibold'}`}
            >
              {trouble ? '! ' : ''}
              {name || 'empty'}
            </span>
          </li>
        ))}
        {preview.length > 500 && <li className="px-3 py-1 text-ink-3">and {preview.length - 500} more</li>}
      </ul>
    </Sheet>
  );
}
