import type { RenameRule } from '@tolvik/core';
import { Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';

type Kind = Exclude<RenameRule['kind'], 'list'>;

const STARTS: { [K in Kind]: Extract<RenameRule, { kind: K }> } = {
  replace: { kind: 'replace', find: '', replaceBy: '' },
  template: { kind: 'template', template: '{name}-{number}', start: 1, digits: 2 },
  case: { kind: 'case', letterCase: 'kebab' },
};

/** What is done to all names as they are typed. */
export function NameRule({ rule, onRule }: { rule: RenameRule | null; onRule(rule: RenameRule | null): void }) {
  return (
    <>
      <Choice
        label="What is done to all of them"
        value={rule && rule.kind !== 'list' ? rule.kind : 'typed'}
        onChange={(kind) => onRule(kind === 'typed' ? null : STARTS[kind])}
        options={[
          { value: 'typed', title: 'As typed' },
          { value: 'replace', title: 'Replace' },
          { value: 'template', title: 'Number' },
          { value: 'case', title: 'Letters' },
        ]}
      />
      {rule?.kind === 'replace' && (
        <>
          <input
            className="field w-36 font-mono text-[11.5px]"
            aria-label="Find"
            placeholder="find"
            value={rule.find}
            onChange={(event) => onRule({ ...rule, find: event.target.value })}
          />
          <input
            className="field w-36 font-mono text-[11.5px]"
            aria-label="Replace by"
            placeholder="replace by"
            value={rule.replaceBy}
            onChange={(event) => onRule({ ...rule, replaceBy: event.target.value })}
          />
        </>
      )}
      {rule?.kind === 'template' && (
        <>
          <input
            className="field w-40 font-mono text-[11.5px]"
            aria-label="Name with its number"
            value={rule.template}
            onChange={(event) => onRule({ ...rule, template: event.target.value })}
          />
          <NumberField
            label="first number"
            showLabel="from"
            whole
            min={0}
            max={100_000}
            value={rule.start}
            onChange={(start) => onRule({ ...rule, start })}
            className="w-24"
          />
          <NumberField
            label="digits"
            whole
            min={1}
            max={6}
            value={rule.digits}
            onChange={(digits) => onRule({ ...rule, digits })}
            showLabel="digits"
            className="w-24"
          />
        </>
      )}
      {rule?.kind === 'case' && (
        <select
          className="field"
          aria-label="Letters"
          value={rule.letterCase}
          onChange={(event) => onRule({ kind: 'case', letterCase: event.target.value as typeof rule.letterCase })}
        >
          <option value="lower">lower case</option>
          <option value="kebab">kebab-case</option>
          <option value="snake">snake_case</option>
          <option value="spaced">spaces between words</option>
        </select>
      )}
    </>
  );
}
