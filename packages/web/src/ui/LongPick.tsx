import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { PickOption } from './pick-option';
import { SearchList } from './SearchList';

/** What `PickOne` is for a long list: a button that opens it, to be searched by typing. */
export function LongPick({
  label,
  shown,
  options,
  onChange,
  empty,
  className,
}: {
  label: string;
  shown: PickOption | undefined;
  options: readonly PickOption[];
  onChange(value: string): void;
  empty?: PickOption;
  className: string;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className={`field flex items-center gap-1 text-left ${className}`}
        aria-label={`${label}: ${shown?.title ?? 'none'}`}
      >
        <span className="min-w-0 flex-1 truncate">{shown?.title}</span>
        <span aria-hidden className="text-ink-3">
          ▾
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label={label}
          className="z-50 w-72 border border-ink bg-paper shadow-[0_8px_24px_rgb(23_27_28/0.2)]"
        >
          <SearchList
            label={label}
            value={shown?.value ?? ''}
            options={empty?.value === '' ? [empty, ...options] : options}
            onPick={(picked) => {
              setOpen(false);
              if (picked !== shown?.value) onChange(picked);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
