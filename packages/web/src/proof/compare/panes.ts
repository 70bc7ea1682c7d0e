import type { Output, OutputSettings, PlannedFile } from '@tolvik/core';
import type { View } from '../../pictures/PictureAt';

/** One of up to three files beside each other: a file of the piece as planned, or the same with other settings. */
export type Pane = { outputId: string; settings?: OutputSettings };

export const MOST_PANES = 3;

/** What a pane is called beside others of its kind. */
export function paneTitle(
  output: Output,
  file: Pick<PlannedFile, 'widthPx' | 'heightPx'>,
  settings: OutputSettings = output.settings,
): string {
  switch (settings.format) {
    case 'jpeg':
      return `quality ${settings.quality}`;
    case 'svg':
      return `${settings.decimals} ${settings.decimals === 1 ? 'decimal' : 'decimals'}`;
    case 'png':
      return `${file.widthPx} × ${file.heightPx}, ${settings.effort === 'smaller' ? 'lightest' : 'light'}`;
    case 'pdf':
      return 'PDF';
    case 'eps':
      return 'EPS';
  }
}

/** Settings a step lighter, to begin a comparison with; null when there is nothing to vary. */
export function lighter(settings: OutputSettings): OutputSettings | null {
  switch (settings.format) {
    case 'jpeg':
      return { ...settings, quality: Math.max(1, settings.quality - 20) };
    case 'svg':
      return { ...settings, decimals: settings.decimals > 0 ? settings.decimals - 1 : 1 };
    case 'png':
      return { ...settings, effort: settings.effort === 'smaller' ? 'faster' : 'smaller' };
    case 'pdf':
    case 'eps':
      return null;
  }
}

export const sameSettings = (a: OutputSettings, b: OutputSettings): boolean => JSON.stringify(a) === JSON.stringify(b);

export const LEAST_SCALE = 0.02;
export const LARGEST_SCALE = 64;

/** Zoomed by a factor around a point, given in screen px from the middle of a pane. */
export function zoomedView(view: View, factor: number, atX: number, atY: number): View {
  const scale = Math.min(LARGEST_SCALE, Math.max(LEAST_SCALE, view.scale * factor));
  return { scale, x: view.x + atX / view.scale - atX / scale, y: view.y + atY / view.scale - atY / scale };
}

/** Panes are told apart by where they stand. */
export const PLACES = ['first', 'second', 'third'];
