import { acts, filesInWords, isStartingSpec, picked } from '@tolvik/core';
import { type KeyboardEvent, useId, useState } from 'react';
import { useExport } from '../project/files/use-export';
import { doAct, plainIntent } from '../project/session/act';
import { planOf, useSession } from '../project/session/context';
import { Button, Key } from '../ui/controls';
import { count } from '../ui/words';
import { SaidOutputs } from './SaidOutputs';

/**
 * Outputs said in words and seen before they are made. They take the place of the outputs that a project begins with,
 * as long as nobody touched those, and else come beside what is there.
 */
export function WhichFiles({ onDone }: { onDone(): void }) {
  const session = useSession();
  const exportAll = useExport();
  const [words, setWords] = useState('');
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
  const untouched = isStartingSpec(session.doc);
  const there = session.doc.list('output').length > 0;
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
    if (make(untouched) && (event.ctrlKey || event.metaKey)) void exportAll();
  };
  const sum = parts.reduce((all, { outputs }) => all + outputs.length, 0);
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
        aria-invalid={words !== '' && trouble !== ''}
        aria-describedby={told}
        value={words}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={onKeys}
      />
      <div id={told} className="mt-1.5 min-h-[56px] text-note">
        {words === '' ? (
          <p className="text-ink-2">
            Formats with sizes after them: 64 is px wide, 2x a factor, 300dpi a density, 64x48 a box. “on white” is a
            ground, “in icons” a folder, “in folders” one for each format. “1-3: png; mark: svg; 7: none” is for some
            pieces alone. <Key>Ctrl+Enter</Key> makes and exports them.
          </p>
        ) : trouble ? (
          <p role="alert" className="text-bad">
            {trouble}
          </p>
        ) : (
          <SaidOutputs parts={parts} />
        )}
      </div>
      <div className="mt-2.5 flex items-center gap-1.5 border-line border-t pt-2.5">
        <Button small onClick={another}>
          Another PNG
        </Button>
        <span className="ml-auto" />
        {there && !forSome && (
          <Button small disabled={trouble !== ''} onClick={() => make(!untouched)}>
            {untouched ? 'Add beside' : 'Only these'}
          </Button>
        )}
        <Button small kind="go" disabled={trouble !== ''} onClick={() => make(untouched)}>
          {forSome ? 'Make' : untouched ? 'Only these' : 'Add'} {amount}
        </Button>
      </div>
    </>
  );
}
