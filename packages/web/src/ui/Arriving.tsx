import { useEffect } from 'react';
import { keepTyped } from './typed-early';

/** Stands for a dialog whose code is on its way: keys are the dialog's already, and act on nothing behind it. */
export function Arriving() {
  useEffect(keepTyped, []);
  return <div role="dialog" aria-busy="true" aria-label="Opening" hidden />;
}
