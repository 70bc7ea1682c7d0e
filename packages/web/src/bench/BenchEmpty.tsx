import { Suspense } from 'react';
import { Link } from 'react-router';
import { useSession } from '../project/session/context';
import { part } from '../ui/part';

// The ready-made specs weigh something; only an empty project needs them here.
const FirstSpec = part(async () => (await import('../outputs/FirstSpec')).FirstSpec);

const ON_THE_PLANE = ['layer', 'artboard', 'slice'] as const;

/** An empty Bench says how to begin. */
export function BenchEmpty() {
  const { doc } = useSession();
  if (ON_THE_PLANE.some((kind) => doc.list(kind).length > 0)) return null;
  return (
    <div className="pointer-events-none absolute inset-0 flex items-center justify-center">
      <div className="pointer-events-auto border border-ink-3 border-dashed bg-paper px-10 py-8 text-center">
        <h2 className="font-bold text-[17px] tracking-[-0.01em]">Drop SVG files, pictures or a zip here</h2>
        <p className="mt-1 text-ink-2">Each file becomes an artboard of its own size, named after it.</p>
        <Suspense fallback={<p className="mt-3 h-7" />}>
          <FirstSpec />
        </Suspense>
        <p className="mt-3 text-ink-2 text-note">
          Or draw an artboard with tool 2. The demo projects on the{' '}
          <Link to="/" className="font-semibold text-spruce underline">
            shelf
          </Link>{' '}
          show what can be done.
        </p>
      </div>
    </div>
  );
}
