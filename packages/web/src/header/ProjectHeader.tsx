import { memo, useCallback, useMemo, useRef } from 'react';
import { Link, NavLink, useNavigate, useParams } from 'react-router';
import { request } from '../api/client';
import { type Command, showCommands, useCommands } from '../commands/commands';
import { HelpButton } from '../commands/HelpButton';
import { askWhichFiles } from '../outputs/which-files';
import { showArrivals } from '../project/arrivals';
import { useBringIn } from '../project/bring-in';
import { planOf, useOpenSession, useSession, useSessionPart } from '../project/context';
import { refusedEdits } from '../project/pending-edits';
import type { SavedState } from '../project/session';
import { useExport } from '../project/use-export';
import { Button } from '../ui/controls';
import { Hint } from '../ui/Hint';
import { Mark } from '../ui/Mark';
import { useNotice } from '../ui/notices';
import { saveJson } from '../ui/save-file';
import { TextField } from '../ui/TextField';
import { clock, count } from '../ui/words';
import { BringInProgress } from './BringInProgress';
import { ExportProgress } from './ExportProgress';
import type { Stage } from './stage';

function savedWords(saved: SavedState): string {
  switch (saved.kind) {
    case 'saving':
      return 'Saving…';
    case 'saved':
      return saved.at ? `Saved ${clock(saved.at)}` : 'Saved';
    case 'waiting':
      return `Not saved yet: ${saved.why}`;
    case 'refused':
      return `Not saved: ${saved.why}`;
  }
}

