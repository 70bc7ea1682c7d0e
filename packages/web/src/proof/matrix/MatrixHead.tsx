import type { Output } from '@tolvik/core';
import type { MouseEvent } from 'react';
import { AddOutputs } from '../../outputs/AddOutputs';
import { planOf, useSession } from '../../project/session/context';
import { NAME_WIDTH } from './MatrixRow';
import { OutputHeader } from './OutputHeader';
import type { Total } from './use-cells';

/** Height of the head, in CSS px. */
export const HEAD_HEIGHT = 55;

/** What the columns are: the outputs, and where more are added. */
export function MatrixHead({
  width,
  columnWidth,
  totals,
  edited,
  onEdit,
  onMenu,
}: {
  width: number;
  columnWidth: number;
  totals: ReadonlyMap<string, Total>;
  /** The output that is being changed. */
  edited: string | null;
  onEdit(outputId: string | null): void;
  onMenu(event: MouseEvent, output: Output): void;
}) {
  const { outputs, specs } = planOf(useSession());
  return (
    <div
      role="row"
      className="sticky top-0 z-20 flex border-ink border-b bg-paper"
      style={{ height: HEAD_HEIGHT, width, minWidth: '100%' }}
    >
      <div
        role="columnheader"
        className="sticky left-0 z-10 flex items-end bg-paper px-4 pb-2 text-ink-2"
        style={{ width: NAME_WIDTH }}
      >
        Piece
      </div>
      {outputs.map((output, i) => (
        <OutputHeader
          key={output.id}
          output={output}
          spec={specs.find((spec) => spec.id === output.specId)}
          newSpec={i === 0 || outputs[i - 1].specId !== output.specId}
          showSpec={specs.length > 1}
          width={columnWidth}
          total={totals.get(output.id)}
          open={edited === output.id}
          onEdit={onEdit}
          onMenu={onMenu}
        />
      ))}
      <div role="columnheader" className="flex items-center px-4">
        <AddOutputs />
      </div>
    </div>
  );
}
