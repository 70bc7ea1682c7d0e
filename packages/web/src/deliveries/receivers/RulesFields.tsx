import { type IntakeRules, READY_RULES, readRules, same } from '@tolvik/core';
import { useRef, useState } from 'react';
import { Button } from '../../ui/controls';
import { fileName, saveJson } from '../../ui/save-file';
import { RuleForm } from './RuleForm';

const OWN = 'own';

/** What a receiver takes: nothing said, ready-made rules, or one's own; opened from a file and saved as one. */
export function RulesFields({
  rules,
  onChange,
}: {
  rules: IntakeRules | null;
  onChange(rules: IntakeRules | null): void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState('');
  const ready = rules && READY_RULES.find((each) => same(each, rules));
  const choose = (value: string) => {
    setTrouble('');
    if (value === '') onChange(null);
    else onChange(READY_RULES.find(({ name }) => name === value) ?? rules);
  };
  const open = async (files: FileList | null) => {
    const text = await files?.[0]?.text();
    if (text === undefined) return;
    const read = readRules(text);
    if (typeof read === 'string') setTrouble(`These are no rules: ${read}.`);
    else {
      setTrouble('');
      onChange(read);
    }
    if (file.current) file.current.value = '';
  };
  return (
    <section aria-label="What it takes" className="mt-4 border-line border-t pt-3">
      <div className="flex items-center gap-2">
        <h3 className="heading shrink-0">What it takes</h3>
        <select
          aria-label="Rules"
          className="field min-w-0 flex-1"
          value={rules ? (ready?.name ?? OWN) : ''}
          onChange={(event) => choose(event.target.value)}
        >
          <option value="">anything</option>
          {READY_RULES.map(({ name }) => (
            <option key={name} value={name}>
              as {/^[aeiou]/i.test(name) ? 'an' : 'a'} {name.toLowerCase()} does
            </option>
          ))}
          {rules && !ready && <option value={OWN}>{rules.name}, rules of one’s own</option>}
        </select>
        <Button small onClick={() => file.current?.click()}>
          Open…
        </Button>
        {rules && (
          <Button small onClick={() => saveJson(`${fileName(rules.name, 'rules')}.json`, rules)}>
            Save
          </Button>
        )}
        <input
          ref={file}
          type="file"
          accept="application/json,.json"
          aria-label="File of rules"
          className="hidden"
          onChange={(event) => void open(event.target.files)}
        />
      </div>
      {trouble && (
        <p role="alert" className="mt-1 text-bad">
          {trouble}
        </p>
      )}
      {rules && <RuleForm rules={rules} onChange={onChange} />}
    </section>
  );
}
