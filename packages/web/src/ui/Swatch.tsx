export type ColourPickProps = {
  label: string;
  /** # and three, four, six or eight hexadecimal digits (CSS Color 4 §5.2). */
  value: string;
  alpha?: boolean;
  onChange(value: string): void;
  className?: string;
};

export const SWATCH = 'size-6 shrink-0 rounded-sm border border-line-strong bg-white p-0.5';

/** A colour, with what shows through it. */
export const Swatch = ({ colour }: { colour: string }) => (
  <span className="checker block size-full">
    <span className="block size-full" style={{ background: colour }} />
  </span>
);
