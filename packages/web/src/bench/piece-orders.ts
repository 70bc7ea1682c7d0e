/** How pieces that are made of several layers follow each other. */
export const PIECE_ORDERS = [
  { value: 'reading', title: 'As one reads' },
  { value: 'layers', title: 'As layered' },
] as const;
