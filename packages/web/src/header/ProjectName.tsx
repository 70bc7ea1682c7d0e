import { request } from '../api/client';
import { useSession, useSessionPart } from '../project/session/context';
import type { SavedState } from '../project/session/session';
import { useNotice } from '../ui/notices';
import { TextField } from '../ui/TextField';
import { clock } from '../ui/words';

/** The project's name, changed where it stands. */
export function ProjectName() {
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

/** Whether everything is saved, and why not. */
export function SavedWords() {
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
