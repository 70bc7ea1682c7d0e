import type { Change, Finding, ProjectRecord, Region, Seen } from '@tolvik/core';

/** What the painter is asked for: a layer as the Bench shows it, or a piece as it will come out. */
export type Subject = { kind: 'item'; layerId: string } | { kind: 'piece'; pieceId: string };

export type ToPainter =
  | { kind: 'open'; records: ProjectRecord[] }
  | { kind: 'apply'; puts: readonly ProjectRecord[]; removes: readonly string[] }
  /** `crop` in px of the plane is drawn at `widthPx × heightPx`. A later request with the same slot replaces this one while it waits. */
  | { kind: 'paint'; id: number; slot: string; subject: Subject; crop: Region | null; widthPx: number; heightPx: number; urgent: boolean }
  /** While held, only what is urgent is painted: the page needs the machine for a gesture. */
  | { kind: 'hold'; held: boolean }
  | { kind: 'check'; id: number; projectName: string; lastDelivery?: { number: number; paths: readonly string[] }; seen?: ReadonlyMap<string, Seen> }
  /** Texts as paths; the answer is the change that makes them so. */
  | { kind: 'outline'; id: number; layerIds: readonly string[] };

export type FromPainter =
  | { kind: 'painted'; id: number; slot: string; bitmap: ImageBitmap | null }
  | { kind: 'checked'; id: number; findings: Finding[] }
  | { kind: 'outlined'; id: number; change: Change; missing: string[] };
