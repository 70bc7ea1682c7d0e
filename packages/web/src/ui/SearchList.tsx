import { Command } from 'cmdk';
import { useState } from 'react';
import type { PickOption } from './pick-option';

/** As many are in the list at once; the rest is found by typing. */
const MOST_LISTED = 200;

/** A list that is searched by typing, gone through by arrows and picked from by Enter. */
export function SearchList({
  label,
  value,
  options,
  onPick,
}: {
  label: string;
  value: string;
  options: readonly PickOption[];
  onPick(value: string): void;
}) {
  const [query, setQuery] = useState('');
  const wanted = query.trim().toLowerCase();
  const found = options.filter(({ title }) => title.toLowerCase().includes(wanted));
  const rest = found.length - MOST_LISTED;
  return (
    <Command label={label} shouldFilter={false} defaultValue={value}>
      <Command.Input
        autoFocus
        placeholder={`Find among ${options.length}`}
        value={query}
        onValueChange={setQuery}
        className="h-8 w-full border-line border-b bg-white px-2.5 focus-visible:-outline-offset-2"
      />
      <Command.List label={label} className="max-h-64 overflow-y-auto py-1">
        {found.slice(0, MOST_LISTED).map((option) => (
          <Command.Item
            key={option.value}
            value={option.value}
            onSelect={() => onPick(option.value)}
            className={`cursor-default truncate px-2.5 py-1 data-[selected=true]:bg-ink data-[selected=true]:text-white ${option.value === value ? 'font-semibold' : ''}`}
          >
            {option.title}
          </Command.Item>
        ))}
        {found.length === 0 && <p className="px-2.5 py-1 text-ink-2">None has that name.</p>}
        {rest > 0 && <p className="px-2.5 py-1 text-ink-3">and {rest} more: type to find them</p>}
      </Command.List>
    </Command>
  );
}
