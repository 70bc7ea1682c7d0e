import { acts, FORMATS, type Output, outputSizeWords, type Spec } from '@tolvik/core';
import { Popover } from 'radix-ui';
import { type MouseEvent, memo, Suspense, useRef } from 'react';
import { doAct, plainIntent } from '../../project/session/act';
import { useSession } from '../../project/session/context';
import { Arriving } from '../../ui/Arriving';
import { part } from '../../ui/part';
import { Tick } from '../../ui/Tick';
import { weight } from '../../ui/words';

// What changes an output comes when one is pressed first.
const OutputEditor = part(async () => (await import('../output/OutputEditor')).OutputEditor);

type Props = {
  output: Output;
  spec: Spec | undefined;
  newSpec: boolean;
  showSpec: boolean;
  width: number;
  total: { bytes: number; known: boolean; count: number } | undefined;
  /** Whether it is being changed. */
  open: boolean;
  onEdit(outputId: string | null): void;
  onMenu(event: MouseEvent, output: Output): void;
};

/** The head of a column: what the output makes; press it to change it in place. */
export const OutputHeader = memo(function OutputHeader({
  output,
  spec,
  newSpec,
  showSpec,
  width,
  total,
  open,
  onEdit,
  onMenu,
}: Props) {
  const session = useSession();
  const next = useRef<string | null>(null);
  const { settings, background } = output;
  const format = FORMATS[settings.format];
  const size = outputSizeWords(output);
  const words = !format.raster && size === '1×' ? 'vector' : size;
  return (
    <div
      role="columnheader"
      onContextMenu={(event) => onMenu(event, output)}
      className={`relative flex flex-none items-center gap-2 border-r px-2.5 ${newSpec && showSpec ? 'border-l-2 border-l-ink-3' : ''} border-line`}
      style={{ width }}
    >
      <Tick
        checked={output.on}
        onChange={(on) => doAct(session, acts.setOutput, plainIntent([]), { outputId: output.id, on })}
        label={`Make ${format.title} ${words}`}
      />
      <Popover.Root open={open} onOpenChange={(next) => onEdit(next ? output.id : null)}>
        <Popover.Trigger
          className="min-w-0 flex-1 rounded-sm text-left hover:bg-rail"
          aria-label={`Change output ${format.title} ${words}`}
        >
          <span className="flex items-center gap-1.5">
            <span className="font-semibold">{format.title}</span>
            <span className="truncate text-ink-2">{words}</span>
            <span
              className={`ml-auto size-[13px] shrink-0 border border-ink-3 ${background === 'none' || (!background.startsWith('#') && format.transparent) ? 'checker' : ''}`}
              style={
                background.startsWith('#') ? { background } : !format.transparent ? { background: '#fff' } : undefined
              }
              title={
                background === 'piece'
                  ? format.transparent
                    ? 'background as the piece has it'
                    : 'background as the piece has it, else white'
                  : background === 'ground'
                    ? 'on the ground of each piece'
                    : background === 'none'
                      ? 'transparent'
                      : background
              }
            />
          </span>
          <span className="flex items-baseline justify-between gap-2 font-mono text-[10.5px] text-ink-3">
            <span className="truncate">
              {output.folder ? `${output.folder}/` : ''}
              {output.suffix || (output.folder ? '' : 'no suffix')}
            </span>
            <span className="shrink-0">{total?.known ? weight(total.bytes) : total ? '…' : ''}</span>
          </span>
          {newSpec && showSpec && (
            <span className="absolute -top-px left-2 bg-ink px-1 font-semibold text-[9.5px] text-white leading-[12px]">
              {spec?.name}
            </span>
          )}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            aria-label={`Output ${format.title} ${words}`}
            align="start"
            onCloseAutoFocus={(event) => {
              // The focus goes on to what is opened next, not back to what opened this.
              if (!next.current) return;
              event.preventDefault();
              onEdit(next.current);
              next.current = null;
            }}
            sideOffset={6}
            collisionPadding={8}
            className="z-30 max-h-[var(--radix-popover-content-available-height)] w-[300px] overflow-y-auto border border-ink bg-paper p-3.5 shadow-[0_8px_24px_rgb(23_27_28/0.18)]"
          >
            <Suspense fallback={<Arriving />}>
              <OutputEditor
                output={output}
                onGoOn={(outputId) => {
                  next.current = outputId;
                  onEdit(null);
                }}
              />
            </Suspense>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
});
