import { X } from 'lucide-react';
import { useEffect } from 'react';
import { dismissHint, FIRST_HINTS, useFirstHints } from './first-hints';

const SHOWN_MS = 20_000;

/** A hint at the foot of the plane, until its way is gone, it is closed, or some time has passed. */
export function FirstHintLine() {
  const shown = useFirstHints((state) => state.shown);
  useEffect(() => {
    if (!shown) return;
    const timer = setTimeout(dismissHint, SHOWN_MS);
    return () => clearTimeout(timer);
  }, [shown]);
  return (
    <p role="status" className="pointer-events-none absolute inset-x-3 bottom-3 flex justify-center empty:hidden">
      {shown && (
        <span className="flex items-center gap-2 rounded-md bg-ink px-2.5 py-1 text-white">
          {FIRST_HINTS[shown]}
          <button
            type="button"
            aria-label="Close this hint"
            className="pointer-events-auto text-white/70 hover:text-white"
            onClick={dismissHint}
          >
            <X size={13} />
          </button>
        </span>
      )}
    </p>
  );
}
