import { useEffect, useRef, useState } from 'react';
import { onceThere } from './keep-focus';
import { readNumber } from './read-number';
import { plain } from './words';

type Props = {
  label: string;
  /** Null where several things have several numbers. */
  value: number | null;
  onChange(value: number): void;
  min?: number;
  max?: number;
  step?: number;
  whole?: boolean;
  className?: string;
  id?: string;
  showLabel?: string;
  /** Where there may be no number: what stands there then, and what emptying the field does. */
  none?: string;
  onNone?(): void;
};

/** A number to type or to step with the arrow keys; what cannot be is answered here, and nothing changes. */
export function NumberField({
  label,
  value,
  onChange,
  min = -1_000_000,
  max = 1_000_000,
  step = 1,
  whole,
  className = '',
  id,
  showLabel,
  none,
  onNone,
}: Props) {
  const shown = value === null ? '' : plain(value);
  const [text, setText] = useState(shown);
  const [trouble, setTrouble] = useState('');
  /** Something was typed: a field that one only went through takes what comes from elsewhere, and changes nothing. */
  const editing = useRef(false);
  useEffect(() => {
    if (!editing.current) setText(shown);
  }, [shown]);

  const settle = (typed: string) => {
    // Left as it was, several numbers stay what they are.
    if (typed.trim() === '' && (value === null || onNone)) {
      setTrouble('');
      if (value !== null) onNone?.();
      return true;
    }
    const read = readNumber(typed);
    const problem =
      read === null
        ? 'a number'
        : whole && !Number.isInteger(read)
          ? 'a whole number'
          : read < min || read > max
            ? `${plain(min)} to ${plain(max)}`
            : '';
    setTrouble(problem && `needs ${problem}`);
    if (!problem && read !== null && read !== value) onChange(read);
    return !problem;
  };
  return (
    <label className={`relative flex items-center gap-2 ${className}`}>
      {showLabel !== '' && (
        <span className="min-w-3 shrink-0 font-mono text-[11.5px] text-ink-3">{showLabel ?? label}</span>
      )}
      <input
        id={id}
        className={`field w-full ${trouble ? 'border-bad' : ''}`}
        aria-label={label}
        aria-invalid={!!trouble}
        inputMode="decimal"
        placeholder={none ?? (value === null ? 'mixed' : undefined)}
        value={text}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          editing.current = true;
          setText(event.target.value);
        }}
        onBlur={(event) =>
          onceThere(event, () => {
            if (editing.current && !settle(text)) setText(shown);
            editing.current = false;
            setTrouble('');
          })
        }
        onKeyDown={(event) => {
          if (event.key === 'Enter' && settle(text)) {
            // The result stands there, and what was reckoned is gone.
            editing.current = false;
            const read = readNumber(text);
            setText(read === null ? shown : plain(read));
          }
          if (event.key === 'Escape') {
            // It ends what is typed here, and nothing else.
            event.stopPropagation();
            editing.current = false;
            setText(shown);
            setTrouble('');
            event.currentTarget.blur();
          }
          const from = readNumber(text) ?? value;
          if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && from !== null) {
            event.preventDefault();
            const by = step * (event.shiftKey ? 10 : 1) * (event.key === 'ArrowUp' ? 1 : -1);
            const next = Math.min(max, Math.max(min, from + by));
            setText(plain(next));
            onChange(next);
          }
        }}
      />
      {trouble && (
        <span
          role="alert"
          className="absolute top-full right-0 z-20 mt-0.5 rounded-sm bg-bad px-1.5 py-0.5 text-note text-white"
        >
          {trouble}
        </span>
      )}
    </label>
  );
}
