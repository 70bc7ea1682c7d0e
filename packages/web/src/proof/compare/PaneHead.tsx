import { weight } from '../../ui/words';
import type { Picture } from './use-pictures';

/** What a pane shows and how heavy it is, over its picture. */
export function PaneHead({
  title,
  picture,
  note,
  tried,
  right,
}: {
  title: string;
  picture: Picture | null;
  note: string;
  tried: boolean;
  right?: boolean;
}) {
  return (
    <div
      className={`pointer-events-none absolute top-0 flex h-9 items-center gap-2.5 border-line border-b bg-paper/95 px-3 ${right ? 'right-0' : 'left-0'} ${note || !right ? 'min-w-[38%]' : ''} ${tried ? 'border-t-[3px] border-t-spruce' : ''}`}
    >
      <strong className="whitespace-nowrap font-semibold">{title}</strong>
      <span className="font-mono text-[11.5px]">{picture?.bytes != null ? weight(picture.bytes) : ''}</span>
      <span className="ml-auto whitespace-nowrap text-ink-2">{note}</span>
    </div>
  );
}
