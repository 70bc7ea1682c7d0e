import { Suspense } from 'react';
import { part } from './part';
import type { PickOption } from './pick-option';

// A list to search in comes when there is a long one.
const LongPick = part(async () => (await import('./LongPick')).LongPick);

/** Longer lists are searched; as many as these are seen at a glance. */
const SEEN_AT_ONCE = 12;

/** One of a list: the browser's own for short lists, for long ones a list that is searched by typing. */
export function PickOne({
  label,
  value,
  options,
  onChange,
  empty,
  className = '',
}: {
  label: string;
  /** Empty, or one that is not among the options, shows `empty`. */
  value: string;
  options: readonly PickOption[];
  onChange(value: string): void;
  /** What stands there while nothing of the list is picked. */
  empty?: PickOption;
  className?: string;
}) {
  const shown = options.find((option) => option.value === value) ?? empty;
  if (options.length <= SEEN_AT_ONCE)
    return (
      <select
        className={`field ${className}`}
        aria-label={label}
        value={shown?.value ?? ''}
        onChange={(event) => event.target.value !== shown?.value && onChange(event.target.value)}
      >
        {empty && <option value={empty.value}>{empty.title}</option>}
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.title}
          </option>
        ))}
      </select>
    );
  return (
    <Suspense fallback={<span className={`field truncate ${className}`}>{shown?.title}</span>}>
      <LongPick label={label} shown={shown} options={options} onChange={onChange} empty={empty} className={className} />
    </Suspense>
  );
}
