import type { SettingsOf } from '@tolvik/core';
import { NumberField } from '../../ui/NumberField';

/** The quality of a JPEG, by a slider and by its number. */
export function QualityFields({
  label,
  settings,
  onChange,
}: {
  label: string;
  settings: SettingsOf<'jpeg'>;
  onChange(settings: SettingsOf<'jpeg'>): void;
}) {
  const set = (quality: number) => onChange({ ...settings, quality });
  return (
    <>
      <input
        type="range"
        aria-label={label}
        min={1}
        max={100}
        value={settings.quality}
        onChange={(event) => set(Number(event.target.value))}
        className="min-w-0 flex-1 accent-spruce"
      />
      <NumberField
        label={`${label}, from 1 to 100`}
        showLabel=""
        whole
        value={settings.quality}
        min={1}
        max={100}
        onChange={set}
        className="w-[58px]"
      />
    </>
  );
}
