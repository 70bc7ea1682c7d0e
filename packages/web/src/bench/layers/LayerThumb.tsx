import { type Layer, layerBounds } from '@tolvik/core';
import { useEffect, useRef } from 'react';
import { usePainted, usePainter } from '../../painter/use-painter';
import { useSession } from '../../project/session/context';

/** A layer by itself, small: painted as the Bench paints it. */
export function LayerThumb({ layer, side = 20 }: { layer: Layer; side?: number }) {
  const { doc } = useSession();
  const painter = usePainter();
  const canvas = useRef<HTMLCanvasElement>(null);
  const slot = `layer ${layer.id} tree`;
  const tick = usePainted(painter, slot);
  // biome-ignore lint/correctness/useExhaustiveDependencies: drawn again when anything was painted or changed
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    const box = layerBounds(doc, layer.id);
    if (!element || !context) return;
    const dpr = window.devicePixelRatio || 1;
    element.width = element.height = Math.round(side * dpr);
    if (!box || box.maxX <= box.minX || box.maxY <= box.minY) return;
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    const scale = (side * dpr) / Math.max(w, h);
    const [widthPx, heightPx] = [Math.max(1, Math.round(w * scale)), Math.max(1, Math.round(h * scale))];
    const painted = painter.get(slot);
    if (!painted || painted.stale || painted.widthPx !== widthPx || painted.heightPx !== heightPx)
      painter.want(
        slot,
        { kind: 'item', layerId: layer.id },
        { x: box.minX, y: box.minY, width: w, height: h },
        widthPx,
        heightPx,
      );
    if (painted)
      context.drawImage(
        painted.bitmap,
        Math.round((element.width - widthPx) / 2),
        Math.round((element.height - heightPx) / 2),
        widthPx,
        heightPx,
      );
  }, [tick, slot, layer, doc, doc.layerRevision, side]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="checker shrink-0 border border-line"
      style={{ width: side, height: side }}
    />
  );
}
