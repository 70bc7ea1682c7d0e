import { useNavigate } from 'react-router';
import { request } from '../api/client';
import { useSession } from '../project/context';
import { Button } from '../ui/controls';
import { useNotice } from '../ui/notices';

/** The project as it was when a delivery was made, as a project of its own; the one that is open stays as it is. */
export function OpenAsItWas({ id, number }: { id: string; number: number }) {
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
