import {
  acts,
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
import { doAct, plainIntent } from '../../project/session/act';
import { useSession } from '../../project/session/context';
import { TextField } from '../../ui/TextField';
import { FormatSettings } from './FormatSettings';
import { OutputActions } from './OutputActions';
import { OutputPaint } from './OutputPaint';
import { Row } from './Row';
import { SizesField } from './SizesField';

const SIZE_KINDS: Record<SizeRule['kind'], string> = {
  factor: 'Factor',
  width: 'Width',
  height: 'Height',
  box: 'Fit in a box',
  dpi: 'Resolution',
  widthMm: 'Width, mm',
  heightMm: 'Height, mm',
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
    widthMm: { kind: 'widthMm', mm: 50 },
    heightMm: { kind: 'heightMm', mm: 50 },
  }[kind] as SizeRule;
}

/** Everything an output is made of, changed in place; each change shows in its column at once. */
export function OutputEditor({ output, onGoOn }: { output: Output; onGoOn(outputId: string | null): void }) {
  const session = useSession();
  const set = (said: Partial<Output>) =>
    doAct(session, acts.setOutput, plainIntent([]), { outputId: output.id, ...said });
  const { settings, size } = output;
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
          <SizesField
            output={output}
            onSizes={(sizes) =>
              doAct(session, acts.varyOutput, plainIntent([]), { outputId: output.id, sizes: [...sizes] })
            }
          />
        </Row>
      )}
      <OutputPaint output={output} onChange={set} />
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
      <OutputActions output={output} onGoOn={onGoOn} />
    </div>
  );
}
