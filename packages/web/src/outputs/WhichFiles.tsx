import { acts, filesInWords, type Piece, perform, picked, Refusal } from '@tolvik/core';
import { type KeyboardEvent, useId, useState } from 'react';
import { useExport } from '../project/files/use-export';
import { doAct, plainIntent } from '../project/session/act';
import { planOf, useSession } from '../project/session/context';
import type { Session } from '../project/session/session';
import { Button, Key } from '../ui/controls';
import { count } from '../ui/words';
import { SaidOutputs } from './SaidOutputs';

/**
 * Outputs said in words and seen before they are made. Enter adds them to what is there, always; what takes files away is
 * a button of its own that says how many, and another key.
 */
export function WhichFiles({ begin = '', onDone }: { begin?: string; onDone(): void }) {
  const session = useSession();
  const exportAll = useExport();
  const [words, setWords] = useState(begin);
  const [field, told] = [useId(), useId()];
  const { pieces } = planOf(session);
  const said = filesInWords(words);
  const parts = (typeof said === 'string' ? [] : said).map(({ who, outputs }) => ({
    who,
    outputs,
    pieces: who === null ? [] : picked(pieces, who),
  }));
  const nobody = parts.find((part) => part.who !== null && part.pieces.length === 0);
  const trouble =
    typeof said === 'string' ? said : nobody ? `no piece has the number or name “${nobody.who?.slice(0, 60)}”` : '';
  const forSome = parts.some(({ who }) => who !== null);
  const goes = trouble || forSome ? 0 : filesThatGo(session, words);
  const replaced = forSome && !trouble ? filesOf(session, parts) : 0;
  const make = (instead: boolean) => {
    if (trouble || !doAct(session, acts.sayOutputs, plainIntent([]), { words, instead })) return false;
    onDone();
    return true;
  };
  const another = () => {
    doAct(session, acts.addOutput, plainIntent([]), {});
    onDone();
  };
  const onKeys = (event: KeyboardEvent) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    if (make(event.shiftKey && !forSome) && (event.ctrlKey || event.metaKey)) void exportAll();
  };
  const sum = parts.reduce((all, { outputs }) => all + outputs.length, 0);
  const named = new Set(parts.flatMap(({ pieces }) => pieces.map(({ id }) => id))).size;
  const amount = sum > 0 ? count(sum, 'output') : 'outputs';
  return (
    <>
      <label htmlFor={field} className="mb-1 block font-semibold">
        Which files?
      </label>
      <input
        id={field}
        className="field w-full font-mono text-[12px]"
        placeholder="png 16 32 64, jpeg 512 on #0c6a53, svg"
        autoComplete="off"
        spellCheck={false}
        aria-invalid={words.trim() !== begin.trim() && trouble !== ''}
        aria-describedby={told}
        value={words}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={onKeys}
      />
      <div id={told} className="mt-1.5 min-h-[56px] text-note">
        {words.trim() === begin.trim() ? (
          <p className="text-ink-2">
            Formats with sizes after them: 64 is px wide, 2x a factor, 300dpi a density, 64x48 a box, 85mm a true width.
            “on white” is a ground, “in icons” a folder, “in folders” one for each format, “united” is one path for each
            colour. “1-3: png; mark: svg; 7: none” is for some pieces alone. <Key>Enter</Key> adds them to the files
            there are, <Key>Shift+Enter</Key> puts them in place of those; with <Key>Ctrl</Key> they are exported at
            once.
          </p>
        ) : trouble ? (
          <p role="alert" className="text-bad">
            {trouble}
          </p>
        ) : (
          <>
            <SaidOutputs parts={parts} />
            {replaced > 0 && (
              <p className="mt-1 text-ink-2">
                Instead of the {count(replaced, 'file')} that {named === 1 ? 'this piece makes' : 'these pieces make'}{' '}
                now.
              </p>
            )}
          </>
        )}
      </div>
      <div className="mt-2.5 flex items-center gap-1.5 border-line border-t pt-2.5">
        <Button small onClick={another}>
          Set one by hand
        </Button>
        <span className="ml-auto" />
        {goes > 0 && (
          <Button small onClick={() => make(true)}>
            Only these: {count(goes, 'file')} {goes === 1 ? 'goes' : 'go'}
          </Button>
        )}
        <Button small kind="go" disabled={trouble !== ''} onClick={() => make(false)}>
          {forSome ? 'Make' : 'Add'} {amount}
        </Button>
      </div>
    </>
  );
}

/** How many files that are made now would be made no more if only what is said were. */
function filesThatGo(session: Session, words: string): number {
  let gone = new Set<string>();
  try {
    gone = new Set(perform(session.doc, acts.sayOutputs, plainIntent([]), { words, instead: true }).removes);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
  }
  return planOf(session).files.filter(({ outputId }) => gone.has(outputId)).length;
}

type Said = { who: string | null; pieces: readonly Piece[]; outputs: readonly unknown[] };

/** How many files are made now of the pieces whose files are said anew: those that are named, or all where others make none. */
function filesOf(session: Session, parts: readonly Said[]): number {
  const { files } = planOf(session);
  if (parts.some(({ who, outputs }) => who === null && outputs.length === 0)) return files.length;
  const named = new Set(parts.flatMap(({ pieces }) => pieces.map(({ id }) => id)));
  return files.filter(({ pieceId }) => named.has(pieceId)).length;
}
