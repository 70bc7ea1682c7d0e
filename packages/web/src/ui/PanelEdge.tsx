import { type KeyboardEvent, type PointerEvent, useState } from 'react';
import { store } from './store';

const LEAST = 200;
const MOST = 560;
const STEP = 16;

/** How wide a panel was made, in CSS px, kept in this browser; null while it is as wide as it comes. */
export function usePanelWidth(name: string): [number | null, (width: number | null) => void] {
  const key = `width of ${name}`;
  const [width, setWidth] = useState<number | null>(() => {
    const kept = Number(store()?.getItem(key));
    return kept >= LEAST && kept <= MOST ? kept : null;
  });
  return [
    width,
    (next) => {
      const kept = next === null ? null : Math.round(Math.min(MOST, Math.max(LEAST, next)));
      setWidth(kept);
      if (kept === null) store()?.removeItem(key);
      else store()?.setItem(key, String(kept));
    },
  ];
}

/** The edge of a panel, dragged or moved by arrows to make it wider; a double click gives it its first width again. */
export function PanelEdge({
  label,
  side,
  onWidth,
}: {
  label: string;
  /** On which side of the panel it is. */
  side: 'left' | 'right';
  onWidth(width: number | null): void;
}) {
  const panelOf = (element: Element) => element.parentElement?.getBoundingClientRect() ?? new DOMRect();
  const [now, setNow] = useState<number | undefined>();
  const set = (width: number) => {
    setNow(Math.round(Math.min(MOST, Math.max(LEAST, width))));
    onWidth(width);
  };
  const move = (event: PointerEvent) => {
    if (event.buttons === 0 || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const panel = panelOf(event.currentTarget);
    set(side === 'right' ? event.clientX - panel.left : panel.right - event.clientX);
  };
  const onKeys = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
    const wider = (event.key === 'ArrowRight') === (side === 'right');
    set(panelOf(event.currentTarget).width + (wider ? STEP : -STEP));
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={label}
      aria-valuemin={LEAST}
      aria-valuemax={MOST}
      aria-valuenow={now ?? LEAST}
      tabIndex={0}
      className={`absolute inset-y-0 z-10 w-[7px] cursor-col-resize touch-none hover:bg-spruce/25 focus-visible:bg-spruce/25 ${side === 'right' ? '-right-[3px]' : '-left-[3px]'}`}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={move}
      onDoubleClick={() => {
        setNow(undefined);
        onWidth(null);
      }}
      onKeyDown={onKeys}
    />
  );
}
