import {
  acts,
  byPieceRules,
  layersByRule,
  newId,
  type PieceRule,
  ProjectDocument,
  type Spec,
  startingSpecs,
} from '@tolvik/core';
import { useMemo, useState } from 'react';
import { useSession } from '../project/context';
import { Button } from '../ui/controls';
import { NumberField } from '../ui/NumberField';
import { Sheet } from '../ui/Sheet';
import { Ticked } from '../ui/Tick';
import { count } from '../ui/words';
import { act } from './act';

/** Which groups and layers become pieces by themselves, now and whenever something is brought in; counted before it is done. */
export function PieceRulesSheet({ onClose }: { onClose(): void }) {
  const session = useSession();
  const { doc } = session;
  const fresh = (): PieceRule => ({
    id: newId(),
    match: { kind: 'groups' },
    margin: 0,
    wholePx: true,
    specIds: startingSpecs(doc),
  });
  const [rules, setRules] = useState<PieceRule[]>(() => doc.settings.pieceRules ?? [fresh()]);
  const valid = rules.every(({ match }) => match.kind === 'groups' || match.like !== '');
  const { made, gone } = useMemo(() => outcomeOf(doc, rules), [doc, rules]);
  const change = (id: string, fields: Partial<PieceRule>) =>
    setRules(rules.map((rule) => (rule.id === id ? { ...rule, ...fields } : rule)));
  const apply = () => {
    act(session, acts.setPieceRules, { rules });
    onClose();
  };
  const sentence = [
    made > 0 && `${count(made, 'piece')} ${made === 1 ? 'is' : 'are'} made or changed`,
    gone > 0 && `${gone} ${gone === 1 ? 'goes' : 'go'}`,
  ].filter(Boolean);
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title="Pieces by rule"
      about="What a rule means becomes a piece that follows it, now and each time that something is brought in. A piece that you change by hand is yours from then on; one that nobody changed goes with its layer."
      footer={
        <>
          <span className="mr-auto text-ink-2">{sentence.join(', ') || 'Nothing changes now'}</span>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={!valid} onClick={apply}>
            {rules.length === 0 ? 'Remove all rules' : `Save ${count(rules.length, 'rule')}`}
          </Button>
        </>
      }
    >
      <ul className="flex flex-col gap-2.5">
        {rules.map((rule, i) => (
          <RuleRow
            key={rule.id}
            rule={rule}
            number={i + 1}
            means={layersByRule(doc, rule).length}
            specs={doc.list('spec')}
            onChange={(fields) => change(rule.id, fields)}
            onRemove={() => setRules(rules.filter(({ id }) => id !== rule.id))}
          />
        ))}
      </ul>
      <Button small className="mt-3" onClick={() => setRules([...rules, fresh()])}>
        Another rule
      </Button>
    </Sheet>
  );
}

/** How many pieces rules would make or change, and how many would go. */
function outcomeOf(doc: ProjectDocument, rules: readonly PieceRule[]): { made: number; gone: number } {
  const scratch = new ProjectDocument(doc.all());
  scratch.apply({ puts: [{ ...doc.settings, pieceRules: [...rules] }], removes: [] });
  const { puts, removes } = byPieceRules(scratch);
  return { made: puts.length, gone: removes.length };
}

function RuleRow({
  rule: { match, becomes = 'slice', margin, square = false, wholePx = false, specIds },
  number,
  means,
  specs,
  onChange,
  onRemove,
}: {
  rule: PieceRule;
  number: number;
  /** How many layers it means now. */
  means: number;
  specs: readonly Spec[];
  onChange(fields: Partial<PieceRule>): void;
  onRemove(): void;
}) {
  return (
    <li aria-label={`Rule ${number}`} className="border border-line bg-white p-3">
      <div className="flex flex-wrap items-center gap-2">
        <select
          className="field"
          aria-label="What it means"
          value={match.kind}
          onChange={(event) =>
            onChange({
              match: event.target.value === 'groups' ? { kind: 'groups' } : { kind: 'named', like: 'icon-*' },
            })
          }
        >
          <option value="groups">Every group of a drawing</option>
          <option value="named">Groups and layers named like</option>
        </select>
        {match.kind === 'named' && (
          <input
            className="field w-[180px] font-mono text-[11.5px]"
            aria-label="Names like"
            placeholder="icon-*"
            maxLength={200}
            value={match.like}
            onChange={(event) => onChange({ match: { kind: 'named', like: event.target.value } })}
          />
        )}
        <span className={means === 0 ? 'text-ochre' : 'text-ink-2'}>
          {match.kind === 'named' && match.like === '' ? 'needs a name such as icon-*' : `${count(means, 'layer')} now`}
        </span>
        <Button small className="ml-auto" aria-label={`Remove rule ${number}`} onClick={onRemove}>
          Remove
        </Button>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <select
          className="field"
          aria-label="What becomes of each"
          value={becomes}
          onChange={(event) => onChange({ becomes: event.target.value as 'slice' | 'artboard' })}
        >
          <option value="slice">becomes a slice that follows it</option>
          <option value="artboard">becomes an artboard around it</option>
        </select>
        <NumberField
          label="Margin in px"
          showLabel="margin"
          value={margin}
          min={-10_000}
          max={10_000}
          onChange={(next) => onChange({ margin: next })}
          className="w-[120px]"
        />
        <Ticked checked={square} onChange={(on) => onChange({ square: on })} label="Square" />
        {becomes === 'slice' && (
          <Ticked checked={wholePx} onChange={(on) => onChange({ wholePx: on })} label="On whole px" />
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <span className="text-ink-2">Makes the files of</span>
        {specs.map(({ id, name }) => (
          <Ticked
            key={id}
            checked={specIds.includes(id)}
            onChange={(on) => onChange({ specIds: on ? [...specIds, id] : specIds.filter((other) => other !== id) })}
            label={name}
          />
        ))}
      </div>
    </li>
  );
}
