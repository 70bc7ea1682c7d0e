import { Suspense } from 'react';
import { part } from './part';
import { type ColourPickProps, SWATCH, Swatch } from './Swatch';

// What a popover needs weighs something; most screens show no colour to pick.
const ColourPopover = part(async () => (await import('./ColourPopover')).ColourPopover);

/** A colour as a small field of it, picked in what opens below. Changes come as one lets go. */
export function ColourPick(props: ColourPickProps) {
  return (
    <Suspense
      fallback={
        <span className={`${SWATCH} ${props.className ?? ''}`}>
          <Swatch colour={props.value} />
        </span>
      }
    >
      <ColourPopover {...props} />
    </Suspense>
  );
}
