import { Slider } from 'radix-ui';
import { planOf, useSession } from '../project/session/context';
import { Button, Choice } from '../ui/controls';
import { type Filter, ORDERS, type Order, type ShownPieces } from './use-shown-pieces';

/** Which rows there are, in which order and how large, and the way to names and specs. */
export function ProofBar({
  pieces,
  side,
  onSide,
  onSheet,
}: {
  pieces: ShownPieces;
  /** Height of a row in CSS px. */
  side: number;
  onSide(side: number): void;
  onSheet(sheet: 'names' | 'specs'): void;
}) {
  const session = useSession();
  const options = useFilters(pieces);
  return (
    <div className="flex min-h-11 flex-none flex-wrap items-center gap-2.5 py-1.5 border-line border-b bg-paper px-4">
      <input
        type="search"
        className="field w-[160px]"
        placeholder="Find, or pick 3-9, 12"
        aria-label="Find pieces by name, or pick them by number"
        value={pieces.query}
        onChange={(event) => pieces.setQuery(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && session.select(pieces.shown.map(({ id }) => id))}
      />
      <Choice
        label="Which pieces"
        value={options.some(({ value }) => value === pieces.filter) ? pieces.filter : 'all'}
        onChange={pieces.setFilter}
        options={options}
      />
      <label className="ml-auto flex items-center gap-2 text-ink-2">
        By
        <select
          className="field"
          aria-label="Order of the rows"
          value={pieces.order}
          onChange={(event) => pieces.setOrder(event.target.value as Order)}
        >
          {Object.entries(ORDERS).map(([value, title]) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2.5 text-ink-2">
        Size
        <Slider.Root
          className="relative flex h-5 w-[70px] items-center"
          min={64}
          max={260}
          step={4}
          value={[side]}
          onValueChange={([value]) => onSide(value)}
        >
          <Slider.Track className="relative h-px grow bg-ink-3">
            <Slider.Range className="absolute h-full bg-ink" />
          </Slider.Track>
          <Slider.Thumb aria-label="Size of the cells" className="block size-3 rounded-full bg-ink" />
        </Slider.Root>
      </label>
      <Button small onClick={() => onSheet('names')}>
        Names and folders…
      </Button>
      <Button small onClick={() => onSheet('specs')}>
        Specs…
      </Button>
    </div>
  );
}

/** The kinds of pieces there are, each with how many. */
function useFilters({ troubled, hasFindings }: ShownPieces): { value: Filter; title: string; bad?: boolean }[] {
  const { pieces } = planOf(useSession());
  const ofKind = (kind: Filter) => pieces.filter((piece) => piece.kind === kind).length;
  const on = pieces.filter((piece) => piece.on).length;
  const options: { value: Filter; title: string; bad?: boolean }[] = [
    { value: 'all', title: `All ${pieces.length}` },
    { value: 'artboard', title: `Artboards ${ofKind('artboard')}` },
  ];
  if (ofKind('edition') > 0) options.push({ value: 'edition', title: `Editions ${ofKind('edition')}` });
  if (ofKind('slice') > 0) options.push({ value: 'slice', title: `Slices ${ofKind('slice')}` });
  if (on < pieces.length) options.push({ value: 'on', title: `On ${on}` });
  const bad = troubled.size > 0;
  if (hasFindings) options.push({ value: 'look', title: bad ? `Needs a look ${troubled.size}` : 'Worth knowing', bad });
  return options;
}
