import {
  ARRANGEMENTS,
  type Arrangement,
  type Artboard,
  acts,
  artboardRecord,
  emblemFirst,
  LOCKUP_OPTIONS,
  lockupRule,
  lockupSize,
  type VariantKey,
} from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { Sheet } from '../../ui/Sheet';
import { Tick } from '../../ui/Tick';
import { toggled } from '../../ui/toggled';
import { count } from '../../ui/words';
import { act } from '../act';
import { LockupCards } from './LockupCards';
import { NamedFooter } from './NamedFooter';
import { useMeetings } from './use-meetings';

const COLOURINGS: readonly { key: VariantKey; title: string }[] = [
  { key: 'reversed', title: 'Reversed' },
  { key: 'mono-dark', title: 'Mono dark' },
  { key: 'mono-light', title: 'Mono light' },
  { key: 'grey', title: 'Grey' },
];

/** Lockups of an emblem and a wordmark by one rule, in their own colours and as variants; all of them follow. */
export function LockupsSheet({ parts, onClose }: { parts: readonly [Artboard, Artboard]; onClose(): void }) {
  const session = useSession();
  const [[emblem, wordmark], setParts] = useState(() => emblemFirst(parts));
  const [options, setOptions] = useState(LOCKUP_OPTIONS);
  const [chosen, setChosen] = useState<ReadonlySet<Arrangement>>(new Set(ARRANGEMENTS));
  const [colourings, setColourings] = useState<ReadonlySet<VariantKey>>(new Set());
  const [naming, setNaming] = useState('logo-{lockup}');
  const drafts = ARRANGEMENTS.map((arrangement) => {
    const lockup = lockupRule.parse({ ...options, arrangement, wordmarkId: wordmark.id });
    return artboardRecord.parse({
      ...emblem,
      id: arrangement,
      ...lockupSize(emblem, wordmark, lockup),
      follows: { artboardId: emblem.id, rule: { kind: 'asDrawn' }, lockup },
    });
  });
  const total = chosen.size * (1 + colourings.size);
  const meetings = useMeetings(parts);
  const apply = () => {
    const settings = {
      ...options,
      arrangements: [...chosen],
      naming,
      colourings: [...colourings],
      emblemId: emblem.id,
      meetings: meetings?.bySource,
    };
    if (act(session, acts.makeLockups, settings, [emblem.id, wordmark.id])) onClose();
  };
  const number = (field: 'gap' | 'clearSpace' | 'emblemHeight', label: string, min: number) => (
    <NumberField
      label={`${label}, times the height of the wordmark`}
      showLabel={label}
      value={options[field]}
      min={min}
      max={10}
      step={0.1}
      onChange={(value) => setOptions({ ...options, [field]: value })}
    />
  );
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title="Lockups"
      about="Each follows both artboards: redraw one and every lockup has it. Lengths are times the height of the wordmark."
      footer={
        <NamedFooter
          naming={naming}
          onNaming={setNaming}
          go={`Make ${count(total, 'lockup')}`}
          disabled={total === 0 || !meetings}
          onGo={apply}
          onClose={onClose}
        />
      }
    >
      <div className="grid grid-cols-[230px_1fr] gap-6">
        <div className="flex flex-col gap-3">
          <dl className="grid grid-cols-[76px_1fr] gap-y-1">
            <dt className="text-ink-2">Emblem</dt>
            <dd className="truncate font-semibold">{emblem.name}</dd>
            <dt className="text-ink-2">Wordmark</dt>
            <dd className="truncate font-semibold">{wordmark.name}</dd>
          </dl>
          <Button small className="self-start" onClick={() => setParts([wordmark, emblem])}>
            The other way round
          </Button>
          {number('emblemHeight', 'emblem', 0.05)}
          {number('gap', 'gap', 0)}
          {number('clearSpace', 'clear space', 0)}
          <Choice
            label="How they are aligned"
            value={options.align}
            onChange={(align) => setOptions({ ...options, align })}
            options={[
              { value: 'start', title: 'start' },
              { value: 'centre', title: 'centre' },
              { value: 'end', title: 'end' },
            ]}
          />
          <fieldset className="mt-1">
            <legend className="heading mb-1.5">Also as variants</legend>
            {COLOURINGS.map(({ key, title }) => (
              <label key={key} className="flex items-center gap-2 py-0.5">
                <Tick
                  checked={colourings.has(key)}
                  onChange={(on) => setColourings(toggled(colourings, key, on))}
                  label={title}
                />{' '}
                {title}
              </label>
            ))}
          </fieldset>
        </div>
        <LockupCards drafts={drafts} ground={emblem.background} chosen={chosen} onChosen={setChosen} />
      </div>
    </Sheet>
  );
}
