import { useState } from 'react';
import type { DeliveryDetail } from '../../api/types';
import { Button } from '../../ui/controls';
import { part } from '../../ui/part';

const AsItWasSheet = part(async () => (await import('./AsItWasSheet')).AsItWasSheet);

/** The project as it was when a delivery was made: piece by piece, or as a project of its own. */
export function AsItWas({ delivery }: { delivery: DeliveryDetail }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)} title="What differs from then, and the way back">
        Bring back…
      </Button>
      {open && <AsItWasSheet delivery={delivery} onClose={() => setOpen(false)} />}
    </>
  );
}
