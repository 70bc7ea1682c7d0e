import type { Region } from '@tolvik/core';
import { type RefObject, useEffect, useState } from 'react';
import type { View } from '../../pictures/PictureAt';
import { zoomedView } from './panes';

/** Screen px that stay free around a fitted picture, both sides together. */
const FREE = 48;

/** Where one looks from: fitted until one zooms or moves. `widthPx` is that of the file, for its own zooms. */
export function useView(holder: RefObject<HTMLElement | null>, region: Region, widthPx: number, columns: number) {
  const [view, setView] = useState<View | null>(null);
  const [room, setRoom] = useState({ width: 800, height: 500 });
  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, [holder]);

  const paneRoom = { width: room.width / columns, height: room.height };
  const middle = { x: region.width / 2, y: region.height / 2 };
  const fitted: View = {
    ...middle,
    scale: Math.min((paneRoom.width - FREE) / region.width, (paneRoom.height - FREE) / region.height),
  };
  const at = view ?? fitted;
  return {
    paneRoom,
    at,
    isFitted: view === null,
    /** Screen px of one px of the file. */
    zoom: (at.scale * region.width) / widthPx,
    look: setView,
    fit: () => setView(null),
    zoomBy: (factor: number) => setView(zoomedView(at, factor, 0, 0)),
    zoomTo: (zoom: number) => setView({ ...middle, scale: (widthPx / region.width) * zoom }),
    moveBy: (dx: number, dy: number) => setView({ ...at, x: at.x + dx / at.scale, y: at.y + dy / at.scale }),
  };
}

export type Looking = ReturnType<typeof useView>;
