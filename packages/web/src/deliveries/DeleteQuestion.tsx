import { useQuery, useQueryClient } from '@tanstack/react-query';
import { AlertDialog } from 'radix-ui';
import { useNavigate } from 'react-router';
import { request } from '../api/client';
import { Button } from '../ui/controls';
import { closedByEscape } from '../ui/escape';
import { useNotice } from '../ui/notices';
import { weight } from '../ui/words';

/** The question before a delivery goes: it says what that frees, and that the project stays as it is. */
export function DeleteQuestion({
  id,
  number,
  projectId,
  onClose,
}: {
  id: string;
  number: number;
  projectId: string;
  onClose(): void;
}) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const tell = useNotice();
  const { data } = useQuery({
    queryKey: ['frees', id],
    queryFn: () => request<{ bytes: number }>(`/deliveries/${id}/frees`),
  });
  const remove = () =>
    void request(`/deliveries/${id}`, { method: 'DELETE' }).then(
      () => {
        tell(`Delivery ${number} was deleted.`);
        navigate(`/projects/${projectId}/deliveries`);
        void queries.invalidateQueries({ queryKey: ['deliveries', projectId] });
      },
      (error: Error) => tell(error.message, { bad: true }),
    );
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <AlertDialog.Content
          onKeyDown={closedByEscape(onClose)}
          className="fixed top-[30vh] left-1/2 z-50 w-[min(420px,92vw)] -translate-x-1/2 border border-ink bg-paper p-5 shadow-[0_12px_40px_rgb(23_27_28/0.25)]"
        >
          <AlertDialog.Title className="font-bold text-[15px]">Delete delivery {number}?</AlertDialog.Title>
          <AlertDialog.Description className="mt-1.5 text-ink-2">
            Its list of files, what was measured and its .zip go for good. The project and other deliveries stay as they
            are.
            {data && ` This frees ${weight(data.bytes)}.`}
          </AlertDialog.Description>
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Keep it</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button kind="danger" onClick={remove}>
                Delete delivery {number}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
