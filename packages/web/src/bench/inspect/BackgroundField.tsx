import { hexColour } from '@tolvik/core';
import { ColourPick } from '../../ui/ColourPick';
import { TextField } from '../../ui/TextField';
import { Tick } from '../../ui/Tick';

/** None, or a colour by picker or by value. */
export function BackgroundField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | null;
  onChange(value: string | null): void;
}) {
  return (
    <div className="mt-2.5 flex h-[28px] items-center gap-2">
      <Tick checked={value !== null} onChange={(on) => onChange(on ? '#ffffff' : null)} label={`${label} on`} />
      <span className="text-ink-2">{label}</span>
      {value !== null && (
        <>
          <ColourPick label={`${label} colour`} value={value} alpha onChange={onChange} className="ml-auto" />
          <TextField
            label={`${label} as hex`}
            mono
            value={value}
            onChange={onChange}
            check={(text) => (hexColour.safeParse(text).success ? '' : 'needs a colour like #0c6a53')}
            className="w-[86px]"
          />
        </>
      )}
    </div>
  );
}
