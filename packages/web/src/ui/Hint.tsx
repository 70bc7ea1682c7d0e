import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';

/** Words that appear beside what they explain, on hover and on focus. */
export function Hint({ text, children }: { text: ReactNode; children: ReactNode }) {
  return (
    <Tooltip.Root delayDuration={400}>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={5} className="z-50 max-w-64 rounded-md bg-ink px-2 py-1 text-note text-white">
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
