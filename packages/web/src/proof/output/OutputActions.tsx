import { acts, FORMAT_LIST, FORMATS, type Format, type Output } from '@tolvik/core';
import { doAct, plainIntent } from '../../project/session/act';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';

/** What can be done with an output as a whole: other formats of it, a copy, its place, its end. */
export function OutputActions({ output, onGoOn }: { output: Output; onGoOn(outputId: string | null): void }) {
  const session = useSession();
  const alsoAs = (format: Format) =>
    doAct(session, acts.varyOutput, plainIntent([]), { outputId: output.id, formats: [format] });
  const duplicate = () => {
    const before = new Set(session.doc.list('output').map(({ id }) => id));
    if (!doAct(session, acts.duplicateOutput, plainIntent([]), { outputId: output.id })) return;
    // The copy is what one goes on with.
    onGoOn(session.doc.list('output').find(({ id }) => !before.has(id))?.id ?? null);
  };
  return (
    <div className="mt-1.5 flex flex-wrap gap-1.5 border-line border-t pt-2.5">
      {FORMAT_LIST.filter((each) => each !== output.settings.format).map((each) => (
        <Button key={each} small onClick={() => alsoAs(each)}>
          Also as {FORMATS[each].title}
        </Button>
      ))}
      <Button small onClick={duplicate}>
        Duplicate
      </Button>
      <Button
        small
        aria-label="Move left"
        onClick={() => doAct(session, acts.shiftOutput, plainIntent([]), { outputId: output.id, to: 'left' })}
      >
        ←
      </Button>
      <Button
        small
        aria-label="Move right"
        onClick={() => doAct(session, acts.shiftOutput, plainIntent([]), { outputId: output.id, to: 'right' })}
      >
        →
      </Button>
      <Button
        small
        kind="danger"
        onClick={() => doAct(session, acts.removeOutput, plainIntent([]), { outputId: output.id })}
      >
        Remove
      </Button>
    </div>
  );
}
