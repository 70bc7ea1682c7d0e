import { useQuery } from '@tanstack/react-query';
import type { Delivery } from '@tolvik/core';
import { dropLocal, type LocalReceiver, useLocalReceivers } from '../../project/local-receivers';
import { Button } from '../../ui/controls';
import { useNotice } from '../../ui/notices';
import { Sheet } from '../../ui/Sheet';
import { RulesFields } from '../receivers/RulesFields';
import { buttonWords, StepsList } from '../receivers/StepsList';
import { changeLocal, isAllowed, lookLocal, writeLocal } from './local-receivers';

const MOST_NAMED = 200;
const named = (paths: readonly string[]) => ({ count: paths.length, first: paths.slice(0, MOST_NAMED) });

/** What would be written to a folder of this computer, before it is done; and what may be done there with every export. */
export function LocalReceiverSheet({
  receiver,
  newest,
  onClose,
}: {
  receiver: LocalReceiver;
  newest: Delivery | undefined;
  onClose(): void;
}) {
  const tell = useNotice();
  const busy = useLocalReceivers(({ busy: all }) => all[receiver.id]);
  const trouble = useLocalReceivers(({ trouble: all }) => all[receiver.id]);
  const { data, error, refetch } = useQuery({
    queryKey: ['local steps', receiver.id, newest?.id, receiver.standing?.at, JSON.stringify(receiver.rules)],
    enabled: !!newest,
    queryFn: async () => {
      if (!(await isAllowed(receiver))) throw new Error('The browser has to be asked before it may look there again.');
      return lookLocal(receiver, newest?.id ?? '');
    },
    staleTime: 0,
    retry: false,
  });
  const allowed = { removeLeftovers: receiver.removeLeftovers, replaceForeign: receiver.replaceForeign };
  const steps = data?.steps;
  const foreign = (wanted: boolean) =>
    named((steps?.foreign ?? []).flatMap((each) => (each.wanted === wanted ? [each.path] : [])));
  const writes = steps
    ? steps.fresh.length + steps.changed.length + (allowed.replaceForeign ? foreign(true).count : 0)
    : 0;
  const removes = steps && allowed.removeLeftovers ? steps.leftovers.length : 0;
  const write = async () => {
    if (newest && (await isAllowed(receiver, true))) await writeLocal(receiver, newest.id, allowed);
    await refetch();
  };
  const ask = async () => {
    if (!(await isAllowed(receiver, true))) tell('The browser was not allowed to write there.', { bad: true });
    await refetch();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title={receiver.name}
      about="A folder of this computer; other people and other browsers do not see it here."
      footer={
        <>
          <Button
            className="mr-auto"
            disabled={!!busy}
            onClick={() => void dropLocal(receiver).then(onClose)}
            title="Its files stay where they are"
          >
            Have it no longer
          </Button>
          <Button onClick={onClose}>Close</Button>
          {error ? (
            <Button kind="go" onClick={() => void ask()}>
              Ask the browser
            </Button>
          ) : (
            <Button kind="go" disabled={!!busy || writes + removes === 0} onClick={() => void write()}>
              {busy ? `Writing: ${busy}` : buttonWords(writes, removes)}
            </Button>
          )}
        </>
      }
    >
      {trouble && (
        <p role="alert" className="mb-3 border-bad border-l-2 bg-bad-pale px-3 py-1.5 text-bad">
          The last writing did not come to its end: {trouble}.
        </p>
      )}
      {error && (
        <p role="alert" className="text-bad">
          {error.message}
        </p>
      )}
      {!newest && <p className="text-ink-2">Nothing was exported yet; the next export goes there.</p>}
      {newest && !data && !error && <p className="text-ink-2">Looking at the folder…</p>}
      {data && steps && (
        <StepsList
          steps={{
            fresh: named(steps.fresh.map(({ path }) => path)),
            changed: named(steps.changed.map(({ path }) => path)),
            same: steps.same.length,
            leftovers: named(steps.leftovers),
            foreign: foreign(true),
            leftAlone: foreign(false),
            refused: { count: data.refused.length, first: data.refused.slice(0, MOST_NAMED) },
          }}
          allowed={allowed}
          onAllow={(fields) => void changeLocal(receiver, fields)}
        />
      )}
      <RulesFields rules={receiver.rules} onChange={(rules) => void changeLocal(receiver, { rules })} />
    </Sheet>
  );
}
