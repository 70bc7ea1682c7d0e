import { createContext, useContext, useEffect, useState } from 'react';
import type { Painter } from './painter';

export const PainterContext = createContext<Painter | null>(null);

export function usePainter(): Painter {
  const painter = useContext(PainterContext);
  if (!painter) throw new Error('no painter here');
  return painter;
}

/** Draws again when anything was painted, or is no longer true. */
export function usePainted(painter: Painter): number {
  const [tick, setTick] = useState(0);
  useEffect(() => {
    let frame = 0;
    const soon = () => {
      frame ||= requestAnimationFrame(() => {
        frame = 0;
        setTick((n) => n + 1);
      });
    };
    const stops = [painter.onPainted(soon), painter.onExpired(soon)];
    return () => {
      for (const stop of stops) stop();
      cancelAnimationFrame(frame);
    };
  }, [painter]);
  return tick;
}
