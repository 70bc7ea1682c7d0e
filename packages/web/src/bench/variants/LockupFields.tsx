import { type ActSettings, type Artboard, acts } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { act } from '../act';

/** How an emblem and a wordmark stand to each other, in heights of the wordmark. */
export function LockupFields({ artboard }: { artboard: Artboard }) {
  const session = useSession();
  const lockup = artboard.follows?.lockup;
  if (!lockup) return null;
  const set = (said: ActSettings<typeof acts.setLockup>) => act(session, acts.setLockup, said, [artboard.id]);
  const two = lockup.arrangement === 'wide' || lockup.arrangement === 'stacked';
  return (
    <div className="mb-2 grid grid-cols-2 gap-2">
      {lockup.arrangement !== 'wordmark' && (
        <NumberField
          label="height of the emblem, times the wordmark"
          showLabel="emblem"
          value={lockup.emblemHeight}
          min={0.05}
          max={50}
          step={0.1}
          onChange={(emblemHeight) => set({ emblemHeight })}
        />
      )}
      {two && (
        <NumberField
          label="gap, times the wordmark"
          showLabel="gap"
          value={lockup.gap}
          min={0}
          max={10}
          step={0.1}
          onChange={(gap) => set({ gap })}
        />
      )}
      <NumberField
        label="clear space, times the wordmark"
        showLabel="clear"
        value={lockup.clearSpace}
        min={0}
        max={10}
        step={0.1}
        onChange={(clearSpace) => set({ clearSpace })}
      />
      {two && (
        <div className="col-span-2">
          <Choice
            label="How they are aligned"
            value={lockup.align}
            onChange={(align) => set({ align })}
            options={[
              { value: 'start', title: lockup.arrangement === 'wide' ? 'top' : 'left' },
              { value: 'centre', title: 'middle' },
              { value: 'end', title: lockup.arrangement === 'wide' ? 'bottom' : 'right' },
            ]}
          />
        </div>
      )}
    </div>
  );
}
