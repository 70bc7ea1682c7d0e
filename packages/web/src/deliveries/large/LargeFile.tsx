import { FORMATS } from '@tolvik/core';
import { Dialog } from 'radix-ui';
import { type KeyboardEvent, useEffect, useState } from 'react';
import type { DeliveryDetail } from '../../api/types';
import { differenceWords } from '../../pictures/difference';
import { PageTurner } from '../../pictures/PageTurner';
import { useDifference } from '../../pictures/use-difference';
import { Button, Choice } from '../../ui/controls';
import { closedByEscape } from '../../ui/escape';
import { weight } from '../../ui/words';
import { LargePanes, type Mode } from './LargePanes';
import { usePages } from './use-pages';

type File = DeliveryDetail['files'][number];
type One = NonNullable<File['now']>;
const MODES: readonly { value: Mode; title: string }[] = [
  { value: 'beside', title: 'Beside' },
  { value: 'wipe', title: 'Wipe' },
  { value: 'difference', title: 'Difference' },
];
/** Longest side at which vectors are held against each other, in px. */
const COMPARED = 512;
const NOTHING = { widthPx: 1, heightPx: 1, format: 'png' as const };

/** "1.2 KB, before 1.5 KB (−20 %)". */
function weights(now: One | undefined, before: One | undefined): string {
  const [bytes, were] = [now?.measured?.bytes, before?.measured?.bytes];
  if (bytes === undefined) return were === undefined ? '' : `before ${weight(were)}`;
  if (were === undefined) return weight(bytes);
  const share = Math.round((100 * (bytes - were)) / were);
  const change = share === 0 ? '' : ` (${share > 0 ? '+' : '−'}${Math.abs(share)} %)`;
  return `${weight(bytes)}, before ${weight(were)}${change}`;
}

/** A delivered file large, and what was there before it: beside it, under a line that is moved, or where they differ. */
export function LargeFile({
  file,
  deliveryId,
  onStep,
  onClose,
}: {
  file: File;
  deliveryId: string;
  /** To the next file of the list, or back. */
  onStep(by: 1 | -1): void;
  onClose(): void;
}) {
  const [holder, setHolder] = useState<HTMLDivElement | null>(null);
  const [room, setRoom] = useState({ width: 0, height: 0 });
  const [mode, setMode] = useState<Mode>('beside');
  const [split, setSplit] = useState(0.5);
  useEffect(() => {
    if (!holder) return;
    const look = new ResizeObserver(() => setRoom({ width: holder.clientWidth, height: holder.clientHeight }));
    look.observe(holder);
    return () => look.disconnect();
  }, [holder]);
  const { path } = file;
  const { pages, turn, urls, made, now, before } = usePages(file, deliveryId);
  const both = now && before;
  const alike = both && now.widthPx === before.widthPx && now.heightPx === before.heightPx;
  const shown = both ? mode : 'beside';
  const { widthPx, heightPx, format } = now ?? before ?? NOTHING;
  // Files of pixels are told apart px by px, others as large as that is of use.
  const finer = FORMATS[format].raster ? 1 : Math.max(1, COMPARED / Math.max(widthPx, heightPx));
  const px = (length: number) => Math.max(1, Math.round(length * finer));
  const [one, other] = alike ? [urls.before, urls.now] : [];
  const difference = useDifference(one, other, px(widthPx), px(heightPx));
  const onKeys = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLElement && event.target.closest('[role="radiogroup"], [role="slider"]')) return;
    if (event.key === 'ArrowDown') onStep(1);
    else if (event.key === 'ArrowUp') onStep(-1);
    else if (event.key === 'PageDown') turn(1);
    else if (event.key === 'PageUp') turn(-1);
    else return;
    event.preventDefault();
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onKeyDown={(event) => {
            closedByEscape(onClose)(event);
            onKeys(event);
          }}
          className="fixed inset-x-0 top-[52px] bottom-0 z-40 flex flex-col bg-table outline-none"
        >
          <div className="flex flex-none items-center gap-4 border-line border-b bg-paper px-5 py-2.5">
            <div className="min-w-0 flex-1">
              <Dialog.Title className="truncate font-mono font-semibold text-[13px]">{path}</Dialog.Title>
              <p className="text-ink-2 text-note">
                {weights(file.now, file.before)}
                {difference && shown !== 'beside' && `; ${differenceWords(difference)}`}
              </p>
            </div>
            {pages && <PageTurner pages={pages} onTurn={turn} />}
            {both && <Choice label="How they are compared" value={mode} options={MODES} onChange={setMode} />}
            <Button small aria-label="Previous file" onClick={() => onStep(-1)}>
              ↑
            </Button>
            <Button small aria-label="Next file" onClick={() => onStep(1)}>
              ↓
            </Button>
            <Button onClick={onClose}>Close</Button>
          </div>
          <div ref={setHolder} className="relative min-h-0 flex-1 overflow-hidden">
            <LargePanes
              {...{ path, pages, now, made, before, shown, difference, alike: !!alike, urls, room, split }}
              onSplit={setSplit}
            />
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
