import { RadioGroup } from 'radix-ui';
import type { ComponentProps, MouseEvent, ReactNode } from 'react';

type ButtonProps = ComponentProps<'button'> & { kind?: 'plain' | 'go' | 'danger' | 'bare'; small?: boolean };

const KINDS = {
  plain: 'border border-line-strong bg-white hover:bg-rail',
  go: 'border border-spruce bg-spruce text-white hover:bg-[#0a5a47]',
  danger: 'border border-bad bg-white text-bad hover:bg-bad-pale',
  bare: 'border border-transparent hover:bg-rail',
};

/**
 * For a button that has nothing to do now: it says so and does nothing, and keeps the focus that it has. One that is
 * disabled when it was pressed loses it, and the keys go where nobody hears them.
 */
export const idleWhen = (idle: boolean | undefined, onClick: ButtonProps['onClick']) => ({
  'aria-disabled': idle || undefined,
  onClick: idle ? (event: MouseEvent<HTMLButtonElement>) => event.preventDefault() : onClick,
});

export function Button({ kind = 'plain', small, disabled, onClick, className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex shrink-0 items-center gap-[7px] whitespace-nowrap rounded-md font-semibold text-[12.5px] aria-disabled:opacity-50 ${small ? 'h-[26px] px-2 text-[12px]' : 'h-[30px] px-2.5'} ${KINDS[kind]} ${className}`}
      {...idleWhen(disabled, onClick)}
      {...rest}
    />
  );
}

/** The cap of a key, shown where the key acts. */
export const Key = ({ children }: { children: ReactNode }) => (
  <kbd className="inline-flex h-[17px] items-center rounded-sm border border-line-strong border-b-2 bg-white px-1 font-mono text-[10.5px] text-ink-2">
    {children}
  </kbd>
);

/** A few choices of which one holds, side by side. */
export function Choice<T extends string>({
  value,
  onChange,
  options,
  label,
}: {
  value: T;
  onChange: (value: NoInfer<T>) => void;
  options: readonly { value: NoInfer<T>; title: ReactNode; bad?: boolean; ochre?: boolean }[];
  label: string;
}) {
  return (
    <RadioGroup.Root
      aria-label={label}
      orientation="horizontal"
      value={value}
      onValueChange={(next) => onChange(next as T)}
      className="inline-flex h-[26px] overflow-hidden rounded-md border border-line-strong bg-white"
    >
      {options.map((option) => (
        <RadioGroup.Item
          key={option.value}
          value={option.value}
          className={`max-w-[190px] truncate border-line border-l px-2.5 font-semibold text-[12px] first:border-l-0 focus-visible:-outline-offset-2 ${option.value === value ? (option.ochre ? 'bg-ochre text-white' : 'bg-ink text-white') : option.bad ? 'text-bad hover:bg-rail' : 'hover:bg-rail'}`}
        >
          {option.title}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
