import type { OutputSettings } from '@tolvik/core';
import { NumberField } from '../../ui/NumberField';
import { ChromaSelect } from './ChromaSelect';
import { PackingSelect } from './PackingSelect';
import { PdfFields } from './PdfFields';
import { QualityFields } from './QualityFields';
import { Row } from './Row';
import { ShapesFields } from './ShapesFields';

/** What only files of one format have. */
export function FormatSettings({
  settings,
  onChange,
}: {
  settings: OutputSettings;
  onChange(settings: OutputSettings): void;
}) {
  switch (settings.format) {
    case 'jpeg':
      return (
        <>
          <Row title="Quality">
            <QualityFields label="Quality" settings={settings} onChange={onChange} />
          </Row>
          <Row title="Colours">
            <ChromaSelect label="Colours" settings={settings} onChange={onChange} className="w-full" />
          </Row>
        </>
      );
    case 'png':
      return (
        <Row title="Packing">
          <PackingSelect label="Packing" settings={settings} onChange={onChange} className="w-full" />
        </Row>
      );
    case 'svg':
      return (
        <>
          <Row title="Decimals">
            <NumberField
              label="Decimals"
              showLabel=""
              whole
              value={settings.decimals}
              min={0}
              max={6}
              onChange={(decimals) => onChange({ ...settings, decimals })}
              className="w-[58px]"
            />
          </Row>
          <Row title="Ids">
            <select
              className="field w-full"
              aria-label="Ids"
              value={settings.ids}
              onChange={(event) => onChange({ ...settings, ids: event.target.value as 'kept' | 'minimal' })}
            >
              <option value="minimal">Only where needed</option>
              <option value="kept">Layer names as ids</option>
            </select>
          </Row>
          <Row title="Layout">
            <select
              className="field w-full"
              aria-label="Layout"
              value={settings.layout}
              onChange={(event) => onChange({ ...settings, layout: event.target.value as 'oneLine' | 'readable' })}
            >
              <option value="oneLine">One line</option>
              <option value="readable">Readable, indented</option>
            </select>
          </Row>
          <Row title="Width, height">
            <select
              className="field w-full"
              aria-label="Width and height"
              value={String(settings.dimensions)}
              onChange={({ target: { value } }) =>
                onChange({ ...settings, dimensions: value === 'mm' ? 'mm' : value === 'true' })
              }
            >
              <option value="true">Written in px</option>
              <option value="mm">Written in mm</option>
              <option value="false">Only the viewBox</option>
            </select>
          </Row>
          <ShapesFields settings={settings} onChange={onChange} />
        </>
      );
    case 'pdf':
      return (
        <>
          <PdfFields settings={settings} onChange={onChange} />
          {settings.pages !== 'sheet' && <ShapesFields settings={settings} onChange={onChange} />}
        </>
      );
    case 'eps':
      return <ShapesFields settings={settings} onChange={onChange} />;
  }
}
