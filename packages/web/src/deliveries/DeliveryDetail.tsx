import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Suspense, useMemo, useRef, useState } from 'react';
import { request } from '../api/client';
import type { Delivery, DeliveryDetail as Detail, FileChange } from '../api/types';
import { useSessionPart } from '../project/session/context';
import { Arriving } from '../ui/Arriving';
import { part } from '../ui/part';
import { DeliveredRow } from './DeliveredRow';
import { DeliveryCounts, type Only } from './DeliveryCounts';
import { DeliveryFilter } from './DeliveryFilter';
import { DeliveryHead } from './DeliveryHead';
import { useAnswers } from './use-answers';

// Comes when it is first opened.
const LargeFile = part(async () => (await import('./large/LargeFile')).LargeFile);

const RANK: Record<FileChange, number> = { changed: 0, renamed: 1, new: 2, gone: 3, same: 4 };

/** One delivery: whether all came out as asked, and what differs from the one before. */
export function DeliveryDetail({ id, others }: { id: string; others: readonly Delivery[] }) {
  const delivery = useSessionPart('delivery');
  const scroller = useRef<HTMLDivElement>(null);
  const [only, setOnly] = useState<Only>(null);
  const [find, setFind] = useState('');
  /** The place in the list of the file that is seen large. */
  const [large, setLarge] = useState<number | null>(null);
  /** The delivery that this one is held against; none for what was delivered before. */
  const [against, setAgainst] = useState<string>('');
  const { data, error, refetch } = useQuery({
    // What is written to the rows as they are made is under the plain key.
    queryKey: against ? ['delivery', id, against] : ['delivery', id],
    queryFn: () => request<Detail>(`/deliveries/${id}${against ? `?with=${against}` : ''}`),
    placeholderData: (before) => before,
  });
  const answers = useAnswers(id, data?.state);
  const files = useMemo(() => {
    const isShown = (file: Detail['files'][number]) => {
      if (only === 'refused') return answers.refused.has(file.path);
      return !only || (only === 'failed' ? file.now?.state === 'failed' : file.change === only);
    };
    const list = (data?.files ?? []).filter(
      (file) => isShown(file) && file.path.toLowerCase().includes(find.trim().toLowerCase()),
    );
    return list.sort(
      (a, b) =>
        Number(b.now?.state === 'failed') - Number(a.now?.state === 'failed') || RANK[a.change] - RANK[b.change],
    );
  }, [data, only, find, answers]);
  const rows = useVirtualizer({
    count: files.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 56,
    overscan: 6,
  });
  if (error)
    return (
      <p role="alert" className="m-auto text-bad">
        {error.message}
      </p>
    );
  if (!data) return <p className="m-auto text-ink-2">Fetching the delivery…</p>;

  const live = delivery?.id === id ? delivery : null;
  const now = {
    state: live?.state ?? data.state,
    made: Math.max(live?.made ?? 0, data.made),
    failed: Math.max(live?.failed ?? 0, data.failed),
    path: live?.path,
  };
  const zippable =
    !!(find || only) &&
    only !== 'refused' &&
    only !== 'failed' &&
    only !== 'gone' &&
    files.some((file) => file.now?.state === 'made');
  return (
    <section aria-label={`Delivery ${data.number}`} className="flex min-w-0 flex-1 flex-col">
      <DeliveryHead
        data={data}
        now={now}
        isAgainstLast={against === ''}
        isNewest={others.find(({ state, byEdit }) => state === 'done' && !byEdit)?.id === id}
        onChange={() => void refetch()}
      />
      <DeliveryCounts
        counts={{ ...data.counts, failed: now.failed, refused: answers.refused.size }}
        only={only}
        onOnly={setOnly}
        note={answers.words}
      />
      <DeliveryFilter
        {...{ id, find, only, against, others, zippable, shown: files.length }}
        onFind={setFind}
        onAgainst={setAgainst}
      />
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
        <div
          role="table"
          aria-label="Files of the delivery"
          aria-rowcount={files.length}
          className="relative"
          style={{ height: rows.getTotalSize() }}
        >
          {rows.getVirtualItems().map(({ index, start, key }) => (
            <DeliveredRow
              key={key}
              file={files[index]}
              refused={answers.refused.get(files[index].path)}
              deliveryId={id}
              top={start}
              index={index}
              onOpen={() => setLarge(index)}
            />
          ))}
        </div>
      </div>
      <Suspense fallback={<Arriving />}>
        {large !== null && files[large] && (
          <LargeFile
            file={files[large]}
            deliveryId={id}
            onStep={(by) => {
              const next = Math.min(files.length - 1, Math.max(0, large + by));
              setLarge(next);
              rows.scrollToIndex(next);
            }}
            onClose={() => setLarge(null)}
          />
        )}
      </Suspense>
    </section>
  );
}
