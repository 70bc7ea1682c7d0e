import { memo } from 'react';
import { NavLink, useParams } from 'react-router';
import type { Stage } from './stage';

/** The stages, each with what stands in it. */
export function Stages({ stages }: { stages: readonly Stage[] }) {
  return (
    <nav aria-label="Stages" className="mx-auto flex">
      {stages.map((stage) => (
        <StageTab key={stage.route} stage={stage} />
      ))}
    </nav>
  );
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
        `relative flex min-w-[150px] flex-col justify-center border-line border-l px-[22px] max-[900px]:min-w-0 max-[900px]:px-2.5 last:border-r focus-visible:-outline-offset-2 ${isActive ? 'bg-white after:absolute after:inset-x-0 after:-bottom-px after:h-[3px] after:bg-ink' : 'text-ink-2 hover:bg-rail'}`
      }
    >
      <strong className="font-semibold text-[13.5px]">{title}</strong>
      <span
        className={`truncate text-note max-[900px]:max-w-[84px] max-[700px]:hidden ${bad ? 'text-bad' : 'text-ink-3'}`}
      >
        {note}
      </span>
    </NavLink>
  );
});
