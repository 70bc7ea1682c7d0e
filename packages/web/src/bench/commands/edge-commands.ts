import { lacking } from '@tolvik/core';
import type { Command } from '../../commands/commands';
import type { Session } from '../../project/session/session';

/** Widths that icons are exported at, in px. */
const SIZES_PX = [16, 20, 24, 32];

const FIT: readonly { id: string; act: string; title: string; settings: Record<string, unknown> }[] = [
  { id: 'fit-edges', act: 'fit-edges', title: 'Fit edges to pixels', settings: {} },
  { id: 'fit-edges-kept', act: 'fit-edges', title: 'Fit edges to pixels, widths kept', settings: { widths: 'kept' } },
  ...SIZES_PX.map((widthPx) => ({
    id: `fit-edges-${widthPx}`,
    act: 'fit-edges',
    title: `Fit edges to pixels at ${widthPx} px wide`,
    settings: { widthPx },
  })),
  { id: 'whole-strokes', act: 'whole-strokes', title: 'Make stroke widths whole px', settings: {} },
];

/** Fitting drawings to pixels, which the server works out. */
export const edgeCommands = (
  { doc, selection }: Session,
  actOnServer: (act: { name: string }, settings: Record<string, unknown>) => void,
): Command[] =>
  FIT.map(({ id, act, title, settings }) => ({
    id,
    group: 'Pieces',
    title,
    unless: lacking({ needs: 'artboards' }, doc, selection),
    run: () => actOnServer({ name: act }, settings),
  }));
