import type { Region } from '@tolvik/core';

/** The region around some; none at all has no extent. */
export function around(rects: readonly Region[]): Region {
  const x = Math.min(...rects.map((rect) => rect.x));
  const y = Math.min(...rects.map((rect) => rect.y));
  if (rects.length === 0) return { x: 0, y: 0, width: 0, height: 0 };
  return {
    x,
    y,
    width: Math.max(...rects.map((rect) => rect.x + rect.width)) - x,
    height: Math.max(...rects.map((rect) => rect.y + rect.height)) - y,
  };
}

/** More than this is not told apart at this size. */
const MOST = 2000;

/** Artboards as they will stand, drawn before it is done. */
export function RectsPicture({
  rects,
  label,
}: {
  rects: readonly (Region & { id: string; name?: string })[];
  label: string;
}) {
  const { x, y, width, height } = around(rects);
  return (
    <svg
      viewBox={`${x} ${y} ${width || 1} ${height || 1}`}
      className="h-[46vh] w-full bg-table p-3"
      role="img"
      aria-label={label}
    >
      {rects.slice(0, MOST).map((rect) => (
        <rect
          key={rect.id}
          x={rect.x}
          y={rect.y}
          width={rect.width}
          height={rect.height}
          fill="#fff"
          stroke="#171b1c"
          vectorEffect="non-scaling-stroke"
          strokeWidth="1"
        />
      ))}
    </svg>
  );
}
