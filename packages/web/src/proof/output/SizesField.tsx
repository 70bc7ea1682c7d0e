import { atSizes, type Output, readSizes, type SizeRule } from '@tolvik/core';
import { useEffect, useId, useRef, useState } from 'react';
import { onceThere } from '../../ui/keep-focus';
import { count, few, plain } from '../../ui/words';

const LABELS: Record<SizeRule['kind'], string> = {
  factor: 'Factor',
  width: 'Width in px',
  height: 'Height in px',
  box: 'Width and height in px',
  dpi: 'Dots per inch',
  widthMm: 'Width in mm',
  heightMm: 'Height in mm',
};

/** A size as it is typed. */
function typed(size: SizeRule): string {
  switch (size.kind) {
    case 'factor':
      return plain(size.factor);
    case 'width':
      return plain(size.widthPx);
    case 'height':
      return plain(size.heightPx);
    case 'box':
      return `${size.widthPx}x${size.heightPx}`;
    case 'dpi':
      return plain(size.dpi);
    case 'widthMm':
    case 'heightMm':
      return plain(size.mm);
  }
}

/** The size of an output, or several with commas between: then it becomes so many, with names that are seen before. */
export function SizesField({ output, onSizes }: { output: Output; onSizes(sizes: readonly SizeRule[]): void }) {
  const { size } = output;
  const [text, setText] = useState(typed(size));
  const [trouble, setTrouble] = useState('');
  const editing = useRef(false);
  const hint = useId();
  const now = typed(size);
  useEffect(() => {
    if (!editing.current) setText(now);
  }, [now]);
  const read = readSizes(text, size.kind);
  const several = typeof read !== 'string' && read.length > 1 ? atSizes(output, read) : [];
  const settle = () => {
    setTrouble(typeof read === 'string' ? read : '');
    if (typeof read === 'string') return;
    if (read.length > 1 || typed(read[0]) !== now || read[0].kind !== size.kind) {
      setText(typed(read[0]));
      onSizes(read);
    }
  };
  return (
    <span className="relative min-w-0 flex-1">
      <input
        className={`field w-full ${trouble ? 'border-bad' : ''}`}
        aria-label={LABELS[size.kind]}
        aria-invalid={!!trouble}
        aria-describedby={hint}
        placeholder="16, 32, 64"
        value={text}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          editing.current = true;
          setText(event.target.value);
          setTrouble('');
        }}
        onBlur={(event) =>
          onceThere(event, () => {
            if (editing.current) settle();
            editing.current = false;
            if (typeof read === 'string') setText(now);
            setTrouble('');
          })
        }
        onKeyDown={(event) => {
          if (event.key === 'Enter') settle();
          if (event.key === 'Escape' && text !== now) {
            // What was typed goes first, what it is typed in stays.
            event.stopPropagation();
            setText(now);
            setTrouble('');
          }
        }}
      />
      <span id={hint} className="block">
        {several.length > 0 && (
          <span className="mt-1 block text-ink-2 text-note leading-[1.3]">
            Enter makes {count(several.length, 'output')} of it:{' '}
            <span className="font-mono text-[10.5px]">{few(several.map(({ suffix }) => suffix || 'no suffix'))}</span>
          </span>
        )}
      </span>
      {trouble && (
        <span
          role="alert"
          className="absolute top-[29px] right-0 z-20 rounded-sm bg-bad px-1.5 py-0.5 text-note text-white"
        >
          {trouble}
        </span>
      )}
    </span>
  );
}
