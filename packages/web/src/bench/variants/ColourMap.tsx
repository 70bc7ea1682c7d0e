import { contrast, neededContrast, opaqueKey, parseColour, type RecolourRule, type UsedColour } from '@tolvik/core';
import { ColourField } from '../../project/colours/ColourField';
import { contrastWords } from '../../ui/contrast-words';

/** Every colour of the source with what it becomes; how much of it there is, and whether it can be seen on its ground. */
export function ColourMap({
  colours,
  rule,
  ground,
  onChange,
}: {
  colours: readonly UsedColour[];
  rule: RecolourRule & { kind: 'map' };
  ground: string;
  onChange(rule: RecolourRule): void;
}) {
  const set = (from: string, to: string) =>
    onChange({
      kind: 'map',
      colours: [
        ...rule.colours.filter((each) => each.from !== from),
        ...(to === from ? [] : [{ from, to: to === 'none' ? ('none' as const) : to }]),
      ],
    });
  const on = parseColour(ground);
  return (
    <ul className="mt-2 flex flex-col gap-1.5" aria-label="Colours of the source and what they become">
      {colours.map(({ colour, share, fine }) => {
        const to = rule.colours.find((each) => each.from === colour)?.to ?? colour;
        const parsed = parseColour(to);
        const isGround = !!parsed && !!on && opaqueKey(parsed) === opaqueKey(on);
        const ratio = parsed && on && !isGround ? contrast(parsed, on) : null;
        const faint = ratio !== null && ratio < neededContrast(fine);
        return (
          <li key={colour} className="grid grid-cols-[18px_1fr_auto] items-center gap-x-2">
            <span
              className="size-4 border border-line-strong"
              style={{ background: colour }}
              title={`${colour}, ${Math.round(share * 100)} % of the artwork`}
            />
            <ColourField label={`${colour} becomes`} value={to} onChange={(next) => set(colour, next)} />
            <span
              className={`text-right text-note ${faint ? 'font-semibold text-bad' : 'text-ink-3'}`}
              title={`On ${ground}: needs ${neededContrast(fine)} : 1; ${Math.round(share * 100)} % of the artwork`}
            >
              {isGround ? 'as the ground' : ratio === null ? 'open' : contrastWords(ratio, faint)}
            </span>
          </li>
        );
      })}
    </ul>
  );
}
