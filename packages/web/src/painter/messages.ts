import type { Change, Meetings, Region } from '@tolvik/core';
import type { ToMirror } from './mirror';

/** What the painter is asked for: a layer as the Bench shows it, or a piece as it will come out. */
export type Subject = { kind: 'item'; layerId: string } | { kind: 'piece'; pieceId: string };

export type ToPainter =
  | ToMirror
  /** `crop` in px of the plane is drawn at `widthPx × heightPx`. A later request with the same slot replaces this one while it waits. */
  | {
      kind: 'paint';
      id: number;
      slot: string;
      subject: Subject;
      crop: Region | null;
      widthPx: number;
      heightPx: number;
      urgent: boolean;
    }
  /** While held, only what is urgent is painted: the page needs the machine for a gesture. */
  | { kind: 'hold'; held: boolean }
  /** Texts as paths; the answer is the change that makes them so. */
  | { kind: 'outline'; id: number; layerIds: readonly string[] }
  /** Where the colours of an artboard's own artwork meet. */
  | { kind: 'meet'; id: number; artboardId: string };

export type FromPainter =
  | { kind: 'painted'; id: number; slot: string; bitmap: ImageBitmap | null }
  | { kind: 'outlined'; id: number; change: Change; missing: string[] }
  /** Null where it cannot be drawn. */
  | { kind: 'met'; id: number; meetings: Meetings | null }
  /** What draws could not be loaded. */
  | { kind: 'failed' }
  /** A picture is begun: until it is painted, that is what the worker is at. */
  | { kind: 'begun'; slot: string };
