import { acts } from '@tolvik/core';
import { planOf, useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { count } from '../../ui/words';
import { act } from '../act';
import { useBench } from '../bench-state';

export function NothingSelected() {
  const session = useSession();
  const plan = planOf(session);
  const { settings } = session.doc;
  const { set } = useBench();
  return (
    <div className="px-3.5 py-3 text-ink-2">
      <h2 className="font-bold text-[13px] text-ink">Nothing selected</h2>
      <p className="mt-1">
        {plan.files.length === 0
          ? 'Select a piece to see the files it becomes.'
          : `${count(plan.pieces.length, 'piece')} become ${count(plan.files.length, 'file')}. Select one to see which.`}
      </p>
      <h3 className="heading mt-4 mb-1.5">This project</h3>
      <NumberField
        label="grid in px"
        showLabel="grid lines every"
        value={settings.gridPx}
        min={1}
        max={1000}
        onChange={(gridPx) => act(session, acts.setProject, { gridPx })}
        className="[&>span]:whitespace-nowrap [&>span]:font-sans [&_input]:w-16"
      />
      <Button small className="mt-2" onClick={() => set({ sheet: 'colours' })}>
        Colours…
      </Button>
      {plan.pieces.length > 1 && (
        <Button small className="mt-2 ml-1.5" onClick={() => set({ sheet: 'rename' })}>
          Names…
        </Button>
      )}
    </div>
  );
}
