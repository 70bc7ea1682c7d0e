import { acts, type BrandColour, printCmyk, readCmyk } from '@tolvik/core';
import { doAct, plainIntent } from '../../project/session/act';
import { useSession } from '../../project/session/context';
import { TextField } from '../../ui/TextField';

const cmykTrouble = (text: string) => (text.trim() === '' || readCmyk(text) ? '' : 'four numbers of 0 to 100');

/** What is known of one colour beside its value: its name, and what print needs. Nothing is converted. */
export function ColourFacts({ colour }: { colour: string }) {
  const session = useSession();
  const known: Partial<BrandColour> = session.doc.settings.colours?.find((each) => each.colour === colour) ?? {};
  const set = (said: Partial<Record<'name' | 'spot', string | null>> & { cmyk?: BrandColour['cmyk'] | null }) =>
    doAct(session, acts.setColour, plainIntent([]), { colour, ...said });
  return (
    <fieldset className="mt-4 border-line border-t pt-3">
      <legend className="sr-only">What is known of {colour}</legend>
      <div className="grid grid-cols-[1.2fr_1fr_1.2fr] gap-2">
        <span className="text-ink-2">
          Name
          <TextField
            label={`Name of ${colour}`}
            value={known.name ?? ''}
            maxLength={60}
            placeholder="such as deep water"
            onChange={(name) => set({ name: name.trim() || null })}
          />
        </span>
        <span className="text-ink-2">
          CMYK in percent
          <TextField
            label={`CMYK of ${colour}, in percent`}
            value={known.cmyk ? printCmyk(known.cmyk) : ''}
            maxLength={60}
            mono
            placeholder="80 20 60 10"
            check={cmykTrouble}
            onChange={(text) => set({ cmyk: readCmyk(text) })}
          />
        </span>
        <span className="text-ink-2">
          Spot colour
          <TextField
            label={`Spot colour of ${colour}`}
            value={known.spot ?? ''}
            maxLength={80}
            placeholder="as the printer knows it"
            onChange={(spot) => set({ spot: spot.trim() || null })}
          />
        </span>
      </div>
      <p className="mt-1.5 text-ink-3 text-note">
        These stand on a brand sheet as they are said here; nothing is converted.
      </p>
    </fieldset>
  );
}
