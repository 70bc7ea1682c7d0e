import { FORMATS, type Format, groupBy, handoverPage, type PagePiece, several } from '@tolvik/core';
import type { DeliveryFileRow, DeliveryRow } from '../db/deliveries';
import type { Deliveries } from './deliveries';

/** Longest side of a picture on the page, in px; and pieces that have one. */
const PICTURE_SIDE = 224;
const MOST_PICTURES = 3000;
const AT_ONCE = 4;

/** What stands for a piece: a file of it alone, of vectors first. */
const RANK: Record<Format, number> = { svg: 0, png: 1, jpeg: 2, pdf: 3, eps: 4 };

const sizeOf = ({ format, measured, width_px, height_px }: DeliveryFileRow): string => {
  const [width, height] = [width_px, height_px].map((side) => String(+side.toFixed(2)));
  const pages = measured?.pages ?? 1;
  return `${FORMATS[format as Format].title}, ${pages > 1 ? `${pages} pages` : `${width} × ${height}`}`;
};

/** The page beside some files of a delivery, or all. A picture that cannot be made is not on it. */
export async function pageOf(
  deliveries: Deliveries,
  delivery: DeliveryRow,
  files: readonly DeliveryFileRow[],
  title: string,
): Promise<string> {
  const project = await deliveries.projectOf(delivery);
  const names = new Map((await project.ask('pieces', null)).map((piece) => [piece.id, piece]));
  const byPiece = groupBy(
    files.filter(({ state }) => state === 'made'),
    (file) => file.piece_id,
  );
  const pictures = new Map<string, string>();
  await several([...byPiece].slice(0, MOST_PICTURES), AT_ONCE, async ([pieceId, own]) => {
    const [shown] = [...own].sort((a, b) => RANK[a.format as Format] - RANK[b.format as Format]);
    const picture = await deliveries.pictureOf(delivery, shown, { side: PICTURE_SIDE }).catch(() => undefined);
    if (picture) pictures.set(pieceId, picture.toString('base64'));
  });
  const pieces = [...byPiece].map(
    ([pieceId, own], i): PagePiece => ({
      name: names.get(pieceId)?.name ?? own[0].path,
      number: names.get(pieceId)?.number ?? i + 1,
      picture: pictures.get(pieceId) ?? null,
      ground: names.get(pieceId)?.ground ?? null,
      files: own.map((file) => ({ path: file.path, bytes: file.measured?.bytes ?? 0, size: sizeOf(file) })),
    }),
  );
  return handoverPage({
    project: title,
    number: delivery.number,
    at: (delivery.finished_at ?? delivery.created_at).toISOString(),
    title: delivery.title,
    note: delivery.note,
    pieces,
  });
}
