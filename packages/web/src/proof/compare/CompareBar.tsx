import { outputTitle, type Piece, type PlannedFile } from '@tolvik/core';
import { PageTurner } from '../../pictures/PageTurner';
import type { Ground } from '../../pictures/PictureAt';
import { Button, Choice } from '../../ui/controls';
import type { Compared } from './use-comparison';
import type { Looking } from './use-view';

export type Mode = 'beside' | 'wipe' | 'difference';
const ZOOMS = [
  { value: 'fit', title: 'Fit' },
  { value: '1', title: '1:1' },
  { value: '2', title: '2×' },
  { value: '8', title: '8×' },
] as const;

type Props = {
  piece: Piece;
  file: Pick<PlannedFile, 'path'>;
  comparison: Compared;
  looking: Looking;
  mode: Mode;
  onMode(mode: Mode): void;
  ground: Ground;
  onGround(ground: Ground): void;
  onClose(): void;
};

/** Which file it is, what stands beside it, and how one looks at them. */
export function CompareBar({ piece, file, comparison, looking, mode, onMode, ground, onGround, onClose }: Props) {
  const { canTry, others, panes } = comparison;
  const zoom = ZOOMS.find(({ value }) => value !== 'fit' && Math.abs(looking.zoom - Number(value)) < 0.001);
  return (
    <div className="flex h-11 flex-none items-center gap-3 border-line border-b bg-paper px-4">
      <button type="button" className="shrink-0 rounded-sm px-1 text-ink-2 hover:text-ink" onClick={onClose}>
        ‹ All pieces
      </button>
      <h2 className="font-bold text-[15px]">{piece.name}</h2>
      <span className="truncate font-mono text-[11.5px] text-ink-2">{file.path}</span>
      {comparison.pages && <PageTurner pages={comparison.pages} onTurn={comparison.turn} />}
      <span className="ml-auto" />
      {canTry && (
        <Button small onClick={comparison.addTrial}>
          Try other settings
        </Button>
      )}
      {others.length > 0 && (
        <select
          className="field w-[150px]"
          aria-label="Put another file beside it"
          value=""
          onChange={(event) => event.target.value && comparison.addOutput(event.target.value)}
        >
          <option value="">Beside it…</option>
          {others.map((output) => (
            <option key={output.id} value={output.id}>
              {outputTitle(output)} {output.suffix}
            </option>
          ))}
        </select>
      )}
      {panes.length > 1 && (
        <Choice
          label="How to compare"
          value={mode}
          onChange={onMode}
          options={[
            { value: 'beside', title: 'Side by side' },
            { value: 'wipe', title: 'Wipe' },
            { value: 'difference', title: 'Difference' },
          ]}
        />
      )}
      <Choice
        label="Behind the file"
        value={ground}
        onChange={onGround}
        options={[
          { value: 'checker', title: 'Checker' },
          { value: 'white', title: 'White' },
          { value: 'dark', title: 'Dark' },
        ]}
      />
      <Choice
        label="Zoom"
        value={looking.isFitted ? 'fit' : (zoom?.value ?? ('' as 'fit'))}
        onChange={(value) => (value === 'fit' ? looking.fit() : looking.zoomTo(Number(value)))}
        options={ZOOMS}
      />
    </div>
  );
}
