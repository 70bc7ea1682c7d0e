import { acts, type Difference, type Edition } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { Tick } from '../../ui/Tick';
import { toggled } from '../../ui/toggled';
import { count } from '../../ui/words';
import { act } from '../act';

/** Which other editions get a difference as well. */
export function GiveSheet({
  edition,
  others,
  given,
  onClose,
}: {
  edition: Edition;
  others: readonly Edition[];
  given: Difference;
  onClose(): void;
}) {
  const session = useSession();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const apply = () => {
    const { layerId, field } = given;
    act(session, acts.giveDifference, { editionId: edition.id, layerId, field, to: [...chosen] });
    onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title={`${given.title}: ${given.words}`}
      about={`From ${edition.name} to other editions.`}
      footer={
        <>
          <Button
            className="mr-auto"
            onClick={() => setChosen(new Set(chosen.size === others.length ? [] : others.map((other) => other.id)))}
          >
            {chosen.size === others.length ? 'None' : 'All'}
          </Button>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={chosen.size === 0} onClick={apply}>
            Give to {count(chosen.size, 'edition')}
          </Button>
        </>
      }
    >
      <ul className="grid grid-cols-2 gap-x-4">
        {others.map((other) => (
          <li key={other.id}>
            <label className="flex items-center gap-2 py-0.5">
              <Tick
                checked={chosen.has(other.id)}
                onChange={(on) => setChosen(toggled(chosen, other.id, on))}
                label={other.name}
              />
              <span className="truncate">{other.name}</span>
            </label>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
