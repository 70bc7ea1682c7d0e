import { createContext, useContext, useEffect, useRef, useState } from 'react';
import type { Painted, Painter } from './painter';

export const PainterContext = createContext<Painter | null>(null);

export function usePainter(): Painter {
  const painter = useContext(PainterContext);
  if (!painter) throw new Error('no painter here');
  return painter;
}

/** Draws again when the picture of a slot was painted, or when pictures are no longer true and have to be asked for again. */
export function usePainted(painter: Painter, slot: string): number {
  const [tick, setTick] = useState(0);
  const shown = useRef<Painted | undefined>(undefined);
  shown.current = painter.get(slot);
  useEffect(() => {
    let frame = 0;
    const again = () => {
      frame ||= requestAnimationFrame(() => {
        frame = 0;
        setTick((n) => n + 1);
      });
    };
    const ifAnother = () => {
      if (painter.get(slot) !== shown.current) again();
    };
    ifAnother();
    const stops = [painter.onPainted(ifAnother), painter.onExpired(again)];
    return () => {
      for (const stop of stops) stop();
      cancelAnimationFrame(frame);
    };
  }, [painter, slot]);
  return tick;
}
