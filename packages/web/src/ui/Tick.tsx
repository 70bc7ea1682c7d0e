import { Check } from 'lucide-react';
import { Checkbox as Box } from 'radix-ui';
import type { ReactNode } from 'react';

export function Tick({
  checked,
  onChange,
  label,
  mixed,
  className = '',
}: {
  checked: boolean;
  onChange(checked: boolean): void;
  label: string;
  mixed?: boolean;
  className?: string;
}) {
  return (
    <Box.Root
      checked={mixed ? 'indeterminate' : checked}
      onCheckedChange={(next) => onChange(next === true)}
      onClick={(event) => event.stopPropagation()}
      aria-label={label}
      className={`inline-flex size-[15px] shrink-0 items-center justify-center rounded-[3px] border-[1.5px] border-ink-3 bg-white data-[state=checked]:border-spruce data-[state=checked]:bg-spruce data-[state=indeterminate]:border-spruce ${className}`}
    >
      <Box.Indicator className="flex text-white">
        {mixed ? <span className="h-[2px] w-2 bg-spruce" /> : <Check size={11} strokeWidth={3.5} />}
      </Box.Indicator>
    </Box.Root>
  );
}

/** A tick with its words beside it, and below them a note in small. */
export function Ticked({
  checked,
  onChange,
  label,
  note,
  className = '',
}: {
  checked: boolean;
  onChange(checked: boolean): void;
  label: string;
  note?: ReactNode;
  className?: string;
}) {
  return (
    <label className={`flex items-start gap-2 ${className}`}>
      <Tick checked={checked} onChange={onChange} label={label} className="mt-0.5" />
      <span className="min-w-0">
        {label}
        {note && <span className="block text-ink-2 text-note">{note}</span>}
      </span>
    </label>
  );
}
