import type { PiecePart, PieceSince } from '@tolvik/core';
import type { DeliveryDetail } from '../../api/types';
import { pictureOf } from '../picture-of';

export function SinceRow({
  piece,
  delivery,
  version,
  children,
}: {
  piece: PieceSince;
  delivery: DeliveryDetail;
  version: number;
  children: React.ReactNode;
}) {
  const file = largestOf(delivery, piece.id);
  const now = file && `/api/projects/${delivery.projectId}/files/${piece.id}/${file.outputId}/picture.png?v=${version}`;
  return (
    <li className="flex min-h-16 items-center gap-4 border-line border-b py-2 [contain-intrinsic-size:auto_64px] [content-visibility:auto]">
      <Picture url={file && pictureOf(delivery.id, file)} title="Then" />
      <Picture url={piece.state === 'gone' ? undefined : now} title="Now" />
      <span className="w-56 min-w-0 shrink-0 truncate font-semibold" title={piece.name}>
        {piece.name}
      </span>
      <span className="min-w-0 flex-1 text-ink-2">{inWords(piece)}</span>
      {children}
    </li>
  );
}

/** The largest file that a piece made then. */
const largestOf = ({ files }: DeliveryDetail, pieceId: string) =>
  files
    .flatMap(({ now }) => (now?.pieceId === pieceId && now.state === 'made' ? [now] : []))
    .sort((a, b) => b.widthPx - a.widthPx)
    .at(0);

function Picture({ url, title }: { url: string | undefined; title: string }) {
  return (
    <span className="checker flex size-12 shrink-0 items-center justify-center border border-line" title={title}>
      {url && <img src={url} alt="" loading="lazy" className="size-11 object-contain" />}
    </span>
  );
}

const PARTS: Record<Exclude<PiecePart, 'name'>, string> = {
  artwork: 'artwork',
  size: 'size',
  ground: 'ground',
  colours: 'colours',
  differences: 'differences',
  cut: 'region',
};

/** "other artwork and size, was called anchor then", "gone since". */
function inWords({ state, parts, was }: PieceSince): string {
  if (state !== 'changed') return state === 'gone' ? 'gone since' : 'new since';
  const names = parts.flatMap((each) => (each === 'name' ? [] : PARTS[each]));
  const list = names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names[0];
  return [list && `other ${list}`, was && `was called ${was} then`].filter(Boolean).join(', ');
}
