import { Popover } from 'radix-ui';
import { Suspense, useState } from 'react';
import { part } from '../ui/part';

// It comes when it is first asked for.
const WhichFiles = part(async () => (await import('./WhichFiles')).WhichFiles);

/** More outputs, behind the last column. */
export function AddOutputs() {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="font-semibold text-spruce">+ Output</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="More outputs"
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="z-30 w-[440px] border border-ink bg-paper p-3.5 shadow-[0_8px_24px_rgb(23_27_28/0.18)]"
        >
          <Suspense fallback={null}>
            <WhichFiles onDone={() => setOpen(false)} />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
