import type { Seen } from '@tolvik/core';

/** What the server answers, as the schemas of core say it. */
export type {
  BringInAnswer,
  Changes,
  DeliveredFile,
  DeliveredMeasure,
  Delivery,
  DeliveryDetail,
  EditAnswer,
  FileChange,
  MadeRow,
  ProjectEvent,
  Report,
  ServerMade,
  ShelfProject,
} from '@tolvik/core';

/** What the server made of a planned file, as the window keeps it. */
export type ServerFile = {
  pieceId: string;
  outputId: string;
  key: string;
  /** Null while it has not been made. */
  bytes: number | null;
  /** What of it can be told from its ground, where it has one and was rendered. */
  seen?: Seen;
  /** How many pages it holds, when several. */
  pages?: number;
  /** Why it cannot be made, once it was tried. */
  failed?: string;
};
