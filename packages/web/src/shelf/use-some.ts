import { useEffect, useState } from 'react';

/** Things shown at first, and how many more each time the end of them is near. */
const STEP = 60;
/** How far away the end may be, in CSS px. */
const NEAR = '800px';

/** Some of a long list: more of it whenever `end`, which is put behind the last that is shown, comes near. */
export function useSome<T>(all: readonly T[]): { some: readonly T[]; end: (element: HTMLElement | null) => void } {
  const [count, setCount] = useState(STEP);
  const [end, setEnd] = useState<HTMLElement | null>(null);
  const some = all.slice(0, count);
  useEffect(() => {
    if (!end) return;
    // Looked at anew each time, since an end that stays in view would not be told again.
    const watch = new IntersectionObserver(
      ([entry]) => entry.isIntersecting && setCount(Math.min(count, all.length) + STEP),
      { rootMargin: NEAR },
    );
    watch.observe(end);
    return () => watch.disconnect();
  }, [end, count, all.length]);
  return { some, end: setEnd };
}
