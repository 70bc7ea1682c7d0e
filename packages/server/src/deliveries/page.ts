import { FORMATS, type Format, handoverPage, type PagePiece, several } from '@tolvik/core';
import type { Database } from '../db/database';
import { type DeliveryFileRow, type DeliveryRow, deliveryFiles } from '../db/deliveries';
import type { Deliveries } from './deliveries';

/** Longest side of a picture on the page, in px; and pieces that have one. */
const PICTURE_SIDE = 224;
const MOST_PICTURES = 3000;
const AT_ONCE = 4;

/** What stands for a piece: a file of it alone, of vectors first. */
const RANK: Record<Format, number> = { svg: 0, png: 1, jpeg: 2, pdf: 3 };

const sizeOf = ({ format, measured, width_px, height_px }: DeliveryFileRow): string => {
  const [width, height] = [width_px, height_px].map((side) => String(+side.toFixed(2)));
  const pages = measured?.pages ?? 1;
  return `${FORMATS[format as Format].title}, ${pages > 1 ? `${pages} pages` : `${width} × ${height}`}`;
};

/** The page beside the files of a delivery. A picture that cannot be made is not on it. */
export async function pageOf(
  db: Database,
  deliveries: Deliveries,
  delivery: DeliveryRow,
  title: string,
): Promise<string> {
  const project = await deliveries.projectOf(delivery);
  const names = new Map((await project.ask('pieces', null)).map((piece) => [piece.id, piece]));
  const rows = (await deliveryFiles(db, delivery.id)).filter(({ state }) => state === 'made');
  const byPiece = new Map<string, DeliveryFileRow[]>();
  for (const row of rows) {
    const list = byPiece.get(row.piece_id);
    if (list) list.push(row);
    else byPiece.set(row.piece_id, [row]);
  }
  const pictures = new Map<string, string>();
  await several([...byPiece].slice(0, MOST_PICTURES), AT_ONCE, async ([pieceId, files]) => {
    const [shown] = [...files].sort((a, b) => RANK[a.format as Format] - RANK[b.format as Format]);
    const picture = await deliveries.pictureOf(delivery, shown, PICTURE_SIDE).catch(() => undefined);
    if (picture) pictures.set(pieceId, picture.toString('base64'));
  });
  const pieces = [...byPiece].map(
    ([pieceId, files], i): PagePiece => ({
      name: names.get(pieceId)?.name ?? files[0].path,
      number: names.get(pieceId)?.number ?? i + 1,
      picture: pictures.get(pieceId) ?? null,
      files: files.map((file) => ({ path: file.path, bytes: file.measured?.bytes ?? 0, size: sizeOf(file) })),
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
