import { request } from '../api/client';
import { Button } from '../ui/controls';
import { useNotice } from '../ui/notices';
import { useReceivers } from './receivers/receivers';

/** Brings the receivers back to what an earlier delivery held; not there where no receiver is on. */
export function HandOver({ id, number }: { id: string; number: number }) {
  const tell = useNotice();
  const { data } = useReceivers();
  // Those that follow the project hold what there is now.
  const on = data?.receivers.filter((receiver) => receiver.on && !receiver.follows) ?? [];
  if (on.length === 0) return null;
  const names = on.map(({ name }) => name).join(', ');
  const handOver = () =>
    void request(`/deliveries/${id}/hand-over`, { method: 'POST' }).then(
      () => tell(`Delivery ${number} goes to ${names} again.`),
      (error: Error) => tell(error.message, { bad: true }),
    );
  return (
    <Button onClick={handOver} title={`Brings ${names} back to what it held`}>
      Hand over again
    </Button>
  );
}
