import { idleWhen } from '../ui/controls';

/** Which page of a file one looks at, and the ones before and after it. */
export function PageTurner({
  pages: { at, of },
  onTurn,
}: {
  pages: { at: number; of: number };
  onTurn(by: number): void;
}) {
  const turner = (by: number, label: string, sign: string) => (
    <button
      type="button"
      aria-label={label}
      title={label}
      {...idleWhen(by < 0 ? at === 1 : at === of, () => onTurn(by))}
      className="rounded-sm px-1.5 text-ink-2 hover:text-ink aria-disabled:opacity-40"
    >
      {sign}
    </button>
  );
  return (
    <span className="flex shrink-0 items-center whitespace-nowrap text-ink-2">
      {turner(-1, 'The page before (PageUp)', '‹')}
      <span role="status">
        page {at} of {of}
      </span>
      {turner(1, 'The next page (PageDown)', '›')}
    </span>
  );
}
