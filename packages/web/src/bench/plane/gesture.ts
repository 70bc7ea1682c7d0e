import type { Painter } from '../../painter/painter';
import type { Session } from '../../project/session/session';
import type { Camera } from './camera';
import type { Preview } from './preview';
import type { Scene } from './scene';

/** Where a pointer is: x, y on the canvas in CSS px, px, py on the plane; and which keys are held. */
export type Pointer = { x: number; y: number; px: number; py: number; shift: boolean; ctrl: boolean };

/** What gestures work on. */
export type GestureHost = {
  readonly session: Session;
  readonly painter: Painter;
  readonly camera: Camera;
  readonly scene: Scene;
  /** Size of the canvas in CSS px. */
  readonly width: number;
  readonly height: number;
  preview: Preview;
  look(camera: Camera): void;
};

/** One drag from pressing to letting go. */
export type Gesture = {
  /** Nothing has moved yet, so the picture is at rest. */
  readonly still?: boolean;
  readonly cursor?: string;
  /** Answers another gesture when it turns into one. */
  move(at: Pointer): Gesture | undefined;
  finish(at: Pointer): void;
  /** Called instead of `finish` when it is given up. */
  cancel?(): void;
};

/** From how far a press becomes a drag, in CSS px. */
export const DRAG_FROM_PX = 3;
