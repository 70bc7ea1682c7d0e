import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { useBench } from '../bench-state';
import { useRemove } from '../remove';

/** Deletes pieces; of artboards, what lies on them goes along when artwork is carried, or stays. */
export function DeletePieces({ ids }: { ids: readonly string[] }) {
  const { doc } = useSession();
  const remove = useRemove();
  const { carry } = useBench();
  const boards = ids.filter((id) => doc.find('artboard', id) && !doc.find('artboard', id)?.follows).length;
  return (
    <>
      <Button small kind="danger" onClick={() => remove(ids)}>
        {ids.length > 1 ? `Delete ${ids.length}` : 'Delete'}
        {boards > 0 && carry ? ' with artwork' : ''}
      </Button>
      {boards > 0 && (
        <Button small onClick={() => remove(ids, !carry)}>
          {carry ? `Delete only the ${boards === 1 ? 'artboard' : 'artboards'}` : 'Delete with artwork'}
        </Button>
      )}
    </>
  );
}
