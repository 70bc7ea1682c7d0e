import {
  BRAND_SHEET,
  type ContactSheetSettings,
  DEFAULT_CONTACT_SHEET,
  PAPER_LIST,
  PAPERS,
  type SettingsOf,
} from '@tolvik/core';
import { NumberField } from '../../ui/NumberField';
import { TextField } from '../../ui/TextField';
import { Ticked } from '../../ui/Tick';
import { Row } from './Row';

type Settings = SettingsOf<'pdf'>;

const CAPTIONS: Record<ContactSheetSettings['captions'], string> = {
  full: 'Name, number, size',
  names: 'Name',
  none: 'Nothing',
};

const WITH = [
  ['grounds', 'grounds that fill the cells'],
  ['lockups', 'pages of lockups with their measures'],
  ['colours', 'a page of colours'],
  ['files', 'a page of files'],
] as const;

/** Other pages; what was set of a sheet stays where it is one still. */
function withPages(settings: Settings, pages: Settings['pages'] | 'brand'): Settings {
  if (pages === 'brand')
    return { ...settings, pages: 'sheet', sheet: { ...BRAND_SHEET, heading: settings.sheet?.heading ?? '' } };
  const { sheet } = settings;
  const kept = sheet && { ...sheet, grounds: false, lockups: false, colours: false, files: false };
  return { ...settings, pages, ...(kept && { sheet: kept }) };
}

/** Whether each piece is a file, all are pages of one, or all stand on sheets of paper; and how they stand there. */
export function PdfFields({ settings, onChange }: { settings: Settings; onChange(settings: Settings): void }) {
  const sheet = settings.sheet ?? DEFAULT_CONTACT_SHEET;
  const isBrand = settings.pages === 'sheet' && sheet.grounds && sheet.colours;
  const change = (fields: Partial<ContactSheetSettings>) => onChange({ ...settings, sheet: { ...sheet, ...fields } });
  return (
    <>
      <Row title="Pages">
        <select
          className="field w-full"
          aria-label="Pages"
          value={isBrand ? 'brand' : settings.pages}
          onChange={(event) => onChange(withPages(settings, event.target.value as Settings['pages'] | 'brand'))}
        >
          <option value="each">A file for each piece</option>
          <option value="together">One file, a page each</option>
          <option value="sheet">A contact sheet of all</option>
          <option value="brand">A brand sheet of all</option>
        </select>
      </Row>
      {settings.pages === 'sheet' && (
        <>
          <Row title="Paper">
            <select
              className="field w-full"
              aria-label="Paper"
              value={`${sheet.paper} ${sheet.landscape}`}
              onChange={(event) => {
                const [paper, landscape] = event.target.value.split(' ');
                change({ paper: paper as ContactSheetSettings['paper'], landscape: landscape === 'true' });
              }}
            >
              {PAPER_LIST.flatMap((paper) =>
                [false, true].map((landscape) => (
                  <option key={`${paper} ${landscape}`} value={`${paper} ${landscape}`}>
                    {PAPERS[paper].title}, {landscape ? 'across' : 'upright'}
                  </option>
                )),
              )}
            </select>
          </Row>
          <Row title="In a row">
            <NumberField
              label="Pieces in a row"
              showLabel=""
              whole
              value={sheet.columns}
              min={1}
              max={12}
              onChange={(columns) => change({ columns })}
              className="w-[58px]"
            />
          </Row>
          <Row title="Below each">
            <select
              className="field w-full"
              aria-label="What stands below each piece"
              value={sheet.captions}
              onChange={(event) => change({ captions: event.target.value as ContactSheetSettings['captions'] })}
            >
              {Object.entries(CAPTIONS).map(([value, title]) => (
                <option key={value} value={value}>
                  {title}
                </option>
              ))}
            </select>
          </Row>
          <Row title="With">
            <span className="flex flex-col gap-1">
              {WITH.map(([field, label]) => (
                <Ticked
                  key={field}
                  checked={sheet[field] ?? false}
                  onChange={(on) => change({ [field]: on })}
                  label={label}
                />
              ))}
            </span>
          </Row>
          <Row title="Heading">
            <TextField
              label="Heading of the contact sheet"
              value={sheet.heading}
              placeholder="the project’s name"
              maxLength={200}
              onChange={(heading) => change({ heading })}
              className="w-full"
            />
          </Row>
        </>
      )}
    </>
  );
}
