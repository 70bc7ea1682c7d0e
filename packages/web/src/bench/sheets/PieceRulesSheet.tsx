import { acts, byPieceRules, layersByRule, newId, type PieceRule, ProjectDocument, startingSpecs } from '@tolvik/core';
import { useMemo, useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';
import { act } from '../act';
import { PieceRuleRow } from './PieceRuleRow';

/** Which groups and layers become pieces by themselves, now and whenever something is brought in; counted before it is done. */
export function PieceRulesSheet({ onClose }: { onClose(): void }) {
  const session = useSession();
  const { doc } = session;
  const fresh = (): PieceRule => ({
    id: newId(),
    match: { kind: 'groups' },
    margin: 0,
    wholePx: true,
    specIds: startingSpecs(doc),
  });
  const [rules, setRules] = useState<PieceRule[]>(() => doc.settings.pieceRules ?? [fresh()]);
  const valid = rules.every(({ match }) => match.kind === 'groups' || match.like !== '');
  const { made, gone } = useMemo(() => outcomeOf(doc, rules), [doc, rules]);
  const change = (id: string, fields: Partial<PieceRule>) =>
    setRules(rules.map((rule) => (rule.id === id ? { ...rule, ...fields } : rule)));
  const apply = () => {
    act(session, acts.setPieceRules, { rules });
    onClose();
  };
  const sentence = [
    made > 0 && `${count(made, 'piece')} ${made === 1 ? 'is' : 'are'} made or changed`,
    gone > 0 && `${gone} ${gone === 1 ? 'goes' : 'go'}`,
  ].filter(Boolean);
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title="Pieces by rule"
      about="What a rule means becomes a piece that follows it, now and each time that something is brought in. A piece that you change by hand is yours from then on; one that nobody changed goes with its layer."
      footer={
        <>
          <span className="mr-auto text-ink-2">{sentence.join(', ') || 'Nothing changes now'}</span>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={!valid} onClick={apply}>
            {rules.length === 0 ? 'Remove all rules' : `Save ${count(rules.length, 'rule')}`}
          </Button>
        </>
      }
    >
      <ul className="flex flex-col gap-2.5">
        {rules.map((rule, i) => (
          <PieceRuleRow
            key={rule.id}
            rule={rule}
            number={i + 1}
            means={layersByRule(doc, rule).length}
            specs={doc.list('spec')}
            onChange={(fields) => change(rule.id, fields)}
            onRemove={() => setRules(rules.filter(({ id }) => id !== rule.id))}
          />
        ))}
      </ul>
      <Button small className="mt-3" onClick={() => setRules([...rules, fresh()])}>
        Another rule
      </Button>
    </Sheet>
  );
}

/** How many pieces rules would make or change, and how many would go. */
function outcomeOf(doc: ProjectDocument, rules: readonly PieceRule[]): { made: number; gone: number } {
  const scratch = new ProjectDocument(doc.all());
  scratch.apply({ puts: [{ ...doc.settings, pieceRules: [...rules] }], removes: [] });
  const { puts, removes } = byPieceRules(scratch);
  return { made: puts.length, gone: removes.length };
}
