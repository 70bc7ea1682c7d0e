import { Ticked } from '../../ui/Tick';
import { useBench } from '../bench-state';

/** Whether what lies on artboards goes along with them; tickets say so where it does not. */
export function ArtworkAlong({ boards }: { boards: number }) {
  const { carry, set } = useBench();
  return (
    <div className="mt-2">
      <Ticked
        checked={carry}
        onChange={(on) => set({ carry: on })}
        label={`What lies on ${boards === 1 ? 'it' : 'them'} goes along`}
      />
    </div>
  );
}
