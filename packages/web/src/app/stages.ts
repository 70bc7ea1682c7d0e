import { lazy } from 'react';
import { useBenchStanding } from '../bench/standing';
import { useDeliveriesStanding } from '../deliveries/standing';
import type { Stage } from '../header/stage';
import { useProofStanding } from '../proof/standing';

/** The stages in the order of their tabs. To add one: its page, what stands in it, and an entry here. */
export const STAGES: readonly Stage[] = [
  {
    route: 'bench',
    title: 'Bench',
    keys: 'Alt+1',
    useStanding: useBenchStanding,
    Page: lazy(async () => ({ default: (await import('../bench/BenchPage')).BenchPage })),
  },
  {
    route: 'proof',
    title: 'Proof',
    keys: 'Alt+2',
    useStanding: useProofStanding,
    Page: lazy(async () => ({ default: (await import('../proof/ProofPage')).ProofPage })),
  },
  {
    route: 'deliveries',
    title: 'Deliveries',
    keys: 'Alt+3',
    useStanding: useDeliveriesStanding,
    Page: lazy(async () => ({ default: (await import('../deliveries/DeliveriesPage')).DeliveriesPage })),
    inside: [':deliveryId'],
  },
];
