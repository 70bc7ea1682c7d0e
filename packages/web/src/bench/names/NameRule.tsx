import type { RenameRule } from '@tolvik/core';
import { Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';

type Kind = Exclude<RenameRule['kind'], 'list'>;

const STARTS: { [K in Kind]: Extract<RenameRule, { kind: K }> } = {
  replace: { kind: 'replace', find: '', replaceBy: '' },
  template: { kind: 'template', template: '{name}-{number}', start: 1, digits: 2 },
  case: { kind: 'case', letterCase: 'kebab' },
};

/** Chooses the rule that is applied to every name on top of what stands in its field, and the settings of that rule. */
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
          <Words label="Find" value={rule.find} onChange={(find) => onRule({ ...rule, find })} />
          <Words label="Replace by" value={rule.replaceBy} onChange={(replaceBy) => onRule({ ...rule, replaceBy })} />
        </>
      )}
      {rule?.kind === 'template' && (
        <>
          <Words
            label="Name with its number"
            value={rule.template}
            onChange={(template) => onRule({ ...rule, template })}
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

const Words = ({ label, value, onChange }: { label: string; value: string; onChange(value: string): void }) => (
  <input
    className="field w-40 font-mono text-[11.5px]"
    aria-label={label}
    placeholder={label.toLowerCase()}
    value={value}
    onChange={(event) => onChange(event.target.value)}
  />
);
