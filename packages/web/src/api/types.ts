import type { Change, Format, Problem, ProjectRecord, Seen, Told } from '@tolvik/core';

export type ShelfProject = {
  id: string;
  name: string;
  version: number;
  artboards: number;
  slices: number;
  editions: number;
  files: number;
  last_delivery: { number: number; version: number; at: string; files: number } | null;
};

/** With `whole`, all records there are, not only those that changed. */
export type Changes = { version: number; name: string; whole: boolean; records: ProjectRecord[]; removed: string[] };
export type Report = { file: string; dropped: Told[]; problem?: Problem }[];
export type BringInAnswer = { version: number; change: Change | null; report: Report };

/** `seen`: what of it can be told from its ground, where it has one and was rendered. */
export type ServerFile = {
  pieceId: string;
  outputId: string;
  key: string;
  bytes: number | null;
  seen?: Seen /** How many pages it holds, when several. */;
  pages?: number /** Why it cannot be made, once it was tried. */;
  failed?: string;
};
/** As the server sends it: piece, output, render key, bytes, what is seen, pages when it holds several, and why it cannot be made. */
export type MadeRow = [
  pieceId: string,
  outputId: string,
  key: string,
  bytes: number | null,
  seen: Seen | null,
  pages: number,
  failed?: string,
];
/** With the format of each output, for who has not read the records yet. */
export type ServerMade = { version: number; formats: Record<string, Format>; files: MadeRow[]; pages: MadeRow[] };

export type Delivery = {
  id: string;
  projectId: string;
  number: number;
  state: 'running' | 'done' | 'stopped';
  version: number;
  total: number;
  made: number;
  failed: number;
  bytes: number;
  createdAt: string;
  finishedAt: string | null;
};

export type Measured = {
  widthPx: number;
  heightPx: number;
  bytes: number;
  alpha: boolean;
  dpi: number | null;
  colourType: string;
};
export type DeliveredFile = {
  position: number;
  path: string;
  pieceId: string;
  outputId: string;
  format: Format;
  widthPx: number;
  heightPx: number;
  key: string;
  state: 'waiting' | 'made' | 'failed';
  error: string | null;
  measured: Measured | null;
};
export type FileChange = 'same' | 'changed' | 'new' | 'gone';
export type DeliveryDetail = Delivery & {
  before?: { id: string; number: number };
  counts: Record<FileChange, number>;
  files: { path: string; change: FileChange; now?: DeliveredFile; before?: DeliveredFile }[];
};

export type ProjectEvent =
  | { type: 'edited'; version: number; editId: string }
  | { type: 'renamed'; name: string }
  | {
      type: 'delivery';
      id: string;
      number: number;
      state: Delivery['state'];
      total: number;
      made: number;
      failed: number;
      path?: string;
    };
