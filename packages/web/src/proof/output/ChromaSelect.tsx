import { isFullChroma, type SettingsOf } from '@tolvik/core';

type Jpeg = SettingsOf<'jpeg'>;

/** How finely a JPEG keeps colours: what goes by its quality is said, so that one sees what one gets. */
export function ChromaSelect({
  label,
  settings,
  onChange,
  className,
}: {
  label: string;
  settings: Jpeg;
  onChange(settings: Jpeg): void;
  className: string;
}) {
  const byQuality = isFullChroma(settings.quality, 'auto') ? 'every pixel' : 'coarser';
  return (
    <select
      className={`field ${className}`}
      aria-label={label}
      value={settings.chroma ?? 'auto'}
      onChange={(event) => onChange({ ...settings, chroma: event.target.value as Jpeg['chroma'] })}
    >
      <option value="auto">By quality: {byQuality}</option>
      <option value="full">In every pixel, crisp</option>
      <option value="quarter">Coarser, lighter</option>
    </select>
  );
}