/** The stages with what stands in each, whether all is saved, and the one main action with its size. */
export function ProjectHeader({ stages }: { stages: readonly Stage[] }) {
  const picker = useRef<HTMLInputElement>(null);
  const { bringIn, busy } = useBringIn();
  const pick = useCallback(() => picker.current?.click(), []);
  return (
    <header className="flex h-[52px] flex-none items-stretch border-line border-b bg-paper">
      <div className="flex w-[272px] min-w-0 items-center gap-2.5 px-4">
        <Hint text="To the shelf">
          <Link to="/" aria-label="To the shelf" className="rounded-sm">
            <Mark />
          </Link>
        </Hint>
        <div className="min-w-0 flex-1">
          <ProjectName />
          <SavedWords />
        </div>
      </div>
      <Stages stages={stages} />
      <div className="flex w-[272px] items-center justify-end gap-2 px-4">
        <HelpButton />
        {busy ? <BringInProgress /> : <Button onClick={pick}>Bring in…</Button>}
        <input
          ref={picker}
          type="file"
          multiple
          hidden
          data-testid="bring-in"
          accept=".svg,.png,.jpg,.jpeg,.webp,.zip"
          onChange={(event) => {
            void bringIn([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
        <ExportAction stages={stages} onBringIn={pick} />
      </div>
    </header>
  );
}

function ProjectName() {
  const session = useSession();
  const tell = useNotice();
  const rename = (name: string) => {
    session.name = name;
    void request(`/projects/${session.id}`, { method: 'PATCH', json: { name } }).catch((error: Error) =>
      tell(error.message, { bad: true }),
    );
  };
  return (
    <>
      <h1 className="sr-only">{session.name}</h1>
      <TextField
        label="Name of the project"
        value={session.name}
        required
        onChange={rename}
        className="[&_input]:h-[21px] [&_input]:border-transparent [&_input]:bg-transparent [&_input]:px-1 [&_input]:font-bold [&_input]:text-[14.5px] [&_input]:tracking-[-0.01em] [&_input]:hover:border-line-strong [&_input]:focus:bg-white"
      />
    </>
  );
}

function SavedWords() {
  const saved = useSessionPart('saved');
  const words = savedWords(saved);
  return (
    <p
      role="status"
      className={`truncate px-1 text-note ${saved.kind === 'waiting' ? 'text-warn' : saved.kind === 'refused' ? 'text-bad' : 'text-ink-3'}`}
      title={words}
    >
      {words}
    </p>
  );
}

function Stages({ stages }: { stages: readonly Stage[] }) {
  return (
    <nav aria-label="Stages" className="mx-auto flex">
      {stages.map((stage) => (
        <StageTab key={stage.route} stage={stage} />
      ))}
    </nav>
  );
}

/** The main action, or how far it is; and the commands of the whole project. */
function ExportAction({ stages, onBringIn }: { stages: readonly Stage[]; onBringIn(): void }) {
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

/** Hands over what could not be saved, as a JSON file; answers whether there was anything. */
async function saveRefused(projectId: string): Promise<boolean> {
  const refused = await refusedEdits(projectId);
  if (refused.length === 0) return false;
  saveJson('changes that could not be saved.json', refused);
  return true;
}

/** What can be done in every stage, by name and key; `noExport` says why there can be no export now. */
function useProjectCommands(stages: readonly Stage[], files: number, noExport: string, onBringIn: () => void): void {
  const session = useOpenSession();
  const navigate = useNavigate();
  const start = useExport();
  const tell = useNotice();
  const [undoLabel, redoLabel] = [useSessionPart('undoLabel'), useSessionPart('redoLabel')];
  const commands = useMemo((): Command[] => {
    const { id } = session;
    const toStages = stages.map(
      ({ route, title, keys }): Command => ({
        id: route,
        group: 'Go',
        title: `To the ${title}`,
        keys: [keys],
        run: () => navigate(`/projects/${id}/${route}`),
      }),
    );
    return [
      ...toStages,
      { id: 'shelf', group: 'Go', title: 'To the shelf', run: () => navigate('/') },
      { id: 'commands', group: 'Go', title: 'Every command by name', keys: ['Ctrl+K'], listed: true, run: () => {} },
      { id: 'shortcuts', group: 'Go', title: 'All keys', keys: ['?'], run: () => showCommands('shortcuts') },
      {
        id: 'undo',
        group: 'Project',
        title: undoLabel ? `Undo: ${undoLabel}` : 'Undo',
        keys: ['Ctrl+Z'],
        unless: !undoLabel && 'There is nothing to undo',
        run: () => session.undo(),
      },
      {
        id: 'redo',
        group: 'Project',
        title: redoLabel ? `Redo: ${redoLabel}` : 'Redo',
        keys: ['Ctrl+Shift+Z', 'Ctrl+Y'],
        unless: !redoLabel && 'There is nothing to redo',
        run: () => session.redo(),
      },
      { id: 'bring-in', group: 'Project', title: 'Bring in files…', run: onBringIn },
      { id: 'arrivals', group: 'Project', title: 'What came in…', run: () => showArrivals(true) },
      { id: 'which-files', group: 'Files', title: 'Which files…', keys: ['O'], run: askWhichFiles },
      {
        id: 'save-file',
        group: 'Project',
        title: 'Save as a project file',
        run: () => void (window.location.href = `/api/projects/${id}/project.svg`),
      },
      {
        id: 'refused',
        group: 'Project',
        title: 'Changes that could not be saved',
        run: () => void saveRefused(id).then((some) => some || tell('Everything could be saved so far.')),
      },
      {
        id: 'export',
        group: 'Project',
        title: `Export ${count(files, 'file')}`,
        keys: ['Ctrl+Enter'],
        unless: noExport,
        run: () => void start(),
      },
    ];
  }, [session, stages, navigate, undoLabel, redoLabel, files, noExport, start, onBringIn, tell]);
  useCommands('project', commands);
}

/** A stage with what stands in it now. */
function StageTab({ stage: { route, title, useStanding } }: { stage: Stage }) {
  const { note, bad } = useStanding();
  const { projectId } = useParams();
  return <Tab to={`/projects/${projectId}/${route}`} title={title} note={note} bad={bad} />;
}

/** Drawn again only when its note changes: most edits change none. */
const Tab = memo(function Tab({ to, title, note, bad }: { to: string; title: string; note: string; bad?: boolean }) {
  return (
    <NavLink
      to={to}
      className={({ isActive }) =>
        `relative flex min-w-[150px] flex-col justify-center border-line border-l px-[22px] last:border-r focus-visible:-outline-offset-2 ${isActive ? 'bg-white after:absolute after:inset-x-0 after:-bottom-px after:h-[3px] after:bg-ink' : 'text-ink-2 hover:bg-rail'}`
      }
    >
      <strong className="font-semibold text-[13.5px]">{title}</strong>
      <span className={`whitespace-nowrap text-note ${bad ? 'text-bad' : 'text-ink-3'}`}>{note}</span>
    </NavLink>
  );
});
