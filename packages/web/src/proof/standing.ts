import { useFindings } from '../project/findings/findings';
import { planOf, useSession } from '../project/session/context';
import { count } from '../ui/words';

/** How many files there will be, and how many findings wait to be looked at. */
export function useProofStanding(): { note: string; bad: boolean } {
  const plan = planOf(useSession());
  const { needsALook } = useFindings();
  return {
    note: `${count(plan.files.length, 'file')}${needsALook > 0 ? `, ${needsALook} to look at` : ''}`,
    bad: plan.troubled.length > 0,
  };
}
