import { useDraggable, useDroppable } from '@dnd-kit/core';
import { type LayerOverride, layerTitle } from '@tolvik/core';
import { ChevronRight, Eye, EyeOff, Lock } from 'lucide-react';
import type { MouseEvent } from 'react';
import { Shortened } from '../../ui/Shortened';
import { TextField } from '../../ui/TextField';
import { LayerThumb } from './LayerThumb';
import type { LayerRow } from './layer-rows';

export const ROW_HEIGHT = 28;

/** In what a layer differs in the edition shown, in two words. */
const badge = ({ shown, offset, tint }: LayerOverride): string =>
  offset
    ? 'moved here'
    : tint
      ? 'tinted here'
      : shown === undefined
        ? 'faded here'
        : shown
          ? 'shown here'
          : 'hidden here';

type Props = {
  row: LayerRow;
  top: number;
  selected: boolean;
  shown: boolean;
  renaming: boolean;
  /** Where what is dragged would go: a line above or below this row, or into it. */
  drop: 'above' | 'below' | 'into' | null;
  /** In how many files its slice comes out; undefined when it is no piece. */
  files: number | undefined;
  override: LayerOverride | undefined;
  onPick(event: MouseEvent): void;
  onMenu(event: MouseEvent): void;
  onFold(): void;
  onShow(): void;
  onRename(name: string): void;
  onRenaming(on: boolean): void;
  /** The layer before or behind is named next. */
  onRenameNext(by: 1 | -1): void;
};

/** One layer of the tree: picture, name, marks. It can be dragged to another place. */
export function LayerRowView({
  row,
  top,
  selected,
  shown,
  renaming,
  drop,
  files,
  override,
  onPick,
  onMenu,
  onFold,
  onShow,
  onRename,
  onRenaming,
  onRenameNext,
}: Props) {
  const { layer, depth, hasChildren, open } = row;
  const title = layerTitle(layer);
  const drag = useDraggable({ id: layer.id, disabled: renaming });
  const { setNodeRef } = useDroppable({ id: layer.id });
  return (
    <div
      ref={(element) => {
        drag.setNodeRef(element);
        setNodeRef(element);
      }}
      {...drag.listeners}
      role="row"
      aria-level={depth + 1}
      aria-expanded={hasChildren ? open : undefined}
      aria-selected={selected}
      onClick={onPick}
      onContextMenu={onMenu}
      onDoubleClick={() => onRenaming(true)}
      className={`absolute inset-x-0 flex cursor-default items-center gap-1.5 pr-3.5 pl-2 ${selected ? 'bg-spruce-pale' : 'hover:bg-rail'} ${drag.isDragging ? 'opacity-50' : ''} ${drop === 'into' ? 'outline-2 outline-spruce -outline-offset-2' : ''}`}
      style={{ top, height: ROW_HEIGHT }}
    >
      {(drop === 'above' || drop === 'below') && (
        <span
          className={`absolute right-0 h-[2px] bg-spruce ${drop === 'above' ? '-top-px' : '-bottom-px'}`}
          style={{ left: 22 + depth * 14 }}
        />
      )}
      <span role="gridcell" className="flex" style={{ paddingLeft: depth * 14 }}>
        <button
          type="button"
          tabIndex={-1}
          aria-label={open ? `Fold ${title}` : `Unfold ${title}`}
          className={`rounded-sm p-0.5 ${hasChildren ? '' : 'invisible'}`}
          onClick={(event) => {
            event.stopPropagation();
            onFold();
          }}
        >
          <ChevronRight size={12} className={open ? 'rotate-90' : ''} />
        </button>
      </span>
      <span role="gridcell" className="flex">
        <button
          type="button"
          tabIndex={-1}
          aria-label={`${shown ? 'Hide' : 'Show'} ${title}`}
          aria-pressed={shown}
          className="rounded-sm p-0.5 text-ink-2 hover:text-ink"
          onClick={(event) => {
            event.stopPropagation();
            onShow();
          }}
        >
          {shown ? <Eye size={14} /> : <EyeOff size={14} />}
        </button>
      </span>
      <LayerThumb layer={layer} />
      <span
        role="gridcell"
        className={`min-w-0 flex-1 truncate ${layer.tag === 'g' ? 'font-semibold' : ''} ${shown ? '' : 'text-ink-3'} ${layer.name ? '' : 'text-ink-3 italic'}`}
      >
        {renaming ? (
          <TextField
            label={`Name of ${title}`}
            autoFocus
            value={layer.name}
            onChange={onRename}
            onDone={() => onRenaming(false)}
            onNext={onRenameNext}
            className="[&_input]:h-6"
          />
        ) : (
          <Shortened text={title} />
        )}
      </span>
      {override && <span className="shrink-0 text-note text-ochre">{badge(override)}</span>}
      {layer.locked && <Lock size={12} aria-label="locked" className="shrink-0 text-ink-3" />}
      {layer.benchOnly && <span className="shrink-0 text-ink-3 text-note">in no file</span>}
      {files !== undefined && (
        <span
          className="shrink-0 border border-cut border-dashed px-1 font-mono text-[10.5px] text-cut"
          title={`A piece: ${files} files`}
        >
          {files}
        </span>
      )}
    </div>
  );
}
