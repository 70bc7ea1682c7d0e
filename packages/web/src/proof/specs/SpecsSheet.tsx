import { planOf, useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { MoreSpecs } from './MoreSpecs';
import { SpecRow } from './SpecRow';

/** The specs of the project, who follows them, and ready-made ones to add. */
export function SpecsSheet({ open, onClose }: { open: boolean; onClose(): void }) {
  const plan = planOf(useSession());
  return (
    <Sheet
      open={open}
      onClose={onClose}
      wide
      title="Specs"
      about="A spec is a named list of outputs; a piece follows one or more."
      footer={<Button onClick={onClose}>Done</Button>}
    >
      <h3 className="heading mb-1.5">In this project</h3>
      <ul className="mb-5 border border-line bg-white">
        {plan.specs.map((spec) => (
          <SpecRow key={spec.id} spec={spec} />
        ))}
        {plan.specs.length === 0 && <li className="px-3 py-2 text-ink-2">None yet.</li>}
      </ul>
      <MoreSpecs />
    </Sheet>
  );
}
