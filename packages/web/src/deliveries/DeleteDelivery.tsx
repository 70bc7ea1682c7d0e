import { useState } from 'react';
import { Button } from '../ui/controls';
import { part } from '../ui/part';

const DeleteQuestion = part(async () => (await import('./DeleteQuestion')).DeleteQuestion);

/** Takes a delivery away after a word. */
export function DeleteDelivery(delivery: { id: string; number: number; projectId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button kind="bare" onClick={() => setOpen(true)}>
        Delete…
      </Button>
      {open && <DeleteQuestion {...delivery} onClose={() => setOpen(false)} />}
    </>
  );
}
