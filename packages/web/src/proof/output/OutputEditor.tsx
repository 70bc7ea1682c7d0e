import {
  type ActSettings,
  contactSheetOf,
  FORMAT_LIST,
  FORMATS,
  type Format,
  inFormat,
  type Output,
  type SizeRule,
  TEMPLATE_WORDS,
  unknownWords,
  withSize,
} from '@tolvik/core';
import { ColourField } from '../../bench/inspect/ColourField';
import { doAct, plainIntent } from '../../project/act';
import { useSession } from '../../project/context';
import { Button } from '../../ui/controls';
import { TextField } from '../../ui/TextField';
import { FormatSettings } from './FormatSettings';
import { Row } from './Row';
import { SizesField } from './SizesField';

const SIZE_KINDS: Record<SizeRule['kind'], string> = {
  factor: 'Factor',
  width: 'Width',
  height: 'Height',
  box: 'Fit in a box',
  dpi: 'Resolution',
};
const RULES: Partial<Record<Output['recolour']['kind'], string>> = {
  asDrawn: 'As drawn',
  white: 'All white',
  black: 'All black',
  grey: 'Grey',
  tint: 'One colour',
};
/** What is wrong with a suffix or a folder, in words; empty when nothing is. */
function wrongIn(text: string): string {
  const [unknown] = unknownWords(text);
  if (unknown !== undefined) return `{${unknown}} means nothing; there are ${Object.keys(TEMPLATE_WORDS).join(', ')}`;
  return /[<>:"|?*\\]/.test(text) || /(^|\/)\.\.(\/|$)/.test(text)
    ? 'these may not be in a name: < > : " | ? * \\ ..'
    : '';
}

function startingSize(kind: SizeRule['kind']): SizeRule {
  return {
    factor: { kind: 'factor', factor: 1 },
    width: { kind: 'width', widthPx: 512 },
    height: { kind: 'height', heightPx: 512 },
    box: { kind: 'box', widthPx: 512, heightPx: 512 },
    dpi: { kind: 'dpi', dpi: 300 },
  }[kind] as SizeRule;
}

/** Everything an output is made of, changed in place; each change shows in its column at once. */
export function OutputEditor({ output, onGoOn }: { output: Output; onGoOn(outputId: string | null): void }) {
  const session = useSession();
  const set = (fields: Partial<Output>, label = 'change an output') =>
    session.commit({ label, puts: [{ ...output, ...fields }], removes: [] });
  const { settings, size, background, recolour } = output;
  const format = FORMATS[settings.format];
  const vary = (how: Omit<ActSettings<'vary-output'>, 'outputId'>) =>
    doAct(session, 'vary-output', plainIntent([]), { outputId: output.id, ...how });
  const duplicate = () => {
    const before = new Set(session.doc.list('output').map(({ id }) => id));
    if (!doAct(session, 'duplicate-output', plainIntent([]), { outputId: output.id })) return;
    // The copy is what one goes on with.
    onGoOn(session.doc.list('output').find(({ id }) => !before.has(id))?.id ?? null);
  };
  return (
    <div className="flex flex-col gap-1.5">
      <Row title="Format">
        <select
          className="field w-full"
          aria-label="Format"
          value={settings.format}
          onChange={(event) => {
            const { id: _, ...fields } = inFormat(output, event.target.value as Format);
            set(fields);
          }}
        >
          {FORMAT_LIST.map((each) => (
            <option key={each} value={each}>
              {FORMATS[each].title}
            </option>
          ))}
        </select>
      </Row>
      {!contactSheetOf(settings) && (
        <Row title="Size">
          <select
            className="field w-[104px] shrink-0"
            aria-label="Kind of size"
            value={size.kind}
            onChange={(event) => {
              const { suffix, size: next } = withSize(output, startingSize(event.target.value as SizeRule['kind']));
              set({ suffix, size: next });
            }}
          >
            {Object.entries(SIZE_KINDS).map(([kind, title]) => (
              <option key={kind} value={kind}>
                {title}
              </option>
            ))}
          </select>
          <SizesField output={output} onSizes={(sizes) => vary({ sizes: [...sizes] })} />
        </Row>
      )}
      <Row title="Background">
        <select
          className="field min-w-0 flex-1"
          aria-label="Background"
          value={background.startsWith('#') ? 'colour' : background}
          onChange={(event) =>
            set({ background: event.target.value === 'colour' ? '#ffffff' : (event.target.value as 'piece' | 'none') })
          }
        >
          <option value="piece">{format.transparent ? 'As the piece' : 'As the piece, else white'}</option>
          {format.transparent && <option value="none">Transparent</option>}
          <option value="colour">Colour</option>
        </select>
        {background.startsWith('#') && (
          <ColourField
            label="Background colour"
            value={background}
            onChange={(colour) =>
              set({
                background: colour === 'none' && !format.transparent ? '#ffffff' : (colour as Output['background']),
              })
            }
          />
        )}
      </Row>
      <Row title="Artwork">
        <select
          className="field min-w-0 flex-1"
          aria-label="Artwork colour"
          value={recolour.kind}
          onChange={(event) =>
            set({
              recolour:
                event.target.value === 'tint'
                  ? { kind: 'tint', colour: '#0c6a53' }
                  : ({ kind: event.target.value } as Output['recolour']),
            })
          }
        >
          {Object.entries(RULES).map(([kind, title]) => (
            <option key={kind} value={kind}>
              {title}
            </option>
          ))}
        </select>
        {recolour.kind === 'tint' && (
          <ColourField
            label="Colour of the artwork"
            value={recolour.colour}
            onChange={(colour) => set({ recolour: colour === 'none' ? { kind: 'asDrawn' } : { kind: 'tint', colour } })}
          />
        )}
      </Row>
      <Row title="Suffix">
        <TextField
          label="Suffix"
          mono
          maxLength={100}
          value={output.suffix}
          onChange={(suffix) => set({ suffix })}
          check={(text) => (text.includes('/') ? 'a folder is set below' : wrongIn(text))}
          placeholder="none"
          className="w-full"
        />
      </Row>
      <Row title="Folder">
        <TextField
          label="Folder"
          mono
          maxLength={300}
          value={output.folder}
          onChange={(folder) => set({ folder })}
          check={wrongIn}
          placeholder="none"
          className="w-full"
        />
      </Row>
      <FormatSettings settings={settings} onChange={(next) => set({ settings: next })} />
      <div className="mt-1.5 flex flex-wrap gap-1.5 border-line border-t pt-2.5">
        {FORMAT_LIST.filter((each) => each !== settings.format).map((each) => (
          <Button key={each} small onClick={() => vary({ formats: [each] })}>
            Also as {FORMATS[each].title}
          </Button>
        ))}
        <Button small onClick={duplicate}>
          Duplicate
        </Button>
        <Button
          small
          aria-label="Move left"
          onClick={() => doAct(session, 'shift-output', plainIntent([]), { outputId: output.id, to: 'left' })}
        >
          ←
        </Button>
        <Button
          small
          aria-label="Move right"
          onClick={() => doAct(session, 'shift-output', plainIntent([]), { outputId: output.id, to: 'right' })}
        >
          →
        </Button>
        <Button
          small
          kind="danger"
          onClick={() => doAct(session, 'remove-output', plainIntent([]), { outputId: output.id })}
        >
          Remove
        </Button>
      </div>
    </div>
  );
}
