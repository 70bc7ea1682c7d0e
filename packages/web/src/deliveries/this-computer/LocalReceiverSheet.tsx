import { useQuery } from '@tanstack/react-query';
import { ALL_FILES, type Delivery, stepsInShort } from '@tolvik/core';
import { dropLocal, type LocalReceiver, useLocalReceivers } from '../../project/receivers/local-receivers';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { useNotice } from '../../ui/notices';
import { Sheet } from '../../ui/Sheet';
import { Ticked } from '../../ui/Tick';
import { RulesFields } from '../receivers/RulesFields';
import { allowedCounts, buttonWords, StepsList } from '../receivers/StepsList';
import { TakesFields } from '../receivers/TakesFields';
import { changeLocal, isAllowed, specIn } from './local-receivers';
import { deliveryNow, lookLocal, writeLocal } from './write-local';

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
  const { doc } = useSession();
  const tell = useNotice();
  const busy = useLocalReceivers(({ busy: all }) => all[receiver.id]);
  const trouble = useLocalReceivers(({ trouble: all }) => all[receiver.id]);
  const {
    data: steps,
    error,
    refetch,
  } = useQuery({
    queryKey: [
      'local steps',
      receiver.id,
      newest?.id,
      receiver.standing?.at,
      JSON.stringify([receiver.rules, receiver.takes]),
    ],
    enabled: !!newest,
    queryFn: async () => {
      if (!(await isAllowed(receiver))) throw new Error('The browser has to be asked before it may look there again.');
      return stepsInShort(await lookLocal(receiver, await deliveryNow(newest?.id ?? ''), specIn(doc)));
    },
    staleTime: 0,
    retry: false,
  });
  const allowed = { removeLeftovers: receiver.removeLeftovers, replaceForeign: receiver.replaceForeign };
  const { writes, removes } = allowedCounts(steps, allowed);
  const write = async () => {
    if (newest && (await isAllowed(receiver, true))) await writeLocal(receiver, newest.id, allowed, specIn(doc));
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
            Remove receiver
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
      {newest && !steps && !error && <p className="text-ink-2">Looking at the folder…</p>}
      {steps && <StepsList steps={steps} allowed={allowed} onAllow={(fields) => void changeLocal(receiver, fields)} />}
      <Ticked
        className="mt-4 border-line border-t pt-3"
        checked={receiver.follows ?? false}
        onChange={(follows) => void changeLocal(receiver, { follows })}
        label="Follow the project"
        note={`What an edit changes is written a moment later, while the project is open in this browser${receiver.on ? '' : ' and the folder is on'}.`}
      />
      <TakesFields takes={receiver.takes ?? ALL_FILES} onChange={(takes) => void changeLocal(receiver, { takes })} />
      <RulesFields rules={receiver.rules} onChange={(rules) => void changeLocal(receiver, { rules })} />
    </Sheet>
  );
}
