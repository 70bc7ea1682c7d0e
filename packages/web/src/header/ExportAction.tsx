import { ChevronDown } from 'lucide-react';
import { allCommands } from '../commands/commands';
import { openMenuBelow } from '../commands/menu';
import { useExport } from '../project/files/use-export';
import { planOf, useSession, useSessionPart } from '../project/session/context';
import { Button } from '../ui/controls';
import { Hint } from '../ui/Hint';
import { useNotice } from '../ui/notices';
import { count } from '../ui/words';
import { ExportProgress } from './ExportProgress';
import type { Stage } from './stage';
import { useProjectCommands } from './use-project-commands';

/** The main action, or how far it is; and the commands of the whole project. */
export function ExportAction({ stages, onBringIn }: { stages: readonly Stage[]; onBringIn(): void }) {
  const session = useSession();
  const tell = useNotice();
  const delivery = useSessionPart('delivery');
  const unsaved = useSessionPart('saved').kind === 'waiting';
  const start = useExport();
  const plan = planOf(session);
  const running = delivery?.state === 'running' && !delivery.byEdit ? delivery : null;
  const files = plan.files.length;
  const held = plan.troubled.length > 0;
  const reason =
    files === 0
      ? 'Nothing becomes a file yet'
      : held
        ? `${count(plan.troubled.length, 'file')} cannot be made as planned; the Proof shows which`
        : unsaved
          ? 'Waits until everything is saved'
          : '';
  const canExport = !reason && !running;
  const ofSelected = plan.files.filter(({ pieceId }) => session.selection.has(pieceId)).length;
  useProjectCommands(stages, { files, ofSelected }, running ? 'An export is running' : reason, onBringIn);
  if (running) return <ExportProgress progress={running} />;
  return (
    <span className="flex">
      <Hint text={reason || 'Ctrl+Enter'}>
        <Button
          kind="go"
          className="h-[34px] rounded-r-none px-3.5 max-[700px]:px-2"
          aria-disabled={!canExport}
          onClick={() => (canExport ? void start() : tell(`${reason}.`, { bad: held }))}
          style={canExport ? undefined : { opacity: 0.55 }}
        >
          Export {count(files, 'file')}
        </Button>
      </Hint>
      <Button
        kind="go"
        aria-label="Other exports"
        aria-haspopup="menu"
        className="h-[34px] rounded-l-none border-l-white/40 px-1"
        onClick={(event) => openMenuBelow(event.currentTarget, [otherExports()])}
        style={canExport ? undefined : { opacity: 0.55 }}
      >
        <ChevronDown size={14} />
      </Button>
    </span>
  );
}

const OTHER_EXPORTS = ['export', 'export-selected', 'which-files'];
const otherExports = () => {
  const known = new Map(allCommands().map((command) => [command.id, command]));
  return OTHER_EXPORTS.flatMap((id) => known.get(id) ?? []);
};
