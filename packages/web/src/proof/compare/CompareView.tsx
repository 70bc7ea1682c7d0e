import type { Piece } from '@tolvik/core';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { Ground } from '../../pictures/PictureAt';
import { planOf, useSession } from '../../project/session/context';
import { CompareBar, type Mode } from './CompareBar';
import { CompareFoot } from './CompareFoot';
import { ComparePanes } from './ComparePanes';
import { PanArea } from './PanArea';
import { TrialStrips } from './TrialStrips';
import { useComparison } from './use-comparison';
import { useView } from './use-view';

type Props = {
  pieceId: string;
  outputId: string;
  pieces: readonly Piece[];
  onOpen(pieceId: string, outputId: string): void;
  onClose(): void;
};

const NEXT_MODE: Record<Mode, Mode> = { beside: 'wipe', wipe: 'difference', difference: 'beside' };
/** Rows and columns that an arrow goes. */
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
};
const NOWHERE = { x: 0, y: 0, width: 1, height: 1 };

/** One file, large, on its background; beside it others of its piece, or itself with other settings. */
export function CompareView({ pieceId, outputId, pieces, onOpen, onClose }: Props) {
  const plan = planOf(useSession());
  const comparison = useComparison(pieceId, outputId);
  const { piece, file, panes, compared } = comparison;
  const [mode, setMode] = useState<Mode>('beside');
  const [ground, setGround] = useState<Ground>('checker');
  const holder = useRef<HTMLDivElement>(null);
  const columns = mode === 'beside' ? panes.length : 1;
  // A page of paper is looked at as a whole, whatever piece it was opened for.
  const region = (file && 'sheet' in file && file.sheet ? file.view : piece?.region) ?? NOWHERE;
  const looking = useView(holder, region, file?.widthPx ?? 1, columns);
  useEffect(() => holder.current?.focus(), []);

  /** To the next file in a direction, over cells that make none. */
  const step = (rows: number, columns: number) => {
    let row = pieces.findIndex((each) => each.id === pieceId) + rows;
    let column = plan.outputs.findIndex((each) => each.id === outputId) + columns;
    for (; pieces[row] && plan.outputs[column]; row += rows, column += columns) {
      const [{ id }, output] = [pieces[row], plan.outputs[column]];
      const isCell = (each: { pieceId: string; outputId: string }) =>
        each.pieceId === id && each.outputId === output.id;
      if (!plan.files.some(isCell) && !plan.pages.some(isCell)) continue;
      comparison.clear();
      looking.fit();
      return onOpen(id, output.id);
    }
  };
  const onKeys = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
    const arrow = ARROWS[event.key];
    if (event.key === 'Escape') onClose();
    else if (event.key === '+' || event.key === '=') looking.zoomBy(1.5);
    else if (event.key === '-') looking.zoomBy(1 / 1.5);
    else if (event.key === '0') looking.fit();
    else if (event.key === 'PageDown') comparison.turn(1);
    else if (event.key === 'PageUp') comparison.turn(-1);
    else if (event.key === 'b') comparison.addTrial();
    else if (event.key === 'm' && panes.length > 1) setMode(NEXT_MODE[mode]);
    else if (arrow && event.shiftKey) looking.moveBy(arrow[1] * 40, arrow[0] * 40);
    else if (arrow) step(...arrow);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  if (!piece || !file) return null;
  return (
    <section aria-label={`${piece.name}, ${file.path}`} className="absolute inset-0 z-30 flex flex-col bg-table">
      <CompareBar
        {...{ piece, file, comparison, looking, mode, ground, onClose }}
        onMode={setMode}
        onGround={setGround}
      />
      <PanArea
        view={looking.at}
        onView={looking.look}
        onKeys={onKeys}
        holder={holder}
        label="Files compared. Arrows go to the neighbours, plus and minus zoom, Shift and arrows move"
      >
        <ComparePanes {...{ piece, region, comparison, looking, ground, mode }} />
      </PanArea>
      <TrialStrips comparison={comparison} />
      <CompareFoot piece={piece} file={file} bytes={compared[0].picture?.bytes ?? null} zoom={looking.zoom} />
    </section>
  );
}
