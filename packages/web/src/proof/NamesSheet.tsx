import { type Settings, TEMPLATE_WORDS, unknownWords } from '@tolvik/core';
import { useMemo } from 'react';
import { renamePiece } from '../bench/rename';
import { planOf, useSession } from '../project/context';
import { Button } from '../ui/controls';
import { NumberField } from '../ui/NumberField';
import { Sheet } from '../ui/Sheet';
import { TextField } from '../ui/TextField';
import { count } from '../ui/words';

const MAX_LISTED = 400;
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

/** How files and folders are called, with the tree that will be written. */
export function NamesSheet({ open, onClose }: { open: boolean; onClose(): void }) {
  const session = useSession();
  const { settings } = session.doc;
  const plan = planOf(session);
  const set = (fields: Partial<Settings>) =>
    session.commit({ label: 'change how files are named', puts: [{ ...settings, ...fields }], removes: [] });
  const folders = useMemo(() => {
    const tree = new Map<string, { name: string; clash: boolean }[]>();
    for (const file of open ? plan.files : []) {
      const cut = file.path.lastIndexOf('/');
      const folder = file.path.slice(0, Math.max(0, cut));
      const list = tree.get(folder) ?? [];
      list.push({ name: file.path.slice(cut + 1), clash: file.clashCount > 0 });
      tree.set(folder, list);
    }
    return [...tree].sort(([a], [b]) => (a < b ? -1 : 1));
  }, [plan, open]);
  const clashes = plan.files.filter((file) => file.clashCount > 0);
  const longest = plan.files.reduce((best, file) => (file.path.length > best.length ? file.path : best), '');
  let left = MAX_LISTED;
  return (
    <Sheet
      open={open}
      onClose={onClose}
      wide
      title="Names and folders"
      about="What is shown here is what will be on disk."
      footer={<Button onClick={onClose}>Done</Button>}
    >
      <div className="grid grid-cols-[320px_1fr] gap-6">
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
        <div className="min-w-0">
          <p className="mb-2 flex items-baseline gap-3">
            <strong className="font-semibold">{count(plan.files.length, 'file')}</strong>
            {clashes.length > 0 ? (
              <span className="text-bad">! {count(clashes.length, 'file')} share a path with another</span>
            ) : (
              <span className="text-ink-2">no two share a path</span>
            )}
          </p>
          {clashes.length > 0 && (
            <ul
              aria-label="Pieces whose names clash"
              className="mb-2 max-h-32 overflow-auto border border-bad bg-bad-pale p-2"
            >
              {[...new Set(clashes.map((file) => file.pieceId))].map((id) => {
                const piece = plan.pieces.find((each) => each.id === id);
                return (
                  piece && (
                    <li key={id} className="flex h-8 items-center gap-2">
                      <span className="w-6 text-right font-mono text-[11.5px]">{piece.number}</span>
                      <TextField
                        label={`Name of piece ${piece.number}`}
                        required
                        value={piece.name}
                        onChange={(name) => renamePiece(session, id, name)}
                        className="flex-1"
                      />
                    </li>
                  )
                );
              })}
            </ul>
          )}
          {plan.files[0] && (
            <p className="truncate text-ink-2 text-note">
              First: <span className="font-mono">{plan.files[0].path}</span>
            </p>
          )}
          {longest && (
            <p className="mb-2 truncate text-ink-2 text-note">
              Longest: <span className="font-mono">{longest}</span>
            </p>
          )}
          <div className="h-[52vh] overflow-auto border border-line bg-white p-3 font-mono text-[11.5px] leading-[1.6]">
            {folders.map(([folder, files]) => {
              const part = files.slice(0, Math.max(0, left));
              left -= part.length;
              return (
                <div key={folder} className="mb-2">
                  {folder && <div className="font-semibold">{folder}/</div>}
                  <ul className={folder ? 'pl-4' : ''}>
                    {part.map(({ name, clash }, i) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: clashing files have one name
                      <li key={i} className={clash ? 'font-semibold text-bad' : ''}>
                        {clash ? '! ' : ''}
                        {name}
                      </li>
                    ))}
                    {part.length < files.length && (
                      <li className="text-ink-3">and {count(files.length - part.length, 'file')} more</li>
                    )}
                  </ul>
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </Sheet>
  );
}
