import { useEffect, useRef } from 'react';
import { HexAlphaColorPicker, HexColorPicker, setNonce } from 'react-colorful';
import { pageNonce } from './nonce';

setNonce(pageNonce());

/** Any colour by hue, saturation and brightness, and how opaque it is. Its result comes when one lets go. */
export function ColourPlane({
  value,
  alpha,
  onChange,
  onDone,
}: {
  /** Of three, four, six or eight hexadecimal digits (CSS Color 4 §5.2). */
  value: string;
  alpha?: boolean;
  onChange?(value: string): void;
  onDone?(value: string): void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  // The two axes of one handle have no number of their own; a slider has to have one (ARIA 1.2 §5.2.2).
  useEffect(() => {
    const plane = holder.current?.querySelector('[role="slider"][aria-valuetext^="Saturation"]');
    plane?.setAttribute('aria-label', 'Saturation and brightness');
    plane?.setAttribute('aria-valuenow', /\d+/.exec(plane.getAttribute('aria-valuetext') ?? '')?.[0] ?? '0');
  });
  const Picker = alpha ? HexAlphaColorPicker : HexColorPicker;
  return (
    <div ref={holder} className="colour-plane">
      <Picker color={value} onChange={onChange} onChangeEnd={onDone} />
    </div>
  );
}
