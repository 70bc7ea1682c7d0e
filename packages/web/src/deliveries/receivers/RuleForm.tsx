import { FORMAT_LIST, FORMATS, type IntakeRules } from '@tolvik/core';
import { Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { TextField } from '../../ui/TextField';
import { Ticked } from '../../ui/Tick';
import { readSizes, readTimes, sizesInWords } from './rule-words';

const LETTERS: readonly { value: IntakeRules['names']['letters']; title: string }[] = [
  { value: 'any', title: 'Any' },
  { value: 'small', title: 'small' },
  { value: 'capital', title: 'CAPITAL' },
];
const ALPHA: readonly { value: IntakeRules['pixels']['alpha']; title: string }[] = [
  { value: 'any', title: 'Either' },
  { value: 'refused', title: 'Never' },
  { value: 'required', title: 'Always' },
];
/** Every rule of an intake, each with what it lets through. */
export function RuleForm({ rules, onChange }: { rules: IntakeRules; onChange(rules: IntakeRules): void }) {
  const { names, pixels } = rules;
  const set = (fields: Partial<IntakeRules>) => onChange({ ...rules, ...fields });
  const setNames = (fields: Partial<IntakeRules['names']>) => set({ names: { ...names, ...fields } });
  const setPixels = (fields: Partial<IntakeRules['pixels']>) => set({ pixels: { ...pixels, ...fields } });
  return (
    <div className="mt-3 grid grid-cols-[110px_1fr] items-center gap-x-3 gap-y-2">
      <span className="text-ink-2">Called</span>
      <TextField
        label="Name of the rules"
        required
        maxLength={100}
        value={rules.name}
        onChange={(name) => set({ name })}
      />
      <span className="text-ink-2">Formats</span>
      <div className="flex gap-4">
        {FORMAT_LIST.map((format) => (
          <Ticked
            key={format}
            label={FORMATS[format].title}
            checked={rules.formats.length === 0 || rules.formats.includes(format)}
            onChange={(on) => {
              const now = rules.formats.length === 0 ? [...FORMAT_LIST] : rules.formats;
              const next = FORMAT_LIST.filter((each) => (each === format ? on : now.includes(each)));
              if (next.length > 0) set({ formats: next.length === FORMAT_LIST.length ? [] : next });
            }}
          />
        ))}
      </div>
      <span className="text-ink-2">Letters of names</span>
      <div className="flex items-center gap-4">
        <Choice
          label="Letters of names"
          value={names.letters}
          options={LETTERS}
          onChange={(letters) => setNames({ letters })}
        />
        <Ticked label="plain letters only" checked={names.plain} onChange={(plain) => setNames({ plain })} />
      </div>
      <span className="text-ink-2">Names like</span>
      <TextField
        label="Names like"
        mono
        maxLength={2000}
        placeholder="any; icons/ic_*.png, **/logo.svg"
        value={names.patterns.join(', ')}
        onChange={(text) =>
          setNames({
            patterns: text
              .split(',')
              .map((each) => each.trim())
              .filter(Boolean),
          })
        }
      />
      <span className="text-ink-2">Sizes in px</span>
      <TextField
        label="Sizes in px"
        mono
        maxLength={2000}
        placeholder="any; 512, 1200x630"
        value={sizesInWords(rules)}
        check={(text) => (readSizes(text) ? '' : 'needs sizes like 512, 1200x630')}
        onChange={(text) => setPixels({ sizes: readSizes(text) ?? pixels.sizes })}
      />
      <span className="text-ink-2">All of these</span>
      <TextField
        label="Sizes that each piece has to have"
        mono
        placeholder="any; 1, 2, 3"
        value={rules.complete.join(', ')}
        check={(text) => (readTimes(text) ? '' : 'needs numbers like 1, 2, 3')}
        onChange={(text) => set({ complete: readTimes(text) ?? rules.complete })}
      />
      <span className="text-ink-2">Pixels</span>
      <div className="flex items-center gap-4">
        <Ticked label="square only" checked={pixels.square} onChange={(square) => setPixels({ square })} />
        <Ticked label="palettes too" checked={pixels.palette} onChange={(palette) => setPixels({ palette })} />
      </div>
      <span className="text-ink-2">See-through</span>
      <div>
        <Choice label="See-through" value={pixels.alpha} options={ALPHA} onChange={(alpha) => setPixels({ alpha })} />
      </div>
      <span className="text-ink-2">Each</span>
      <div className="flex items-center gap-3">
        <NumberField
          label="Largest file in KB; 0 for any"
          showLabel="up to KB"
          min={0}
          max={1_000_000}
          value={(rules.largestBytes ?? 0) / 1000}
          onChange={(kilobytes) => set({ largestBytes: kilobytes > 0 ? Math.round(kilobytes * 1000) : null })}
        />
        <NumberField
          label="Sides are multiples of, in px; 0 for any"
          showLabel="sides by px"
          whole
          min={0}
          max={100_000}
          value={pixels.multipleOf ?? 0}
          onChange={(multipleOf) => setPixels({ multipleOf: multipleOf > 0 ? multipleOf : null })}
        />
      </div>
      <span className="text-ink-2">Folders</span>
      <Ticked
        label="none: all files beside each other"
        checked={rules.folders === 0}
        onChange={(flat) => set({ folders: flat ? 0 : null })}
      />
    </div>
  );
}
