import type { Bounds, ProjectDocument } from '@tolvik/core';
import type { Backdrop } from '../bench-state';
import type { Camera } from './camera';
import type { Preview } from './preview';
import type { Scene } from './scene';
import type { StandIns } from './stand-ins';

/** Everything that one frame of the plane depends on. */
export type PlaneView = {
  doc: ProjectDocument;
  camera: Camera;
  width: number;
  height: number;
  dpr: number;
  scene: Scene;
  selection: ReadonlySet<string>;
  backdrop: Backdrop;
  ownBackdrop: string;
  wireframe: boolean;
  rulers: boolean;
  pixelGrid: boolean;
  /** What lies on an artboard does not go along with it. */
  artworkStays: boolean;
  /** The selected piece shown as pixels, so many to a px of the plane; 0 shows it smooth. */
  pixels: number;
  /** Marks edges between those pixels; null until its code is here. */
  drawOffEdges: ((context: CanvasRenderingContext2D, view: PlaneView) => void) | null;
  preview: Preview;
  /** Drawn in place of pictures that an edit made untrue; null while a gesture shows what is not done yet. */
  standIns: StandIns | null;
  /** Where the pointer is, for words beside it. */
  pointer: { x: number; y: number };
  atRest: boolean;
  /** How many files each piece becomes, and what is wrong with it. */
  fileCounts: ReadonlyMap<string, number>;
  trouble: ReadonlyMap<string, string>;
  renaming: string | null;
  /** Boxes of the selected layers on the plane. */
  layerBoxes: readonly { id: string; box: Bounds | null }[];
  /** The frame that resizes and turns them; null when there is none. */
  layerFrame: Bounds | null;
  /** The artwork of the edition's artboard as it is shown; null without an edition. */
  artwork: ProjectDocument | null;
  /** The edition that is shown in place of its artboard's base. */
  edition: { id: string; name: string; artboardId: string } | null;
};
