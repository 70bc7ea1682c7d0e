import { useQueryClient } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { Suspense, useEffect, useState } from 'react';
import { Navigate, Route, Routes, useParams } from 'react-router';
import { ApiError } from '../api/client';
import { Checker } from '../checker/checker';
import { CommandCentre } from '../commands/CommandCentre';
import { settleTyped } from '../commands/typing';
import { ProjectHeader } from '../header/ProjectHeader';
import { WhichFilesHost } from '../outputs/WhichFilesHost';
import { Painter } from '../painter/painter';
import { PainterContext } from '../painter/use-painter';
import { BringInQuestions } from '../project/bring-in/BringInQuestions';
import { DropFiles } from '../project/bring-in/DropFiles';
import { serverMade } from '../project/files/made';
import { WithFindings } from '../project/findings/findings';
import { SessionContext } from '../project/session/context';
import { expireFor } from '../project/session/expire';
import { Session } from '../project/session/session';
import { askForFirstPictures } from '../proof/first-pictures';
import { keepFocus } from '../ui/keep-focus';
import { Lost } from '../ui/Lost';
import { useNotice } from '../ui/notices';
import { fetchParts, part } from '../ui/part';
import { STAGES } from './stages';

const LocalFollowers = part(async () => (await import('../deliveries/this-computer/LocalFollowers')).LocalFollowers);

/** Opens a project and keeps it open while one goes between its stages. */
export function ProjectPage() {
  const { projectId = '' } = useParams();
  const tell = useNotice();
  const queries = useQueryClient();
  const [open, setOpen] = useState<{ session: Session; painter: Painter; checker: Checker } | null>(null);
  const [trouble, setTrouble] = useState<Error | null>(null);
  /** Whether what nobody waits for may come. */
  const [settled, setSettled] = useState(false);

  useEffect(() => {
    const session = new Session(projectId);
    const painter = new Painter();
    const checker = new Checker(() => session.doc.all());
    session.onNotice = (words, bad = true) => tell(words, { bad });
    painter.onTrouble = (words) => tell(words, { bad: true });
    let live = true;
    let retry: ReturnType<typeof setTimeout> | undefined;
    let rest: ReturnType<typeof setTimeout> | undefined;
    // A project is open once the stage that one is in is here, too.
    const stage = STAGES.find(({ route }) => location.pathname.split('/')[3] === route) ?? STAGES[0];
    const code = stage.Page.fetch();
    const start = () =>
      Promise.all([session.open(), code]).then(
        () => {
          if (!live) return;
          painter.open(() => session.doc.all());
          session.onApplied = (change, before) => {
            painter.apply(change);
            checker.apply(change);
            expireFor(painter, session.doc, change, before);
          };
          setTrouble(null);
          setOpen({ session, painter, checker });
          rest = setTimeout(() => {
            void fetchTheRest();
            setSettled(true);
          }, REST_AFTER_MS);
        },
        (error: Error) => {
          if (!live) return;
          setTrouble(error);
          if (error instanceof ApiError && error.isAway) retry = setTimeout(start, 2000);
        },
      );
    // What the server knows of files is fetched beside the records, not after them.
    if (location.pathname.endsWith('/proof')) void askForFirstPictures(projectId, queries).catch(() => {});
    else void queries.prefetchQuery(serverMade(projectId));
    void start();
    const leave = () => {
      settleTyped();
      session.leave();
    };
    window.addEventListener('pagehide', leave);
    return () => {
      live = false;
      window.removeEventListener('pagehide', leave);
      clearTimeout(retry);
      clearTimeout(rest);
      session.close();
      painter.close();
      checker.close();
      setOpen(null);
      void queries.invalidateQueries({ queryKey: ['shelf'] });
    };
  }, [projectId, tell, queries]);

  useEffect(keepFocus, []);

  if (trouble) throwIfFinal(trouble);
  if (!open) {
    return (
      <main className="flex h-full flex-col items-center justify-center gap-2" aria-busy={!trouble}>
        <h1 className="font-semibold">{trouble ? 'The project cannot be opened yet' : 'Opening the project…'}</h1>
        {trouble && <p className="text-ink-2">{trouble.message}. It is tried again every two seconds.</p>}
      </main>
    );
  }
  return (
    <Tooltip.Provider>
      <SessionContext.Provider value={open.session}>
        <PainterContext.Provider value={open.painter}>
          <WithFindings checker={open.checker}>
            <DropFiles>
              <ProjectHeader stages={STAGES} />
              <CommandCentre />
              <BringInQuestions />
              <WhichFilesHost />
              <Suspense fallback={null}>{settled && <LocalFollowers />}</Suspense>
              <Suspense fallback={<Opening />}>
                <Routes>
                  <Route index element={<Navigate to={STAGES[0].route} replace />} />
                  {STAGES.flatMap(({ route, Page, inside = [] }) =>
                    ['', ...inside].map((path) => (
                      <Route key={`${route}/${path}`} path={path ? `${route}/${path}` : route} element={<Page />} />
                    )),
                  )}
                  <Route path="*" element={<Lost />} />
                </Routes>
              </Suspense>
            </DropFiles>
          </WithFindings>
        </PainterContext.Provider>
      </SessionContext.Provider>
    </Tooltip.Provider>
  );
}

/** By then what one is looking at is there. */
const REST_AFTER_MS = 1000;

/** Fetches the code of what has not been gone to yet, so that it is at hand at once, and while the server is away. */
async function fetchTheRest(): Promise<void> {
  await Promise.all(STAGES.map(({ Page }) => Page.fetch()));
  await fetchParts();
}

/** While the code of a stage is on its way. */
const Opening = () => <main className="min-h-0 flex-1" aria-busy />;

function throwIfFinal(error: Error): void {
  if (!(error instanceof ApiError && error.isAway)) throw error;
}
