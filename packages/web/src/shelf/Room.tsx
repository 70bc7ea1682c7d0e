import { useQuery } from '@tanstack/react-query';
import { upper, weight } from '../ui/words';

type Health = { trouble?: string; room: { usedBytes: number | null; freeBytes: number | null } };

/** How much room all projects take, and how much there is; what is wrong, where something is. */
export function Room() {
  const { data } = useQuery({
    queryKey: ['health'],
    queryFn: () => fetch('/api/health').then((response) => response.json() as Promise<Health>),
    staleTime: 30_000,
    refetchInterval: 60_000,
  });
  if (!data?.room) return <span className="mr-auto" />;
  const { usedBytes, freeBytes } = data.room;
  return (
    <p role="status" className={`mr-auto pl-2 text-note ${data.trouble ? 'text-bad' : 'text-ink-3'}`}>
      {data.trouble ? `! ${upper(data.trouble)}. ` : ''}
      {usedBytes !== null && `${weight(usedBytes)} used`}
      {freeBytes !== null && `, ${weight(freeBytes)} free`}
    </p>
  );
}
