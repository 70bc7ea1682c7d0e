import type { SettingsOf } from '@tolvik/core';

/** How hard a PNG is packed. */
export const PackingSelect = ({
  label,
  settings,
  onChange,
  className,
}: {
  label: string;
  settings: SettingsOf<'png'>;
  onChange(settings: SettingsOf<'png'>): void;
  className: string;
}) => (
  <select
    className={`field ${className}`}
    aria-label={label}
    value={settings.effort}
    onChange={(event) => onChange({ ...settings, effort: event.target.value as 'smaller' | 'faster' })}
  >
    <option value="smaller">Smallest, takes longer</option>
    <option value="faster">Small, quick to make</option>
  </select>
);
