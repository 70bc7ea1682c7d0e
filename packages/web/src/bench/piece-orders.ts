import type { PieceOrder } from '@tolvik/core';

/** What the orders of pieces that are made of layers are called. */
export const ORDER_TITLES: readonly { value: PieceOrder; title: string }[] = [
  { value: 'reading', title: 'As one reads' },
  { value: 'layers', title: 'As layered' },
];
