import type { Output, OutputSettings } from '@tolvik/core';
import { Button } from '../../ui/controls';
import { ChromaSelect } from '../output/ChromaSelect';
import { PackingSelect } from '../output/PackingSelect';
import { QualityFields } from '../output/QualityFields';
import { sameSettings } from './panes';

/** The settings that are tried in one pane, moved while one watches picture and weight; "Use this" makes them the output's. */
export function SettingStrip({
  output,
  settings,
  onChange,
  onUse,
  onClose,
}: {
  output: Output;
  settings: OutputSettings;
  onChange(settings: OutputSettings): void;
  onUse(): void;
  onClose?(): void;
}) {
  return (
    <div className="flex h-11 flex-none items-center gap-3 border-line border-t bg-paper px-3">
      {settings.format === 'jpeg' && (
        <>
          <span className="text-ink-2">Quality</span>
          <QualityFields label="Quality tried" settings={settings} onChange={onChange} />
          <ChromaSelect label="Colours tried" settings={settings} onChange={onChange} className="w-36" />
        </>
      )}
      {settings.format === 'svg' && (
        <>
          <span className="text-ink-2">Decimals</span>
          <input
            type="range"
            aria-label="Decimals tried"
            min={0}
            max={6}
            value={settings.decimals}
            onChange={(event) => onChange({ ...settings, decimals: Number(event.target.value) })}
            className="min-w-0 flex-1 accent-spruce"
          />
          <span className="w-4 font-mono">{settings.decimals}</span>
        </>
      )}
      {settings.format === 'png' && (
        <PackingSelect label="Packing tried" settings={settings} onChange={onChange} className="min-w-0 flex-1" />
      )}
      <Button small kind="go" disabled={sameSettings(settings, output.settings)} onClick={onUse}>
        Use this
      </Button>
      {onClose && (
        <Button small kind="bare" onClick={onClose}>
          Close
        </Button>
      )}
    </div>
  );
}
