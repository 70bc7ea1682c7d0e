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
  useProjectCommands(stages, files, running ? 'An export is running' : reason, onBringIn);
  if (running) return <ExportProgress progress={running} />;
  return (
    <Hint text={reason || 'Ctrl+Enter'}>
      <Button
        kind="go"
        className="h-[34px] px-3.5"
        aria-disabled={!canExport}
        onClick={() => (canExport ? void start() : tell(`${reason}.`, { bad: held }))}
        style={canExport ? undefined : { opacity: 0.55 }}
      >
        Export {count(files, 'file')}
      </Button>
    </Hint>
  );
}
