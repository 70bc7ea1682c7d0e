import { useEffect, useState } from 'react';

/** Things shown at first, and how many more each time the end of them is near. */
const STEP = 60;
/** How far away the end may be, in CSS px. */
const NEAR = '800px';

/**
 * Some of a long list: more of it whenever `end`, which is put behind the last that is shown, comes near; `upTo`, the
 * place of what has to be among them, from the start.
 */
export function useSome<T>(
  all: readonly T[],
  upTo = -1,
): { some: readonly T[]; end: (element: HTMLElement | null) => void } {
  const [count, setCount] = useState(STEP);
  const [end, setEnd] = useState<HTMLElement | null>(null);
  const some = all.slice(0, Math.max(count, upTo + 1));
  useEffect(() => {
    if (!end) return;
    // Looked at anew each time, since an end that stays in view would not be told again.
    const watch = new IntersectionObserver(
      ([entry]) => entry.isIntersecting && setCount(Math.min(Math.max(count, upTo + 1), all.length) + STEP),
      { rootMargin: NEAR },
    );
    watch.observe(end);
    return () => watch.disconnect();
  }, [end, count, upTo, all.length]);
  return { some, end: setEnd };
}
