import { createContext, useContext, useEffect, useState } from 'react';
import type { Painter } from './painter';

export const PainterContext = createContext<Painter | null>(null);

export function usePainter(): Painter {
  const painter = useContext(PainterContext);
  if (!painter) throw new Error('no painter here');
  return painter;
}

/** Draws again when anything was painted. */
export function usePainted(painter: Painter): number {
  const [tick, setTick] = useState(0);
  useEffect(() => {
    let frame = 0;
    const stop = painter.onPainted(() => {
      frame ||= requestAnimationFrame(() => {
        frame = 0;
        setTick((n) => n + 1);
      });
    });
    return () => {
      stop();
      cancelAnimationFrame(frame);
    };
  }, [painter]);
  return tick;
}
