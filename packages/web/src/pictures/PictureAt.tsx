import { useEffect, useRef } from 'react';

/** Where one looks: the middle in px of a piece, and screen px for each of them. */
export type View = { x: number; y: number; scale: number };
export type Ground = 'checker' | 'checker-dark' | 'white' | 'dark';
const GROUNDS: Record<Ground, string> = {
  checker: 'checker',
  'checker-dark': 'checker-dark',
  white: 'bg-white',
  dark: 'bg-[#2a2f30]',
};

type Box = { left: number; top: number; width: number; height: number };

/** Where a piece of a size lies in a pane, from where one looks. */
export function boxOf(
  view: View,
  piece: { width: number; height: number },
  room: { width: number; height: number },
): Box {
  return {
    left: room.width / 2 - view.x * view.scale,
    top: room.height / 2 - view.y * view.scale,
    width: piece.width * view.scale,
    height: piece.height * view.scale,
  };
}

/** One file as a picture in its place; pixels are squares once they can be told apart, with their grid from 8 on. */
export function PictureAt({
  url,
  alt,
  box,
  ground,
  raster,
  pixel,
}: {
  url: string;
  alt: string;
  box: Box;
  ground: Ground;
  raster: boolean /** Screen px of one px of the file. */;
  pixel: number;
}) {
  return (
    <div className={`absolute ${GROUNDS[ground]}`} style={box}>
      <img
        src={url}
        alt={alt}
        draggable={false}
        className="block size-full max-w-none"
        style={{ imageRendering: raster && pixel > 1 ? 'pixelated' : 'auto' }}
      />
      {raster && pixel >= 8 && (
        <span
          className="pointer-events-none absolute inset-0"
          style={{
            backgroundImage:
              'linear-gradient(to right, rgb(110 120 122 / 0.3) 1px, transparent 1px), linear-gradient(to bottom, rgb(110 120 122 / 0.3) 1px, transparent 1px)',
            backgroundSize: `${pixel}px ${pixel}px`,
          }}
        />
      )}
    </div>
  );
}

/** An image in memory in its place. */
export function PixelsAt({ image, box, label }: { image: ImageData; box: Box; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    canvas.current?.getContext('2d')?.putImageData(image, 0, 0);
  }, [image]);
  return (
    <div className="absolute bg-white" style={box}>
      <canvas
        ref={canvas}
        width={image.width}
        height={image.height}
        role="img"
        aria-label={label}
        className="block size-full"
        style={{ imageRendering: 'pixelated' }}
      />
    </div>
  );
}
