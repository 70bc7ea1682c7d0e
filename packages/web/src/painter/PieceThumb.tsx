import { useEffect, useRef } from 'react';
import { usePainted, usePainter } from './use-painter';

/** A small picture of a piece, as it will come out, on the checker. */
export function PieceThumb({
  pieceId,
  side,
  className = '',
  dashed = false,
}: {
  pieceId: string;
  side: number;
  className?: string;
  dashed?: boolean;
}) {
  const painter = usePainter();
  const canvas = useRef<HTMLCanvasElement>(null);
  const px = Math.round(side * Math.min(2, window.devicePixelRatio || 1));
  const slot = `piece ${pieceId} ${px}`;
  const tick = usePainted(painter, slot);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `tick` says that something was painted
  useEffect(() => {
    const painted = painter.get(slot);
    if (!painted || painted.stale) painter.want(slot, { kind: 'piece', pieceId }, null, px, px);
    const context = canvas.current?.getContext('2d');
    if (!context || !painted) return;
    context.clearRect(0, 0, px, px);
    const { bitmap } = painted;
    context.drawImage(bitmap, Math.round((px - bitmap.width) / 2), Math.round((px - bitmap.height) / 2));
  }, [painter, slot, pieceId, px, tick]);
  return (
    <span
      className={`checker inline-flex shrink-0 items-center justify-center border ${dashed ? 'border-dashed border-cut' : 'border-line'} ${className}`}
      style={{ width: side + 4, height: side + 4 }}
      aria-hidden
    >
      <canvas
        ref={canvas}
        width={px}
        height={px}
        style={{ width: side, height: side }}
        className={painter.get(slot) ? '' : 'making'}
      />
    </span>
  );
}
