import { FORMATS } from '@tolvik/core';
import type { DeliveryDetail } from '../../api/types';
import { type Difference, differenceWords } from '../../pictures/difference';
import { isMadeForDark } from '../../pictures/made-for-dark';
import { PictureAt, PixelsAt } from '../../pictures/PictureAt';
import { WipeHandle } from '../../pictures/WipeHandle';
import { useOpenSession } from '../../project/session/context';

type File = DeliveryDetail['files'][number];
type One = NonNullable<File['now']>;
export type Mode = 'beside' | 'wipe' | 'difference';
/** Px of the screen for one of a file, at the most, and what is left free around it. */
const LARGEST = 24;
const AROUND = 40;

const sizeOf = ({ widthPx, heightPx }: One): string => `${+widthPx.toFixed(2)} × ${+heightPx.toFixed(2)}`;

type Props = {
  path: string;
  /** Of a file of several pages, the one that is seen. */
  pages: { at: number } | null;
  /** As it is, where it is made. */
  now: One | undefined;
  made: File['now'];
  before: File['before'];
  shown: Mode;
  difference: Difference | null;
  /** Whether both are of one size. */
  alike: boolean;
  urls: { now?: string; before?: string };
  /** In CSS px. */
  room: { width: number; height: number };
  /** Where the line of the wipe is, from 0 to 1. */
  split: number;
  onSplit(split: number): void;
};

/** A file and what was there before it: beside each other, under a line that is moved, or where they differ. */
export function LargePanes({
  path,
  pages,
  now,
  made,
  before,
  shown,
  difference,
  alike,
  urls,
  room,
  split,
  onSplit,
}: Props) {
  const { doc } = useOpenSession();
  const both = now && before;
  /** As large as its pane has room for; px of the file are whole px of the screen where they can be. */
  const boxIn = (width: number, file: One) => {
    const fit = Math.min((width - AROUND) / file.widthPx, (room.height - AROUND) / file.heightPx, LARGEST);
    const by = fit > 1 ? Math.floor(fit) : fit;
    const [w, h] = [file.widthPx * by, file.heightPx * by];
    return { left: (width - w) / 2, top: (room.height - h) / 2, width: w, height: h };
  };
  const picture = (one: One | undefined, url: string | undefined, width: number, words: string) =>
    one &&
    url &&
    width > 0 && (
      <PictureAt
        url={url}
        alt={pages ? `page ${pages.at} of ${path}, ${words}` : `${path}, ${words}`}
        box={boxIn(width, one)}
        ground={isMadeForDark(doc, one.pieceId) ? 'checker-dark' : 'checker'}
        raster={FORMATS[one.format].raster}
        pixel={boxIn(width, one).width / one.widthPx}
      />
    );
  const half = both && shown === 'beside' ? room.width / 2 : room.width;
  const head = (words: string, one: One | undefined) => (
    <span className="absolute top-2 left-3 z-10 bg-paper px-1.5 text-note">
      {words}
      {one && !pages && `: ${sizeOf(one)}`}
    </span>
  );
  return (
    <>
      {shown === 'beside' && (
        <div className="flex size-full">
          {before && (
            <div className="relative flex-1 overflow-hidden border-line border-r">
              {head(now ? 'before' : 'before; no longer made', before)}
              {picture(before, urls.before, half, 'before')}
            </div>
          )}
          {now && (
            <div className="relative flex-1 overflow-hidden">
              {head(before ? 'now' : 'new', now)}
              {picture(now, urls.now, half, 'now')}
            </div>
          )}
          {made && !now && <p className="m-auto text-bad">{made.error ?? 'It is not made yet.'}</p>}
        </div>
      )}
      {shown === 'wipe' && (
        <>
          {head('before to the left of the line, now to its right', undefined)}
          {picture(before, urls.before, half, 'before')}
          <div className="absolute inset-0 bg-table" style={{ clipPath: `inset(0 0 0 ${split * 100}%)` }}>
            {picture(now, urls.now, half, 'now')}
          </div>
          <WipeHandle split={split} width={room.width} onChange={onSplit} />
        </>
      )}
      {shown === 'difference' &&
        (difference && now ? (
          <PixelsAt
            image={difference.image}
            box={boxIn(half, now)}
            label={`Where they differ: ${differenceWords(difference)}`}
          />
        ) : (
          <p className="absolute inset-x-0 top-1/2 text-center">
            {alike ? 'Looking at both…' : 'They are of different sizes, so no pixel can be told from another.'}
          </p>
        ))}
    </>
  );
}
