import { type KeyboardEvent, type PointerEvent, type ReactNode, type RefObject, useEffect, useRef } from 'react';
import type { View } from '../../pictures/PictureAt';
import { zoomedView } from './panes';

/** A place to look at pictures in: dragged, scrolled and zoomed, all panes alike. */
export function PanArea({
  view,
  onView,
  onKeys,
  holder,
  children,
  label,
}: {
  view: View;
  onView(view: View): void;
  onKeys(event: KeyboardEvent): void;
  holder: RefObject<HTMLDivElement | null>;
  children: ReactNode;
  label: string;
}) {
  const latest = useRef(view);
  latest.current = view;
  const change = useRef(onView);
  change.current = onView;
  const drag = useRef<{ x: number; y: number } | null>(null);

  // Wheels are listened to by hand, since only so the page can be kept from zooming.
  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const pane = (event.target as HTMLElement).closest('[data-pane]') ?? element;
      const box = pane.getBoundingClientRect();
      const { scale, x, y } = latest.current;
      if (event.ctrlKey || event.metaKey)
        change.current(
          zoomedView(
            latest.current,
            Math.exp(-event.deltaY / 240),
            event.clientX - box.left - box.width / 2,
            event.clientY - box.top - box.height / 2,
          ),
        );
      else change.current({ scale, x: x + event.deltaX / scale, y: y + event.deltaY / scale });
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [holder]);

  const move = (event: PointerEvent) => {
    if (!drag.current) return;
    const { scale, x, y } = latest.current;
    onView({ scale, x: x - (event.clientX - drag.current.x) / scale, y: y - (event.clientY - drag.current.y) / scale });
    drag.current = { x: event.clientX, y: event.clientY };
  };
  return (
    <div
      ref={holder}
      role="group"
      aria-label={label}
      tabIndex={0}
      className="relative flex min-h-0 flex-1 cursor-grab touch-none overflow-hidden focus-visible:-outline-offset-4 active:cursor-grabbing"
      onKeyDown={onKeys}
      onPointerDown={(event) => {
        if (event.button > 1 || (event.target as HTMLElement).closest('button, input, select, [role="slider"]')) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, y: event.clientY };
      }}
      onPointerMove={move}
      onPointerUp={() => {
        drag.current = null;
      }}
    >
      {children}
    </div>
  );
}
