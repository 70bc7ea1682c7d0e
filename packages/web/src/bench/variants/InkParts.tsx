import type { InkRule, UsedColour } from '@tolvik/core';
import { ColourField } from '../../project/colours/ColourField';
import { NumberField } from '../../ui/NumberField';

type Part = 'inked' | 'apart' | 'out';
const PARTS: Record<Part, string> = { inked: 'ink', apart: 'ink, set apart by a gap', out: 'knocked out' };

/** What a colour is in one ink. */
export const partOf = ({ out, apart }: Pick<InkRule, 'out' | 'apart'>, colour: string): Part =>
  out.includes(colour) ? 'out' : apart.includes(colour) ? 'apart' : 'inked';

/** The one ink, and what each colour of the source is in it. `gap` is what a gap is wide where none was yet, in px. */
export function InkParts({
  colours,
  rule,
  gap,
  onChange,
}: {
  colours: readonly UsedColour[];
  rule: InkRule;
  gap: number;
  onChange(rule: InkRule): void;
}) {
  const set = (colour: string, part: Part) => {
    const without = (list: readonly string[]) => list.filter((each) => each !== colour);
    const [out, apart] = [without(rule.out), without(rule.apart)];
    if (part === 'out') out.push(colour);
    if (part === 'apart') apart.push(colour);
    onChange({ ...rule, out, apart, gap: rule.gap || gap });
  };
  return (
    <div className="mt-1.5 flex flex-col gap-1.5">
      <div className="flex items-center gap-2 text-ink-2">
        Ink
        <ColourField
          label="The one ink"
          value={rule.colour}
          onChange={(colour) => colour !== 'none' && onChange({ ...rule, colour })}
        />
      </div>
      <ul className="flex flex-col gap-1.5" aria-label="Colours of the source and what they are in one ink">
        {colours.map(({ colour, share }) => (
          <li key={colour} className="grid grid-cols-[18px_1fr] items-center gap-x-2">
            <span
              className="size-4 border border-line-strong"
              style={{ background: colour }}
              title={`${colour}, ${Math.round(share * 100)} % of the artwork`}
            />
            <select
              className="field"
              aria-label={`What ${colour} is`}
              value={partOf(rule, colour)}
              onChange={({ target }) => set(colour, target.value as Part)}
            >
              {Object.entries(PARTS).map(([part, title]) => (
                <option key={part} value={part}>
                  {title}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
      {rule.apart.length > 0 && (
        <NumberField
          label="width of the gap in px of the source"
          showLabel="gap in px"
          value={rule.gap}
          min={0}
          max={1000}
          step={0.1}
          onChange={(next) => onChange({ ...rule, gap: next })}
          className="[&>span]:whitespace-nowrap [&>span]:font-sans"
        />
      )}
    </div>
  );
}
