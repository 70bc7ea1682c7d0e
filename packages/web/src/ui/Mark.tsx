/** Our sign: crop marks around a T. */
export const Mark = ({ size = 26 }: { size?: number }) => (
  <svg width={size} height={size} viewBox="0 0 24 24" fill="none" stroke="currentColor" strokeWidth="2" aria-hidden>
    <title>Tolvik</title>
    <path d="M8 1v7H1M16 1v7h7M8 23v-7H1M16 23v-7h7" />
    <path d="M9.5 11h5M12 11v5.5" stroke="var(--color-cut)" />
  </svg>
);
