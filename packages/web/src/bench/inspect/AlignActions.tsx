import { type AlignTo, acts, type Edge } from '@tolvik/core';
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceBetween,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceBetween,
  Grid3x3,
} from 'lucide-react';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { Choice } from '../../ui/controls';
import { Hint } from '../../ui/Hint';
import { act } from '../act';

const EDGES: { edge: Edge; icon: typeof Grid3x3; title: string }[] = [
  { edge: 'left', icon: AlignStartVertical, title: 'Left edges' },
  { edge: 'centre', icon: AlignCenterVertical, title: 'Centres' },
  { edge: 'right', icon: AlignEndVertical, title: 'Right edges' },
  { edge: 'top', icon: AlignStartHorizontal, title: 'Top edges' },
  { edge: 'middle', icon: AlignCenterHorizontal, title: 'Middles' },
  { edge: 'bottom', icon: AlignEndHorizontal, title: 'Bottom edges' },
];

/** Align and distribute what is selected; a single layer aligns to its artboard. */
export function AlignActions({ layers }: { layers: boolean }) {
  const session = useSession();
  const many = session.selection.size > 1;
  const [to, setTo] = useState<AlignTo>('selection');
  const target: AlignTo = layers ? (many ? to : 'artboard') : 'selection';
  const button = (title: string, Icon: typeof Grid3x3, run: () => void, disabled = false) => (
    <Hint key={title} text={title}>
      <button
        type="button"
        aria-label={title}
        disabled={disabled}
        onClick={run}
        className="rounded-sm p-1.5 hover:bg-rail disabled:text-line-strong"
      >
        <Icon size={15} />
      </button>
    </Hint>
  );
  return (
    <section className="border-line border-b px-3.5 py-2.5">
      <div className="mb-1 flex h-[26px] items-center justify-between">
        <h3 className="heading">{many ? 'Align' : 'Align to its artboard'}</h3>
        {layers && many && (
          <Choice
            label="Align to"
            value={to}
            onChange={setTo}
            options={[
              { value: 'selection', title: 'each other' },
              { value: 'artboard', title: 'artboard' },
            ]}
          />
        )}
      </div>
      <div className="-mx-1.5 flex flex-wrap">
        {EDGES.map(({ edge, icon, title }) =>
          button(`Align: ${title.toLowerCase()}`, icon, () => act(session, acts.align, { edge, to: target })),
        )}
        {button(
          'Equal gaps across',
          AlignHorizontalSpaceBetween,
          () => act(session, acts.distribute, { axis: 'across' }),
          session.selection.size < 3,
        )}
        {button(
          'Equal gaps down',
          AlignVerticalSpaceBetween,
          () => act(session, acts.distribute, { axis: 'down' }),
          session.selection.size < 3,
        )}
        {button('Move to the pixel grid', Grid3x3, () => act(session, acts.toPixelGrid, {}))}
      </div>
    </section>
  );
}
