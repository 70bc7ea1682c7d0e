import { useQuery } from '@tanstack/react-query';
import type { Change, PieceSince } from '@tolvik/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { request } from '../../api/client';
import type { DeliveryDetail } from '../../api/types';
import { useOpenSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { useNotice } from '../../ui/notices';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';
import { SinceRow } from './SinceRow';

type Answer = { version: number; pieces: PieceSince[] };

/** Which pieces are not as they were when a delivery was made, with the way back for each, or all of it as a project of its own. */
export function AsItWasSheet({ delivery, onClose }: { delivery: DeliveryDetail; onClose(): void }) {
  const { id, number } = delivery;
  const session = useOpenSession();
  const navigate = useNavigate();
  const tell = useNotice();
  const [busy, setBusy] = useState(false);
  const { data, error, refetch } = useQuery({
    queryKey: ['since', id],
    queryFn: async () => {
      await session.whenSaved();
      return request<Answer>(`/deliveries/${id}/since`);
    },
    staleTime: 0,
    gcTime: 0,
  });
  const pieces = data?.pieces ?? [];
  const mendable = pieces.filter(canComeBack);
  const carryOut = async (work: () => Promise<void>) => {
    setBusy(true);
    try {
      await work();
    } catch (problem) {
      tell((problem as Error).message, { bad: true });
    } finally {
      setBusy(false);
    }
  };
  const takeBack = (wanted: readonly PieceSince[]) =>
    carryOut(async () => {
      const pieceIds = wanted.map((piece) => piece.id);
      const json = { pieceIds };
      const path = `/deliveries/${id}/take-back`;
      await session.comesOf(async () =>
        session.takeIn(await request<{ version: number; change: Change | null }>(path, { method: 'POST', json })),
      );
      await refetch();
      const what = wanted.length === 1 ? wanted[0].name : count(wanted.length, 'piece');
      tell(`${what} ${wanted.length === 1 ? 'is' : 'are'} as in delivery ${number} again.`);
    });
  const open = () =>
    carryOut(async () => {
      const name = `${session.name}, as in delivery ${number}`.slice(0, 300);
      const project = await request<{ id: string }>('/projects', { method: 'POST', json: { name, asInDelivery: id } });
      navigate(`/projects/${project.id}/bench`);
    });
  return (
    <Sheet
      open
      wide
      onClose={onClose}
      title={`Bring back what delivery ${number} was made of`}
      about="What is taken back keeps its name, its place and its files of today. One undo takes it away again."
      footer={
        <>
          <Button className="mr-auto" disabled={busy} onClick={() => void open()}>
            Open it as a project of its own
          </Button>
          <Button onClick={onClose}>Close</Button>
          {mendable.length > 1 && (
            <Button kind="go" disabled={busy} onClick={() => void takeBack(mendable)}>
              Take back all {mendable.length}
            </Button>
          )}
        </>
      }
    >
      {error ? (
        <p role="alert" className="text-bad">
          {error.message}
        </p>
      ) : !data ? (
        <p className="text-ink-2">Looking at every piece…</p>
      ) : pieces.length === 0 ? (
        <p className="text-ink-2">Every piece is as it was then.</p>
      ) : (
        <>
          <p aria-hidden className="heading flex gap-4">
            <span className="w-12">Then</span>
            <span className="w-12">Now</span>
          </p>
          <ul aria-label="What differs" className="border-line border-t">
            {pieces.map((piece) => (
              <SinceRow key={piece.id} piece={piece} delivery={delivery} version={data.version}>
                {canComeBack(piece) && (
                  <Button
                    small
                    disabled={busy}
                    aria-label={`${piece.state === 'gone' ? 'Bring back' : 'Take back'} ${piece.name}`}
                    onClick={() => void takeBack([piece])}
                  >
                    {piece.state === 'gone' ? 'Bring back' : 'Take back'}
                  </Button>
                )}
              </SinceRow>
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}

/** Whether there is anything that taking it back would change. */
const canComeBack = ({ state, parts }: PieceSince): boolean =>
  state === 'gone' || parts.some((each) => each !== 'name');
