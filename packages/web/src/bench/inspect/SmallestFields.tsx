import { type ActSettings, type Artboard, acts, smallestOf } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { NumberField } from '../../ui/NumberField';
import { act } from '../act';

/** The least width at which artboards may be shown; what one shows is the first's. */
export function SmallestFields({ artboard }: { artboard: Artboard }) {
  const session = useSession();
  const smallest = smallestOf(session.doc, artboard);
  const set = (said: ActSettings<typeof acts.setSmallest>) => act(session, acts.setSmallest, said, [artboard.id]);
  return (
    <div className="mt-2 flex items-center gap-2" title="Files that are narrower are told, and a brand sheet shows it">
      <span className="shrink-0 text-ink-2">Smallest</span>
      {(['px', 'mm'] as const).map((unit) => (
        <NumberField
          key={unit}
          label={`smallest on ${unit === 'px' ? 'screens' : 'paper'} in ${unit}`}
          showLabel={unit}
          value={smallest?.[unit] ?? null}
          none="any"
          min={0.1}
          onChange={(width) => set({ [unit]: width })}
          onNone={() => set({ [unit]: null })}
          className="min-w-0 flex-1"
        />
      ))}
    </div>
  );
}
