import { useQuery } from '@tanstack/react-query';
import { toldInWords } from '@tolvik/core';
import { useState } from 'react';
import { Button, Choice } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { count, when } from '../../ui/words';
import { useSession } from '../session/context';
import { type Arrival, arrivalsOf, showArrivals, useArrivals } from './arrivals';

type Line = Arrival['report'][number];
type Which = 'all' | 'told';

const isTold = ({ problem, dropped }: Line) => !!problem || dropped.length > 0;

/** What came of bringing files in, each by itself: in, or refused and why, and what was left out of it. */
export function ArrivalsSheet() {
  const { id } = useSession();
  const times = useArrivals(({ count }) => count);
  const { data = [] } = useQuery({ queryKey: ['arrivals', id, times], queryFn: () => arrivalsOf(id), gcTime: 0 });
  const [which, setWhich] = useState<Which>('told');
  const anyTold = data.some(({ report }) => report.some(isTold));
  const shown = anyTold ? which : 'all';
  const close = () => showArrivals(false);
  return (
    <Sheet
      open
      onClose={close}
      wide
      title="What came in"
      about="Each time that files were brought into this project with this browser."
      footer={<Button onClick={close}>Close</Button>}
    >
      {data.length === 0 && <p className="text-ink-2">Nothing was brought in with this browser yet.</p>}
      {anyTold && (
        <div className="mb-3">
          <Choice
            label="Which files"
            value={shown}
            onChange={setWhich}
            options={[
              { value: 'told', title: 'Refused or changed' },
              { value: 'all', title: 'All' },
            ]}
          />
        </div>
      )}
      {data.map(({ at, report }) => {
        const lines = shown === 'all' ? report : report.filter(isTold);
        const refused = report.filter(({ problem }) => problem).length;
        return (
          <section key={at} className="mb-4">
            <h3 className="heading mb-1">
              {when(new Date(at).toISOString())}: {count(report.length - refused, 'file')} came in
              {refused > 0 && `, ${refused} refused`}
            </h3>
            {lines.length === 0 ? (
              <p className="text-ink-2">Nothing was left out.</p>
            ) : (
              <ul className="border border-line bg-white">
                {lines.map((line, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: two files of one name can come at once
                  <FileLine key={i} line={line} />
                ))}
              </ul>
            )}
          </section>
        );
      })}
    </Sheet>
  );
}

function FileLine({ line: { file, problem, dropped } }: { line: Line }) {
  return (
    <li className="grid grid-cols-[220px_1fr] gap-3 border-line border-b px-3 py-1.5 last:border-b-0">
      <span className="truncate font-mono text-[11.5px]" title={file}>
        {file}
      </span>
      <span>
        {problem ? (
          <>
            <span className="text-bad">Refused: {problem.message}.</span>
            {typeof problem.accepted === 'string' && (
              <span className="block text-ink-2 text-note">Accepted: {problem.accepted}.</span>
            )}
          </>
        ) : dropped.length > 0 ? (
          <>In, without {dropped.map(toldInWords).join('; ')}.</>
        ) : (
          <span className="text-ink-2">In.</span>
        )}
      </span>
    </li>
  );
}
