import { plainColour, projectColours } from '@tolvik/core';
import { Popover } from 'radix-ui';
import { Suspense, useState } from 'react';
import { part } from '../../ui/part';
import { useSession } from '../session/context';

const ColourPlane = part(async () => (await import('../../ui/ColourPlane')).ColourPlane);

const MOST_SHOWN = 24;

/** A paint: the project's own colours first, then any other, or none. `value` is as SVG has it. */
export function ColourField({
  label,
  value,
  inherited,
  fromGroup,
  onlyColours,
  onChange,
}: {
  label: string;
  value: string | undefined;
  inherited?: string;
  fromGroup?: boolean;
  /** No paint at all is no choice. */
  onlyColours?: boolean;
  onChange(value: string): void;
}) {
  const session = useSession();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const colour = plainColour(value);
  const colours = open ? projectColours(session.doc).slice(0, MOST_SHOWN) : [];
  const valid = /^#([0-9a-f]{3}|[0-9a-f]{4}|[0-9a-f]{6}|[0-9a-f]{8})$/i.test(typed);
  const pick = (next: string) => {
    onChange(next);
    setOpen(false);
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setTyped(colour ?? '');
      }}
    >
      <Popover.Trigger
        className="flex h-7 min-w-0 flex-1 items-center gap-2 rounded-md border border-line-strong bg-white px-1.5 text-left hover:bg-rail"
        aria-label={`${label}: ${value ?? inherited ?? 'none'}`}
      >
        <span
          className={`size-4 shrink-0 border border-line-strong ${colour ? '' : 'hatched'}`}
          style={colour ? { background: colour } : undefined}
        />
        <span className="truncate font-mono text-[11.5px]">{value ?? inherited ?? 'none'}</span>
        {fromGroup && <span className="ml-auto shrink-0 text-ink-3 text-note">inherited</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 w-60 border border-ink bg-paper p-3 shadow-[0_8px_24px_rgb(23_27_28/0.2)]"
          aria-label={label}
        >
          <h4 className="heading mb-1.5">Colours of this project</h4>
          <div className="grid grid-cols-6 gap-1">
            {colours.map(({ colour: each, uses }) => (
              <button
                key={each}
                type="button"
                onClick={() => pick(each)}
                aria-label={`${each}, used ${uses} times`}
                title={`${each}, used ${uses} times`}
                className={`size-7 border ${each === colour ? 'border-spruce outline-2 outline-spruce' : 'border-line-strong'}`}
                style={{ background: each }}
              />
            ))}
            {colours.length === 0 && <p className="col-span-6 text-ink-3">None yet.</p>}
          </div>
          <h4 className="heading mt-3 mb-1.5">Any other</h4>
          <Suspense fallback={<p className="h-40" />}>
            <ColourPlane value={valid ? typed : '#171b1c'} alpha onChange={setTyped} />
          </Suspense>
          <form
            className="mt-2 flex items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (valid) pick(typed.toLowerCase());
            }}
          >
            <input
              className={`field w-full font-mono text-[11.5px] ${typed && !valid ? 'border-bad' : ''}`}
              aria-label={`${label} in hex`}
              aria-invalid={!!typed && !valid}
              value={typed}
              onChange={(event) => setTyped(event.target.value.trim())}
            />
            <button
              type="submit"
              disabled={!valid}
              className="h-7 rounded-md border border-line-strong bg-white px-2 font-semibold disabled:opacity-50"
            >
              Set
            </button>
          </form>
          {typed && !valid && (
            <p role="alert" className="mt-1 text-bad text-note">
              needs a colour like #0c6a53
            </p>
          )}
          {!onlyColours && (
            <button
              type="button"
              onClick={() => pick('none')}
              className="mt-2 flex items-center gap-2 rounded-sm px-1 py-0.5 text-ink-2 hover:bg-rail"
            >
              <span className="hatched size-4 border border-line-strong" /> None
            </button>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
