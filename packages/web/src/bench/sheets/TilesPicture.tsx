import type { Piece, tileRegions } from '@tolvik/core';
import { PieceThumb } from '../../painter/PieceThumb';

/** Longest side of the picture, in CSS px. */
const SIDE = 380;
/** More cuts than this would only be a surface. */
const MOST_DRAWN = 3000;

/** A piece with the cuts that make its tiles drawn over it. */
export function TilesPicture({ piece, tiles }: { piece: Piece; tiles: ReturnType<typeof tileRegions> }) {
  const { region } = piece;
  const scale = SIDE / Math.max(region.width, region.height);
  return (
    <div className="grid place-items-center bg-table p-3">
      <div className="relative" style={{ width: region.width * scale, height: region.height * scale }}>
        <span className="absolute inset-0 flex items-center justify-center overflow-hidden">
          <PieceThumb pieceId={piece.id} side={SIDE} className="!border-0" />
        </span>
        <svg
          viewBox={`${region.x} ${region.y} ${region.width} ${region.height}`}
          className="absolute inset-0 size-full"
          role="img"
          aria-label={`${tiles.length} tiles`}
        >
          {tiles.slice(0, MOST_DRAWN).map(({ region: tile, row, column }) => (
            <rect
              key={`${row} ${column}`}
              x={tile.x}
              y={tile.y}
              width={tile.width}
              height={tile.height}
              fill="none"
              stroke="#d2452a"
              strokeDasharray="5 3"
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </svg>
      </div>
    </div>
  );
}
