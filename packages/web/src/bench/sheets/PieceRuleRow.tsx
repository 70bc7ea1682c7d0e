import type { PieceRule, Spec } from '@tolvik/core';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { Ticked } from '../../ui/Tick';
import { count } from '../../ui/words';

export function PieceRuleRow({
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
