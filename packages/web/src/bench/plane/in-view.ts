import type { Artboard, BenchItem, Bounds, Edition, Piece } from '@tolvik/core';
import type { Camera } from './camera';
import type { Scene } from './scene';

/** The part of the plane that is in view; the canvas's size in CSS px. */
export const seenBy = ({
  camera: { x, y, scale },
  width,
  height,
}: {
  camera: Camera;
  width: number;
  height: number;
}): Bounds => ({
  minX: x,
  minY: y,
  maxX: x + width / scale,
  maxY: y + height / scale,
});

export const itemsIn = ({ placed }: Scene, seen: Bounds): readonly BenchItem[] => placed.items.in(seen);

/** Pieces that are painted as a whole, with the artboard that each stands on: what follows, and the edition that is shown. */
export const paintedPiecesIn = (
  { placed, pieceById }: Scene,
  edition: Edition | undefined,
  seen: Bounds,
): { piece: Piece; artboard: Artboard }[] =>
  placed.artboards.in(seen).flatMap((artboard) => {
    const piece = pieceById.get(edition?.artboardId === artboard.id ? edition.id : artboard.follows ? artboard.id : '');
    return piece && !piece.problem ? [{ piece, artboard }] : [];
  });
