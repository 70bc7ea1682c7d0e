import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { Link, NavLink, useNavigate } from 'react-router';
import { request } from '../api/client';
import type { Delivery } from '../api/types';
import { type Command, showCommands, useCommands } from '../commands/commands';
import { useBringIn } from '../project/bring-in';
import { planOf, useSession } from '../project/context';
import { useFindings } from '../project/findings';
import type { SavedState } from '../project/session';
import { useExport } from '../project/use-export';
import { Button, Hint } from '../ui/controls';
import { Mark } from '../ui/Mark';
import { useNotice } from '../ui/notices';
import { TextField } from '../ui/TextField';
import { clock, count, when } from '../ui/words';
import { BringInProgress } from './BringInProgress';
import { ExportProgress } from './ExportProgress';

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
export function ProjectHeader() {
  const session = useSession();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const tell = useNotice();
  const { bringIn, busy } = useBringIn();
  const picker = useRef<HTMLInputElement>(null);
  const plan = planOf(session);
  const { id, saved, delivery } = session;
  const { data } = useQuery({ queryKey: ['deliveries', id], queryFn: () => request<{ deliveries: Delivery[] }>(`/projects/${id}/deliveries`) });
  const last = data?.deliveries.find((each) => each.state === 'done');
  const { needsALook } = useFindings();
  const start = useExport();
  const running = delivery?.state === 'running' ? delivery : null;

  const finished = delivery && delivery.state !== 'running' ? `${delivery.id} ${delivery.state}` : '';
  useEffect(() => {
    if (finished) void queries.invalidateQueries({ queryKey: ['deliveries', id] });
  }, [finished, id, queries]);

  const rename = (name: string) => {
    session.name = name;
    void request(`/projects/${id}`, { method: 'PATCH', json: { name } }).catch((error: Error) => tell(error.message, { bad: true }));
  };

  const artboards = session.doc.list('artboard').length;
  const slices = session.doc.list('slice').length;
  const editions = session.doc.list('edition').length;
  const stands = [count(artboards, 'artboard'), slices > 0 && count(slices, 'slice'), editions > 0 && count(editions, 'edition')].filter(Boolean).join(', ');
  const files = plan.files.length;
  const held = plan.troubled.length > 0;
  const unsaved = saved.kind === 'waiting';
  const reason =
    files === 0 ? 'Nothing becomes a file yet' : held ? `${count(plan.troubled.length, 'file')} cannot be made as planned; the Proof shows which` : unsaved ? 'Waits until everything is saved' : '';
  const canExport = !reason && !running;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the commands do is told by these
  const commands = useMemo(
    (): Command[] => [
      ...(['bench', 'proof', 'deliveries'] as const).map(
        (stage, i): Command => ({ id: stage, group: 'Go', title: `To the ${stage[0].toUpperCase()}${stage.slice(1)}`, keys: [`Alt+${i + 1}`], run: () => navigate(`/projects/${id}/${stage}`) }),
      ),
      { id: 'shelf', group: 'Go', title: 'To the shelf', run: () => navigate('/') },
      { id: 'commands', group: 'Go', title: 'Every command by name', keys: ['Ctrl+K'], listed: true, run: () => {} },
      { id: 'shortcuts', group: 'Go', title: 'All keys', keys: ['?'], run: () => showCommands('shortcuts') },
      {
        id: 'undo',
        group: 'Project',
        title: session.undoLabel ? `Undo: ${session.undoLabel}` : 'Undo',
        keys: ['Ctrl+Z'],
        unless: !session.undoLabel && 'There is nothing to undo',
        run: () => session.undo(),
      },
      {
        id: 'redo',
        group: 'Project',
        title: session.redoLabel ? `Redo: ${session.redoLabel}` : 'Redo',
        keys: ['Ctrl+Shift+Z', 'Ctrl+Y'],
        unless: !session.redoLabel && 'There is nothing to redo',
        run: () => session.redo(),
      },
      { id: 'bring-in', group: 'Project', title: 'Bring in files…', run: () => picker.current?.click() },
      { id: 'save-file', group: 'Project', title: 'Save as a project file', run: () => void (window.location.href = `/api/projects/${id}/project.svg`) },
      { id: 'export', group: 'Project', title: `Export ${count(files, 'file')}`, keys: ['Ctrl+Enter'], unless: running ? 'An export is running' : reason, run: () => void start() },
    ],
    [id, navigate, session, session.undoLabel, session.redoLabel, files, reason, running],
  );
  useCommands('project', commands);

  return (
    <header className="flex h-[52px] flex-none items-stretch border-line border-b bg-paper">
      <div className="flex w-[272px] min-w-0 items-center gap-2.5 px-4">
        <Hint text="To the shelf">
          <Link to="/" aria-label="To the shelf" className="rounded-sm">
            <Mark />
          </Link>
        </Hint>
        <div className="min-w-0 flex-1">
          <h1 className="sr-only">{session.name}</h1>
          <TextField
            label="Name of the project"
            value={session.name}
            required
            onChange={rename}
            className="[&_input]:h-[21px] [&_input]:border-transparent [&_input]:bg-transparent [&_input]:px-1 [&_input]:font-bold [&_input]:text-[14.5px] [&_input]:tracking-[-0.01em] [&_input]:hover:border-line-strong [&_input]:focus:bg-white"
          />
          <p role="status" className={`truncate px-1 text-note ${saved.kind === 'waiting' ? 'text-warn' : saved.kind === 'refused' ? 'text-bad' : 'text-ink-3'}`} title={savedWords(saved)}>
            {savedWords(saved)}
          </p>
        </div>
      </div>
      <nav aria-label="Stages" className="mx-auto flex">
        <Stage to="bench" title="Bench" note={stands} />
        <Stage to="proof" title="Proof" note={`${count(files, 'file')}${needsALook > 0 ? `, ${needsALook} to look at` : ''}`} bad={held} />
        <Stage to="deliveries" title="Deliveries" note={last ? `last: ${when(last.finishedAt ?? last.createdAt)}` : 'none yet'} />
      </nav>
      <div className="flex w-[272px] items-center justify-end gap-2.5 px-4">
        {busy ? <BringInProgress /> : <Button onClick={() => picker.current?.click()}>Bring in…</Button>}
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
        {running ? (
          <ExportProgress progress={running} />
        ) : (
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
        )}
      </div>
    </header>
  );
}

function Stage({ to, title, note, bad }: { to: string; title: string; note: string; bad?: boolean }) {
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
}
