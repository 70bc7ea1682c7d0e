import { type Artboard, acts } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { NumberField } from '../../ui/NumberField';
import { Ticked } from '../../ui/Tick';
import { act } from '../act';
import { BackgroundField } from './BackgroundField';
import { SmallestFields } from './SmallestFields';

export function ArtboardNumbers({ artboard }: { artboard: Artboard }) {
  const session = useSession();
  const move = (x: number, y: number) => act(session, acts.move, { dx: x - artboard.x, dy: y - artboard.y });
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <NumberField label="x" value={artboard.x} onChange={(x) => move(x, artboard.y)} />
        <NumberField label="y" value={artboard.y} onChange={(y) => move(artboard.x, y)} />
        <NumberField
          label="width"
          showLabel="w"
          value={artboard.width}
          min={0.01}
          onChange={(width) => act(session, acts.setRect, { width }, [artboard.id])}
        />
        <NumberField
          label="height"
          showLabel="h"
          value={artboard.height}
          min={0.01}
          onChange={(height) => act(session, acts.setRect, { height }, [artboard.id])}
        />
      </div>
      <BackgroundField
        label="Background"
        value={artboard.background}
        onChange={(background) => act(session, acts.setBackground, { background }, [artboard.id])}
      />
      {artboard.background && (
        <Ticked
          className="mt-1"
          label="Files have it, too"
          checked={artboard.backgroundUse !== 'shown'}
          onChange={(on) => act(session, acts.setBackground, { use: on ? 'painted' : 'shown' }, [artboard.id])}
        />
      )}
      <SmallestFields artboard={artboard} />
    </>
  );
}
