import { useEffect, useRef, useState } from 'react';
import { onceThere } from './keep-focus';

type Props = {
  label: string;
  value: string;
  onChange(value: string): void;
  required?: boolean;
  maxLength?: number;
  className?: string;
  placeholder?: string;
  check?(text: string): string;
  autoFocus?: boolean;
  mono?: boolean;
  /** It is over: by Enter, by Escape, or left. */
  onDone?(): void;
  /** Tab goes to the name before or behind, where there are several to be typed. */
  onNext?(by: 1 | -1): void;
};

/**
 * Text that is taken over on Enter or when left; Escape takes it back. Trouble is said below, and nothing changes. With
 * `onDone` it is there for as long as something is typed, and Enter ends it; else Enter leaves the focus in it.
 */
export function TextField({
  label,
  value,
  onChange,
  required,
  maxLength = 300,
  className = '',
  placeholder,
  check,
  autoFocus,
  mono,
  onDone,
  onNext,
}: Props) {
  const [text, setText] = useState(value);
  /** Something was typed: a field that one only went through takes what comes from elsewhere, and changes nothing. */
  const editing = useRef(false);
  /** The next name is being typed already. */
  const handedOn = useRef(false);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!editing.current) setText(value);
  }, [value]);
  useEffect(() => {
    if (autoFocus) input.current?.select();
  }, [autoFocus]);
  const trouble = text !== value ? (required && !text.trim() ? 'needs a name' : (check?.(text) ?? '')) : '';
  const settle = () => {
    if (!editing.current) return;
    editing.current = false;
    if (trouble) setText(value);
    else if (text !== value) onChange(required ? text.trim() : text);
  };
  return (
    <span className={`relative block ${className}`}>
      <input
        ref={input}
        className={`field w-full ${trouble ? 'border-bad' : ''} ${mono ? 'font-mono text-[11.5px]' : ''}`}
        aria-label={label}
        aria-invalid={!!trouble}
        placeholder={placeholder}
        maxLength={maxLength}
        value={text}
        onChange={(event) => {
          editing.current = true;
          setText(event.target.value);
        }}
        onBlur={(event) =>
          onceThere(event, () => {
            settle();
            if (!handedOn.current) onDone?.();
          })
        }
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !trouble) {
            settle();
            if (onDone) event.currentTarget.blur();
            else event.currentTarget.select();
          }
          if (event.key === 'Tab' && onNext) {
            event.preventDefault();
            if (trouble) return;
            settle();
            handedOn.current = true;
            onNext(event.shiftKey ? -1 : 1);
          }
          if (event.key === 'Escape') {
            event.stopPropagation();
            editing.current = false;
            setText(value);
            requestAnimationFrame(() => input.current?.blur());
          }
        }}
      />
      {trouble && (
        <span
          role="alert"
          className="absolute top-full left-0 z-20 mt-0.5 rounded-sm bg-bad px-1.5 py-0.5 text-note text-white"
        >
          {trouble}
        </span>
      )}
    </span>
  );
}
