import { request } from '../api/client';
import type { DeliveryDetail } from '../api/types';
import { Button } from '../ui/controls';
import { useNotice } from '../ui/notices';
import { count, weight } from '../ui/words';
import { AsItWas } from './as-it-was/AsItWas';
import { DeleteDelivery } from './DeleteDelivery';
import { DeliveryWords } from './DeliveryWords';
import { Downloads } from './Downloads';
import { HandOver } from './HandOver';

/** What came of a delivery in a sentence, what it is called, and what can be done with it. */
export function DeliveryHead({
  data,
  now: { state, made, failed, path },
  isAgainstLast,
  isNewest,
  onChange,
}: {
  data: DeliveryDetail;
  /** How far it is, which may be further than what was fetched. */
  now: { state: DeliveryDetail['state']; made: number; failed: number; path?: string };
  /** Whether it is held against what was delivered before: the zip of what differs is of that. */
  isAgainstLast: boolean;
  /** Whether receivers have it, or a newer one of some files, already. */
  isNewest: boolean;
  onChange(): void;
}) {
  const { id } = data;
  const tell = useNotice();
  const act = (what: string) =>
    void request(`/deliveries/${id}/${what}`, { method: 'POST' })
      .then(() => onChange())
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
  const wasThere = isAgainstLast ? 'was delivered last' : `there was after No. ${data.before?.number}`;
  const held = earlier.size === 1 ? `No. ${[...earlier][0]} held` : wasThere;
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
    <div className="flex items-start gap-3 border-line border-b px-5 py-3.5">
      <div className="min-w-0 flex-1">
        <h2 className="font-bold text-[20px] tracking-[-0.02em]">{title}</h2>
        <p className="mt-1 text-ink-2">
          {state === 'done' ? (
            <>
              {!data.whole && 'Some of the files, as they were chosen. '}
              {right} of {count(data.total, 'file')} came out at the size that was asked.
              {data.before &&
                ` ${data.counts.same} ${data.counts.same === 1 ? 'is' : 'are'} byte for byte what ${held}.`}{' '}
              {weight(data.bytes)} in all.
            </>
          ) : (
            `${made + failed} of ${count(data.total, 'file')} so far. ${state === 'stopped' ? 'What was made is kept.' : path ? `Now at ${path}.` : ''}`
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
      {state === 'done' && !isNewest && <HandOver id={id} number={data.number} />}
      {state !== 'running' && <AsItWas delivery={data} />}
      {state !== 'running' && <DeleteDelivery id={id} number={data.number} projectId={data.projectId} />}
      {state !== 'running' && (
        <Downloads id={id} made={made} differ={isAgainstLast && data.counts.same > 0 ? differ : 0} />
      )}
    </div>
  );
}
