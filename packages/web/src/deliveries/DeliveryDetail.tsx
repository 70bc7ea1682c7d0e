import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { request } from '../api/client';
import type { Delivery, DeliveryDetail as Detail, FileChange } from '../api/types';
import { useSession, useSessionPart } from '../project/context';
import { Button } from '../ui/controls';
import { useNotice } from '../ui/notices';
import { count, weight } from '../ui/words';
import { DeleteDelivery } from './DeleteDelivery';
import { DeliveredRow } from './DeliveredRow';
import { DeliveryWords } from './DeliveryWords';
import { useAnswers } from './use-answers';

const KINDS: { change: FileChange; words: string; colour: string }[] = [
  { change: 'same', words: 'the same', colour: 'text-ink-3' },
  { change: 'changed', words: 'changed', colour: 'text-ochre' },
  { change: 'renamed', words: 'renamed', colour: 'text-ochre' },
  { change: 'new', words: 'new', colour: 'text-spruce' },
  { change: 'gone', words: 'no longer made', colour: 'text-bad' },
];
const RANK: Record<FileChange, number> = { changed: 0, renamed: 1, new: 2, gone: 3, same: 4 };

/** One delivery: whether all came out as asked, and what differs from the one before. */
export function DeliveryDetail({ id, others }: { id: string; others: readonly Delivery[] }) {
  const delivery = useSessionPart('delivery');
  const tell = useNotice();
  const scroller = useRef<HTMLDivElement>(null);
  const [only, setOnly] = useState<FileChange | 'failed' | 'refused' | null>(null);
  const [find, setFind] = useState('');
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
  const state = live?.state ?? data.state;
  const made = Math.max(live?.made ?? 0, data.made);
  const failed = Math.max(live?.failed ?? 0, data.failed);
  const act = (what: string) =>
    void request(`/deliveries/${id}/${what}`, { method: 'POST' })
      .then(() => refetch())
      .catch((problem: Error) => tell(problem.message, { bad: true }));
  const right = data.files.filter(
    ({ now }) =>
      now?.state === 'made' &&
      now.measured &&
      Math.abs(now.measured.widthPx - now.widthPx) < 0.01 &&
      Math.abs(now.measured.heightPx - now.heightPx) < 0.01,
  ).length;
  /** The deliveries that these files are compared with. */
  const earlier = new Set(data.files.flatMap(({ before }) => before?.delivery.number ?? []));
  const differ = data.counts.changed + data.counts.new + data.counts.renamed;
  const title =
    state === 'running'
      ? `Delivery ${data.number} is being written`
      : state === 'stopped'
        ? `Delivery ${data.number} was stopped`
        : failed > 0
          ? `Delivery ${data.number} is written, ${count(failed, 'file')} failed`
          : `Delivery ${data.number} is written and measured`;
  return (
    <section aria-label={`Delivery ${data.number}`} className="flex min-w-0 flex-1 flex-col">
      <div className="flex items-start gap-3 border-line border-b px-5 py-3.5">
        <div className="min-w-0 flex-1">
          <h2 className="font-bold text-[20px] tracking-[-0.02em]">{title}</h2>
          <p className="mt-1 text-ink-2">
            {state === 'done' ? (
              <>
                {!data.whole && 'Some of the files, as they were chosen. '}
                {right} of {count(data.total, 'file')} came out at the size that was asked.
                {data.before &&
                  ` ${data.counts.same} ${data.counts.same === 1 ? 'is' : 'are'} byte for byte what ${earlier.size === 1 ? `No. ${[...earlier][0]} held` : 'was delivered last'}.`}{' '}
                {weight(data.bytes)} in all.
              </>
            ) : (
              `${made + failed} of ${count(data.total, 'file')} so far. ${state === 'stopped' ? 'What was made is kept.' : live?.path ? `Now at ${live.path}.` : ''}`
            )}
          </p>
          <DeliveryWords delivery={data} />
        </div>
        {state === 'running' && (
          <Button kind="danger" onClick={() => act('stop')}>
            Stop
          </Button>
        )}
        {state === 'stopped' && <Button onClick={() => act('go-on')}>Go on from here</Button>}
        {state !== 'running' && <OpenAsItWas id={id} number={data.number} />}
        {state !== 'running' && <DeleteDelivery id={id} number={data.number} projectId={data.projectId} />}
        {differ > 0 && data.counts.same > 0 && state !== 'running' && (
          <a
            href={`/api/deliveries/${id}/archive.zip?only=different`}
            download
            className="inline-flex h-[30px] items-center rounded-md border border-line-strong bg-white px-3 font-semibold text-[12.5px] hover:bg-rail"
          >
            Zip of the {differ} that {differ === 1 ? 'differs' : 'differ'}
          </a>
        )}
        {made > 0 && state !== 'running' && (
          <a
            href={`/api/deliveries/${id}/archive.zip`}
            download
            className="inline-flex h-[30px] items-center rounded-md border border-spruce bg-spruce px-3 font-semibold text-[12.5px] text-white"
          >
            Download .zip
          </a>
        )}
      </div>
      <div className="flex items-center gap-7 border-line border-b px-5 py-2.5">
        {KINDS.map(({ change, words, colour }) => (
          <button
            key={change}
            type="button"
            aria-pressed={only === change}
            disabled={data.counts[change] === 0}
            onClick={() => setOnly(only === change ? null : change)}
            className={`rounded-sm px-1 ${only === change ? 'bg-rail' : ''} disabled:opacity-45`}
          >
            <span className={`mr-1 font-bold text-[20px] ${colour}`}>{data.counts[change]}</span>{' '}
            <span className="text-ink-2">{words}</span>
          </button>
        ))}
        {failed > 0 && (
          <button
            type="button"
            aria-pressed={only === 'failed'}
            onClick={() => setOnly(only === 'failed' ? null : 'failed')}
            className="text-bad"
          >
            <span className="mr-1 font-bold text-[20px]">! {failed}</span>failed
          </button>
        )}
        {answers.refused.size > 0 && (
          <button
            type="button"
            aria-pressed={only === 'refused'}
            onClick={() => setOnly(only === 'refused' ? null : 'refused')}
            className={`rounded-sm px-1 text-bad ${only === 'refused' ? 'bg-rail' : ''}`}
          >
            <span className="mr-1 font-bold text-[20px]">{answers.refused.size}</span> <span>refused</span>
          </button>
        )}
        {answers.words && <span className="ml-auto text-ink-2">{answers.words}</span>}
      </div>
      <div className="flex items-center gap-3 border-line border-b px-5 py-2">
        <input
          className="field w-64"
          aria-label="Find a file of this delivery"
          placeholder="Find a path"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        {(find || only) && <span className="text-ink-2">{count(files.length, 'file')}</span>}
        {others.length > 1 && (
          <label className="ml-auto flex items-center gap-2 text-ink-2">
            held against
            <select
              className="field max-w-[220px]"
              aria-label="Held against"
              value={against}
              onChange={(event) => setAgainst(event.target.value)}
            >
              <option value="">what was delivered before</option>
              {others
                .filter((other) => other.id !== id && other.state === 'done')
                .map((other) => (
                  <option key={other.id} value={other.id}>
                    No. {other.number}
                    {other.title && `: ${other.title}`}
                  </option>
                ))}
            </select>
          </label>
        )}
      </div>
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
            />
          ))}
        </div>
      </div>
    </section>
  );
}

/** The project as it was when a delivery was made, as a project of its own; the one that is open stays as it is. */
function OpenAsItWas({ id, number }: { id: string; number: number }) {
  const session = useSession();
  const navigate = useNavigate();
  const tell = useNotice();
  const open = async () => {
    try {
      const name = `${session.name}, as in delivery ${number}`.slice(0, 300);
      const project = await request<{ id: string }>('/projects', { method: 'POST', json: { name, asInDelivery: id } });
      navigate(`/projects/${project.id}/bench`);
    } catch (problem) {
      tell((problem as Error).message, { bad: true });
    }
  };
  return (
    <Button onClick={() => void open()} title="As a project of its own; this one stays as it is">
      Open as it was
    </Button>
  );
}
