import { Popover } from 'radix-ui';
import { Suspense, useState } from 'react';
import { part } from './part';
import { type ColourPickProps, SWATCH, Swatch } from './Swatch';

const ColourPlane = part(async () => (await import('./ColourPlane')).ColourPlane);

/** What `ColourPick` is once it is there: a field of the colour that opens where it is picked. */
export function ColourPopover({ label, value, alpha, onChange, className = '' }: ColourPickProps) {
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <Popover.Root onOpenChange={() => setDraft(null)}>
      <Popover.Trigger aria-label={`${label}: ${value}`} className={`${SWATCH} ${className}`}>
        <Swatch colour={draft ?? value} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          sideOffset={4}
          collisionPadding={8}
          className="z-50 border border-ink bg-paper p-3 shadow-[0_8px_24px_rgb(23_27_28/0.2)]"
        >
          <Suspense fallback={<p className="h-40 w-48" />}>
            <ColourPlane value={draft ?? value} alpha={alpha} onChange={setDraft} onDone={onChange} />
          </Suspense>
          <p className="mt-2 font-mono text-[11.5px]">{draft ?? value}</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
