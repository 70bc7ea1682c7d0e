import type { VariantProposal } from '@tolvik/core';
import { contrastWords } from '../../ui/contrast-words';
import { Button } from '../../ui/controls';
import { Tick } from '../../ui/Tick';
import { few } from '../../ui/words';

type Props = {
  proposal: VariantProposal;
  /** What it is a variant of. */
  source: string;
  name: string;
  picture: string | undefined;
  on: boolean;
  onTick(on: boolean): void;
  /** Whether its colours are being changed. */
  open: boolean;
  onColours(): void;
};

/** A variant before it is made: seen on its ground, with how well, and what of it would melt. */
export function VariantCard({ proposal, source, name, picture, on, onTick, open, onColours }: Props) {
  const { title, about, background, contrast, faint, melted } = proposal;
  return (
    <li className={`flex flex-col border-2 bg-white ${on ? 'border-spruce' : 'border-line'}`}>
      <span
        className="flex h-[118px] items-center justify-center p-3.5"
        style={{ background: background ?? '#ffffff' }}
      >
        {picture && <img src={picture} alt={`${source}, ${title}`} className="max-h-full max-w-full" />}
      </span>
      <label className="flex items-start gap-2 border-line border-t px-3 pt-2">
        <Tick checked={on} onChange={onTick} label={`Make ${title}`} className="mt-0.5" />
        <span className="min-w-0 flex-1">
          <strong className="font-semibold">{title}</strong> <span className="text-ink-2">{about}</span>
          <span className="block truncate font-mono text-[11px] text-ink-2">{name}</span>
        </span>
      </label>
      <div className="flex items-center justify-between gap-2 px-3 pt-1 pb-2">
        <span
          className={faint ? 'font-semibold text-bad' : 'text-ink-2'}
          title="The least against its ground (WCAG 2.2): shapes need 3 : 1, letters and thin lines 4.5 : 1"
        >
          {contrast === null ? 'a picture' : contrastWords(contrast, faint)}
        </span>
        <Button small aria-expanded={open} aria-label={`Colours of ${title}`} onClick={onColours}>
          Colours
        </Button>
      </div>
      {melted.length > 0 && (
        <p className="border-warn border-t bg-warn-pale px-3 py-1 text-note">
          {few(melted)} cannot be told from what is beside it
        </p>
      )}
    </li>
  );
}
