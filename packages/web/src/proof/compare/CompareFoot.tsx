import { cellKey, FORMATS, type Piece, type PlannedFile, type PlannedPage } from '@tolvik/core';
import { useNavigate } from 'react-router';
import { fileUrl } from '../../project/files/file-urls';
import { useMade, useSession } from '../../project/session/context';
import { plain, weight } from '../../ui/words';
import { ColoursIn } from './ColoursIn';

/** The facts of the file that one looks at, and where it can be taken. */
export function CompareFoot({
  piece,
  file,
  bytes,
  zoom,
}: {
  piece: Piece;
  file: PlannedFile | PlannedPage;
  /** Null while it is not made. */
  bytes: number | null;
  /** Screen px of one px of the file. */
  zoom: number;
}) {
  const session = useSession();
  const navigate = useNavigate();
  const { files } = useMade();
  const made = files.get(cellKey(piece.id, file.outputId));
  const format = FORMATS[file.format];
  const unmade = 'page' in file ? `page ${file.page} of one PDF` : 'being measured';
  return (
    <footer className="flex h-10 flex-none items-center gap-5 border-line border-t bg-rail px-4 font-mono text-[11.5px]">
      <span className="font-semibold">{format.title}</span>
      <span>
        {file.widthPx} × {file.heightPx} px
      </span>
      <span>{format.raster ? `${plain(file.dpi)} dpi` : `${plain(file.widthPt)} × ${plain(file.heightPt)} pt`}</span>
      <span>{bytes === null ? unmade : `${weight(bytes)} (${bytes.toLocaleString('en')} bytes)`}</span>
      <span className="text-ink-2">shown at {Math.round(zoom * 100)} %</span>
      <ColoursIn piece={piece} />
      {!format.shown && <span className="truncate font-sans text-ink-2">drawn from what the page is made of</span>}
      <span className="ml-auto flex gap-4 font-sans">
        <button
          type="button"
          className="whitespace-nowrap font-semibold text-spruce"
          onClick={() => {
            session.select([piece.id]);
            navigate(`/projects/${session.id}/bench`);
          }}
        >
          To the Bench
        </button>
        {made?.key && (
          <a
            className="whitespace-nowrap font-semibold text-spruce underline"
            href={`${fileUrl(session.id, made)}&download`}
            download
          >
            Save this file
          </a>
        )}
      </span>
    </footer>
  );
}
