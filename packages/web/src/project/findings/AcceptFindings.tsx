import type { Finding } from '@tolvik/core';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useAccept } from './settle-findings';

/** Says why findings are all right as they are. */
export function AcceptFindings({ findings }: { findings: readonly Finding[] }) {
  const { accept } = useAccept();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const list = findings.filter((finding) => finding.severity !== 'error' && !finding.accepted);
  if (list.length === 0) return null;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="rounded-sm px-1 text-ink-2 underline hover:text-ink">Accept…</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 w-64 border border-ink bg-paper p-3 shadow-[0_8px_24px_rgb(23_27_28/0.2)]"
          aria-label="Accept"
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              accept(list, reason);
              setOpen(false);
            }}
          >
            <label className="block">
              <span className="mb-1 block text-ink-2">
                {list.length === 1 ? 'Why is it all right?' : `Why are these ${list.length} all right?`}
              </span>
              <input
                className="field w-full"
                maxLength={300}
                value={reason}
                onChange={(event) => setReason(event.target.value)}
                placeholder="as it should be"
              />
            </label>
            <button
              type="submit"
              className="mt-2 h-[26px] rounded-md border border-line-strong bg-white px-2 font-semibold text-[12px] hover:bg-rail"
            >
              Accept
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
