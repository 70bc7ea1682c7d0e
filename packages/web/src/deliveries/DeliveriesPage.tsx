import { type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query';
import { Suspense, useEffect, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { request } from '../api/client';
import type { Delivery, DeliveryDetail as DeliveryDetailOf } from '../api/types';
import { askAnew } from '../project/files/ask-anew';
import { useOpenSession, useSessionPart } from '../project/session/context';
import { Arriving } from '../ui/Arriving';
import { Button } from '../ui/controls';
import { part } from '../ui/part';
import { useSome } from '../ui/use-some';
import { count, weight, when } from '../ui/words';
import { DeliveryDetail } from './DeliveryDetail';
import { ReceiverList } from './receivers/ReceiverList';
import { SourceSection } from './source/SourceSection';

// Comes when it is first opened.
const FiguresSheet = part(async () => (await import('./figures/FiguresSheet')).FiguresSheet);

/** The stage where exports are kept, verified and compared. */
export function DeliveriesPage() {
  const { id } = useOpenSession();
  const live = useSessionPart('delivery');
  const describedTold = useSessionPart('describedTold');
  const queries = useQueryClient();
  const { deliveryId } = useParams();
  const [figures, setFigures] = useState(false);
  // Others export too, also before this window listened.
  const { data, error } = useQuery({
    queryKey: ['deliveries', id],
    refetchOnMount: 'always',
    queryFn: () => request<{ deliveries: Delivery[] }>(`/projects/${id}/deliveries`),
  });
  const list = data?.deliveries ?? [];
  const shown = deliveryId ?? list[0]?.id;
  const { some, end } = useSome(
    list,
    list.findIndex((each) => each.id === shown),
  );
  const current = useRef<HTMLAnchorElement>(null);
  const isHere = data !== undefined;
  // Whoever comes by an address sees where in the list it is.
  useEffect(() => {
    if (isHere && deliveryId) current.current?.scrollIntoView({ block: 'nearest' });
  }, [isHere, deliveryId]);
  const unknown = !!live && !!data && !data.deliveries.some((each) => each.id === live.id);
  useEffect(() => {
    if (unknown) void askAnew(queries, ['deliveries', id]);
  }, [unknown, queries, id]);
  useEffect(() => {
    if (describedTold === 0) return;
    void askAnew(queries, ['deliveries', id]);
    void askAnew(queries, ['delivery']);
  }, [describedTold, queries, id]);
  useEffect(() => {
    if (!live) return;
    if (live.state === 'running' && live.positions) void fetchRows(queries, live.id, live.positions);
    else void askAnew(queries, ['delivery', live.id]);
  }, [live, queries]);

  return (
    <main className="flex min-h-0 flex-1">
      <aside
        aria-label="Source, receivers and deliveries"
        className="flex w-[272px] flex-none flex-col overflow-y-auto border-line border-r bg-paper"
      >
        {error && (
          <p role="alert" className="p-3.5 text-bad">
            {error.message}
          </p>
        )}
        <SourceSection />
        <ReceiverList deliveries={list} />
        <div className="flex items-center justify-between px-3.5 pt-2.5 pb-1.5">
          <h2 className="heading">Deliveries</h2>
          {list.filter(({ state, whole }) => state === 'done' && whole).length > 1 && (
            <Button small onClick={() => setFigures(true)}>
              In numbers…
            </Button>
          )}
        </div>
        <Suspense fallback={<Arriving />}>{figures && <FiguresSheet onClose={() => setFigures(false)} />}</Suspense>
        {data && list.length === 0 && <p className="p-3.5 text-ink-2">Nothing was exported yet.</p>}
        <ul>
          {some.map((each, i) => {
            const now = live?.id === each.id ? { ...each, ...live } : each;
            return (
              <li key={each.id}>
                <Link
                  // The newest that an edit made gives way to the next: what is looked at is the newest.
                  to={`/projects/${id}/deliveries${each.byEdit && i === 0 ? '' : `/${each.id}`}`}
                  ref={each.id === shown ? current : undefined}
                  aria-current={each.id === shown ? 'page' : undefined}
                  className={`block border-line border-b px-3.5 py-2.5 leading-[1.4] focus-visible:-outline-offset-2 ${each.id === shown ? 'bg-spruce-pale' : 'hover:bg-rail'}`}
                >
                  <span className="flex justify-between gap-2">
                    <strong className="min-w-0 truncate font-semibold" title={each.title || undefined}>
                      No. {each.number}
                      {each.title && `: ${each.title}`}
                    </strong>
                    <span className="shrink-0 text-ink-2 text-note">{when(each.createdAt)}</span>
                  </span>
                  <span className="block text-ink-2">
                    {now.state === 'running'
                      ? `${now.made + now.failed} of ${now.total} files`
                      : now.state === 'stopped'
                        ? `stopped at ${now.made} of ${now.total}`
                        : `${count(now.total, 'file')}, ${weight(each.bytes)}`}
                  </span>
                  {each.byEdit && <span className="block text-ink-3 text-note">made by edits, to keep in step</span>}
                  {now.failed > 0 && <span className="block text-bad">! {count(now.failed, 'file')} failed</span>}
                </Link>
              </li>
            );
          })}
        </ul>
        {some.length < list.length && <div ref={end} className="min-h-14 flex-none" />}
      </aside>
      {shown ? (
        <DeliveryDetail key={shown} id={shown} others={list} />
      ) : (
        <div className="m-auto text-center">
          <h2 className="font-bold text-[15px]">No deliveries yet</h2>
          <p className="mt-1 text-ink-2">
            An export is kept here with every file measured after writing, and compared with the one before.
          </p>
        </div>
      )}
    </main>
  );
}

/** Takes over the rows of a delivery that changed; without the others there is nothing to put them in. */
async function fetchRows(queries: QueryClient, id: string, positions: readonly number[]): Promise<void> {
  if (!queries.getQueryData(['delivery', id])) return;
  const { rows } = await request<{ rows: NonNullable<DeliveryDetailOf['files'][number]['now']>[] }>(
    `/deliveries/${id}/rows?positions=${positions.join(',')}`,
  ).catch(() => ({ rows: [] }));
  const byPosition = new Map(rows.map((row) => [row.position, row]));
  queries.setQueryData<DeliveryDetailOf>(
    ['delivery', id],
    (known) =>
      known && {
        ...known,
        files: known.files.map((file) => ({ ...file, now: byPosition.get(file.now?.position ?? -1) ?? file.now })),
      },
  );
}
