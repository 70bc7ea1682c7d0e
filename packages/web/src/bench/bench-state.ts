import type { Reference, ShapeKind, ShapeLook, TextLook } from '@tolvik/core';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export const TOOLS = ['select', 'artboard', 'slice', 'shape', 'text'] as const;
export type Tool = (typeof TOOLS)[number];
export type Backdrop = 'checker' | 'white' | 'grey' | 'dark' | 'own';
export const BACKDROPS: readonly Backdrop[] = ['checker', 'white', 'grey', 'dark', 'own'];
export type BenchSheet =
  | 'rows'
  | 'rename'
  | 'tiles'
  | 'variants'
  | 'lockups'
  | 'editions'
  | 'colours'
  | 'groups'
  | 'piece-rules';

type BenchState = {
  tool: Tool;
  backdrop: Backdrop;
  ownBackdrop: string;
  /** Outlines only. */
  wireframe: boolean;
  rulers: boolean;
  pixelGrid: boolean;
  /** Pixels of the selected piece shown for a px of the plane: 1 to 4, 0 shows it smooth. */
  pixels: number;
  /** Whether moving an artboard takes along what lies on it. */
  carry: boolean;
  panel: 'pieces' | 'layers';
  /** While an edition is shown: whether showing, moving and tinting change the base or only that edition. */
  changes: 'base' | 'edition';
  /** The piece whose name is being typed on the plane. */
  renaming: string | null;
  /** The text layer whose words are about to be typed. */
  typing: string | null;
  sheet: BenchSheet | null;
  /** The point that numbers of layers are told from, and that sizes and turns leave where it is. */
  reference: Reference;
  /** Whether strokes grow and shrink along when layers are resized by numbers. */
  scaleStrokes: boolean;
  shape: ShapeKind;
  shapeLook: ShapeLook;
  textLook: TextLook;
  set(fields: Partial<Omit<BenchState, 'set'>>): void;
};

/** How one looks at the Bench and what its tools make next; nothing of it is ever exported. */
export const useBench = create<BenchState>()(
  persist(
    (set) => ({
      tool: 'select',
      backdrop: 'checker',
      ownBackdrop: '#0c6a53',
      wireframe: false,
      rulers: true,
      pixelGrid: true,
      pixels: 0,
      carry: true,
      panel: 'pieces',
      changes: 'edition',
      renaming: null,
      typing: null,
      sheet: null,
      reference: 'nw',
      scaleStrokes: true,
      shape: 'rectangle',
      shapeLook: { fill: '#171b1c', stroke: 'none', strokeWidth: 2, radiusPx: 0, corners: 6 },
      textLook: { family: 'Schibsted Grotesk', weight: 400, sizePx: 24, fill: '#171b1c' },
      set: (fields) => set(fields),
    }),
    {
      name: 'tolvik bench',
      partialize: ({ backdrop, ownBackdrop, rulers, pixelGrid, carry, shape, shapeLook, textLook }) => ({
        backdrop,
        ownBackdrop,
        rulers,
        pixelGrid,
        carry,
        shape,
        shapeLook,
        textLook,
      }),
    },
  ),
);
