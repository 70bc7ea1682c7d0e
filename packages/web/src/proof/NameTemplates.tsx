import { type ActSettings, acts, type Settings, TEMPLATE_WORDS, unknownWords } from '@tolvik/core';
import { doAct, plainIntent } from '../project/session/act';
import { useSession } from '../project/session/context';
import { NumberField } from '../ui/NumberField';
import { TextField } from '../ui/TextField';

/** Folders at a press, in the order they are pressed. */
const FOLDERS = [
  { word: '{spec}', title: 'by spec' },
  { word: '{format}', title: 'by format' },
  { word: '{width}', title: 'by size' },
  { word: '{piece}', title: 'by piece' },
] as const;
const CASES: Record<Settings['letterCase'], string> = {
  asTyped: 'As typed',
  lower: 'lower case',
  kebab: 'kebab-case',
  snake: 'snake_case',
};
const known = (text: string) => {
  const unknown = unknownWords(text);
  return unknown.length > 0 ? `there is no word {${unknown[0]}}` : '';
};

/** What names and folders are made of, each change at once, and the words that stand for something. */
export function NameTemplates() {
  const session = useSession();
  const { settings } = session.doc;
  const set = (said: ActSettings<typeof acts.setProject>) => doAct(session, acts.setProject, plainIntent([]), said);
  return (
    <div className="flex flex-col gap-3">
      <div>
        <span className="heading mb-1 block">File name</span>
        <TextField
          label="Template of file names"
          mono
          required
          value={settings.naming}
          onChange={(naming) => set({ naming })}
          check={known}
        />
      </div>
      <div>
        <span className="heading mb-1 block">Folders above all</span>
        <TextField
          label="Template of folders"
          mono
          value={settings.folders}
          onChange={(text) => set({ folders: text })}
          check={known}
          placeholder="none, or {spec}, {format} …"
        />
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          {FOLDERS.map(({ word, title }) => {
            const parts = settings.folders.split('/').filter(Boolean);
            const on = parts.includes(word);
            return (
              <button
                key={word}
                type="button"
                aria-pressed={on}
                onClick={() =>
                  set({ folders: (on ? parts.filter((part) => part !== word) : [...parts, word]).join('/') })
                }
                className={`h-[22px] rounded-sm border px-1.5 text-[12px] ${on ? 'border-spruce bg-spruce-pale font-semibold text-spruce' : 'border-line-strong bg-white hover:bg-rail'}`}
              >
                {title}
              </button>
            );
          })}
        </div>
      </div>
      <div className="grid grid-cols-2 gap-3">
        <label>
          <span className="heading mb-1 block">Letters</span>
          <select
            className="field w-full"
            value={settings.letterCase}
            onChange={(event) => set({ letterCase: event.target.value as Settings['letterCase'] })}
          >
            {Object.entries(CASES).map(([value, title]) => (
              <option key={value} value={value}>
                {title}
              </option>
            ))}
          </select>
        </label>
        <div>
          <span className="heading mb-1 block">Digits of {'{number}'}</span>
          <NumberField
            label="Digits of the number"
            showLabel=""
            whole
            min={1}
            max={6}
            value={settings.numberDigits}
            onChange={(numberDigits) => set({ numberDigits })}
          />
        </div>
      </div>
      <table className="text-note">
        <caption className="heading pb-1 text-left">Words for templates</caption>
        <tbody>
          {Object.entries(TEMPLATE_WORDS).map(([word, meaning]) => (
            <tr key={word}>
              <th scope="row" className="pr-3 text-left font-medium font-mono text-[11px]">{`{${word}}`}</th>
              <td className="text-ink-2">{meaning}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
