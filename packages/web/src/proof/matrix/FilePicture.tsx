import { FORMATS, type PlannedFile, type PlannedPage } from '@tolvik/core';
import type { ServerFile } from '../../api/types';
import { shownFrom } from '../../project/files/made';
import { useOpenSession } from '../../project/session/context';

/** The picture of a file at its real size, or fitted when it is larger than there is room. */
export function FilePicture({
  file,
  made,
  room,
  alt,
}: {
  file: PlannedFile | PlannedPage;
  made: ServerFile;
  room: { width: number; height: number };
  alt: string;
}) {
  const { id: projectId } = useOpenSession();
  const { raster } = FORMATS[file.format];
  const fit = Math.min(room.width / file.widthPx, room.height / file.heightPx);
  const scale = raster ? Math.min(1, fit) : Math.min(fit, 64 / Math.min(file.widthPx, file.heightPx, 64) || 1);
  const [w, h] = [Math.max(1, file.widthPx * scale), Math.max(1, file.heightPx * scale)];
  return (
    <img
      src={shownFrom(projectId, made, file.format)}
      alt={alt}
      width={w}
      height={h}
      style={{ width: w, height: h }}
      decoding="async"
      // Told to the style sheet alone: no cell is drawn again for it.
      onLoad={({ currentTarget }) => {
        currentTarget.dataset.here = '';
      }}
      draggable={false}
    />
  );
}
