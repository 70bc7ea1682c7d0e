import type { Delivery } from '../api/types';
import { count } from '../ui/words';
import type { Only } from './DeliveryCounts';

type Props = {
  id: string;
  find: string;
  only: Only;
  /** The delivery that this one is held against; none for what was delivered before. */
  against: string;
  others: readonly Delivery[];
  /** Whether those shown can be had as one zip. */
  zippable: boolean;
  /** How many files are shown. */
  shown: number;
  onFind(find: string): void;
  onAgainst(id: string): void;
};

/** Which files of a delivery are shown, and what it is held against. */
export function DeliveryFilter({ id, find, only, against, others, zippable, shown, onFind, onAgainst }: Props) {
  return (
    <div className="flex items-center gap-3 border-line border-b px-5 py-2">
      <input
        className="field w-64"
        aria-label="Find a file of this delivery"
        placeholder="Find a path"
        value={find}
        onChange={(event) => onFind(event.target.value)}
      />
      {(find || only) && <span className="text-ink-2">{count(shown, 'file')}</span>}
      {against === '' && zippable && (
        <a
          href={`/api/deliveries/${id}/archive.zip?${new URLSearchParams({ find: find.trim(), only: only ?? 'all' })}`}
          download
          className="font-semibold text-spruce underline"
        >
          Zip of {shown === 1 ? 'it' : 'them'}
        </a>
      )}
      {others.length > 1 && (
        <label className="ml-auto flex items-center gap-2 text-ink-2">
          compared with
          <select
            className="field max-w-[220px]"
            aria-label="Compared with"
            value={against}
            onChange={(event) => onAgainst(event.target.value)}
          >
            <option value="">what was delivered before</option>
            {others
              .filter((other) => other.id !== id && other.state === 'done')
              .map((other) => (
                <option key={other.id} value={other.id}>
                  No. {other.number}
                  {other.title && `: ${other.title}`}
                </option>
              ))}
          </select>
        </label>
      )}
    </div>
  );
}
