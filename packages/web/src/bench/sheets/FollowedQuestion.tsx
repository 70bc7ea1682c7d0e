import { followersOf } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { useNotice } from '../../ui/notices';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';
import { removePieces, sayLoose, useFollowedQuestion } from '../remove';

const NAMES_TOLD = 6;

/** Asked before artboards are deleted that others follow: those keep what they show, or go as well. */
export function FollowedQuestion() {
  const session = useSession();
  const tell = useNotice();
  const { asked, ask } = useFollowedQuestion();
  if (!asked) return null;
  const { doc } = session;
  const ids = new Set(asked.ids);
  const followers = followersOf(doc, ids);
  const close = () => ask(null);
  const go = (followers: 'keep' | 'delete') => {
    sayLoose(session, tell, removePieces(session, asked.ids, asked.withContents, followers));
    close();
  };
  const names = followers
    .slice(0, NAMES_TOLD)
    .map(({ name }) => name)
    .join(', ');
  return (
    <Sheet
      open
      onClose={close}
      title={`${count(followers.length, 'artboard')} ${followers.length === 1 ? 'follows' : 'follow'} what you delete`}
      about={`${names}${followers.length > NAMES_TOLD ? ` and ${followers.length - NAMES_TOLD} more` : ''}. Either can be undone.`}
      footer={
        <>
          <Button onClick={close}>Not now</Button>
          <Button kind="danger" onClick={() => go('delete')}>
            Delete all {asked.ids.length + followers.length}
          </Button>
          <Button kind="go" onClick={() => go('keep')}>
            Keep {followers.length === 1 ? 'it' : 'them'} as artwork
          </Button>
        </>
      }
    />
  );
}
