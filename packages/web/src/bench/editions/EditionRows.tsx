import type { Edition } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { count } from '../../ui/words';

const ROWS_SHOWN = 60;

export type EditionRow = Pick<Edition, 'name' | 'overrides'> & {
  /** What becomes of it, where rows differ in that. */
  becomes?: string;
};

/** Editions as they will be, with what each changes. */
export function EditionRows({ rows }: { rows: readonly EditionRow[] }) {
  const { doc } = useSession();
  const told = ({ overrides }: EditionRow) =>
    Object.entries(overrides).flatMap(([id, { shown, words, tint }]) => {
      const name = doc.find('layer', id)?.name || 'a layer';
      return [
        ...(shown ? [name] : []),
        ...(words !== undefined ? [`“${words.split('\n')[0]}”`] : []),
        ...(tint ? [`${name} ${tint}`] : []),
      ];
    });
  return (
    <ol className="max-h-[300px] overflow-auto border border-line bg-white">
      {rows.slice(0, ROWS_SHOWN).map((row, i) => (
        <li key={row.name} className="flex items-baseline gap-2 border-line border-b px-2 py-1">
          <span className="w-7 shrink-0 text-right font-mono text-[11px] text-ink-3">{i + 1}</span>
          <span className="shrink-0 font-semibold">{row.name}</span>
          {row.becomes && <span className="shrink-0 font-mono text-[11px] text-ink-3">{row.becomes}</span>}
          <span className="min-w-0 truncate text-ink-2 text-note">{told(row).join(', ')}</span>
        </li>
      ))}
      {rows.length > ROWS_SHOWN && (
        <li className="px-2 py-1 text-ink-2">and {count(rows.length - ROWS_SHOWN, 'more edition')}</li>
      )}
    </ol>
  );
}
