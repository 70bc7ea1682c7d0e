import { type Region, regionAround } from '@tolvik/core';

const NOTHING: Region = { x: 0, y: 0, width: 1, height: 1 };
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
  const { x, y, width, height } = regionAround(rects) ?? NOTHING;
  return (
    <svg
      viewBox={`${x} ${y} ${width} ${height}`}
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
