import { cellKey, FORMATS, type Output, type Piece, planFile } from '@tolvik/core';
import { fileUrl } from '../../project/files/file-urls';
import { useMade, useSession } from '../../project/session/context';

/** How many there is room for, and up to how many px wide. */
const MOST = 4;
const WIDEST_PX = 96;

/** Small raster files of a piece at their real sizes, and the last of them on dark. */
export function SmallPictures({ piece, outputs }: { piece: Piece; outputs: readonly Output[] }) {
  const session = useSession();
  const { files } = useMade();
  const small = outputs
    .filter((output) => FORMATS[output.settings.format].raster)
    .map((output) => ({
      ...planFile(session.doc, session.name, piece, output),
      made: files.get(cellKey(piece.id, output.id)),
    }))
    .filter(({ widthPx }) => widthPx <= WIDEST_PX)
    .slice(0, MOST);
  if (small.length === 0) return null;
  const onDark = small.at(-1)?.made;
  return (
    <div className="mt-3 flex items-end gap-2 overflow-hidden">
      {small.map(({ outputId, widthPx, heightPx, made }) => (
        <figure key={outputId} className="text-center">
          <span className="checker inline-block border border-line p-1">
            {made?.key ? (
              <img
                src={fileUrl(session.id, made)}
                width={widthPx}
                height={heightPx}
                alt={`${piece.name} at ${widthPx} px`}
              />
            ) : (
              <span className="making block" style={{ width: widthPx, height: heightPx }} title="Being made" />
            )}
          </span>
          <figcaption className="font-mono text-[10.5px] text-ink-3">{widthPx}</figcaption>
        </figure>
      ))}
      {onDark?.key && (
        <figure className="text-center">
          <span className="inline-block border border-line bg-[#12343b] p-1">
            <img src={fileUrl(session.id, onDark)} className="max-h-12 max-w-12" alt={`${piece.name} on dark`} />
          </span>
          <figcaption className="font-mono text-[10.5px] text-ink-3">dark</figcaption>
        </figure>
      )}
    </div>
  );
}
