import { FORMATS, isSame, type Judged } from './measure';
import { reasonFor } from './reasons';

/** How one format did over all files: the same, other and told, other for a reason that lies elsewhere, other without a word. */
export type Count = { same: number; told: number; explained: number; untold: number };

export function countOf(results: readonly Judged[], format: (typeof FORMATS)[number]): Count {
  const made = results.filter(({ failed }) => !failed);
  const other = made.filter((result) => !isSame(result[format]));
  const told = other.filter((result) => result.told.length > 0);
  const explained = other.filter((result) => result.told.length === 0 && reasonFor(result.name, format));
  return {
    same: made.length - other.length,
    told: told.length,
    explained: explained.length,
    untold: other.length - told.length - explained.length,
  };
}

const percent = (share: number | null) =>
  share === null ? 'not made' : isSame(share) ? 'same' : `${(share * 100).toFixed(1)} %`;

export const line = ({ name, svg, png, pdf, told, failed }: Judged): string =>
  `${name.padEnd(50)} SVG ${percent(svg).padEnd(8)} PNG ${percent(png).padEnd(8)} PDF ${percent(pdf).padEnd(8)} ${failed ?? told.join('; ')}`;

/** The results as Markdown: counts, then every file that is not the same, with why. */
export function markdown(results: readonly Judged[]): string {
  const refused = results.filter(({ failed }) => failed);
  const rows = FORMATS.map((format) => {
    const { same, told, explained, untold } = countOf(results, format);
    return `| ${format.toUpperCase()} | ${same} | ${told} | ${explained} | ${untold} |`;
  });
  const others = results.filter((result) => result.failed || FORMATS.some((format) => !isSame(result[format])));
  const why = (result: Judged) =>
    result.failed ??
    (result.told.join('; ') ||
      [
        ...new Set(
          FORMATS.flatMap((format) => (isSame(result[format]) ? [] : [reasonFor(result.name, format) ?? 'untold'])),
        ),
      ].join('; '));
  const again = results.filter(({ again }) => again);
  const timesAgain = (what: 'same' | 'pixels' | 'bytes') => again.filter((result) => result.again?.[what]).length;
  const twice = `Read again and exported again: ${timesAgain('same')} of ${again.length} give the same picture, ${timesAgain('pixels')} with no px smoothed otherwise by more than a quarter, ${timesAgain('bytes')} the same bytes.`;
  return [
    `${results.length} files, ${refused.length} refused.`,
    '',
    '| | same | differ, told | differ, for a reason below | differ untold |',
    '|---|---|---|---|---|',
    ...rows,
    '',
    twice,
    '',
    ...(others.length > 0
      ? [
          '| file | SVG | PNG | PDF | what was told, or why |',
          '|---|---|---|---|---|',
          ...others.map(
            (result) =>
              `| ${result.name} | ${percent(result.svg)} | ${percent(result.png)} | ${percent(result.pdf)} | ${why(result).replaceAll('|', '\\|')} |`,
          ),
        ]
      : []),
  ].join('\n');
}
