import { FORMATS } from '@tolvik/core';
import type { DeliveryDetail } from '../api/types';

type One = NonNullable<DeliveryDetail['files'][number]['now']>;

/** The address of a picture of a delivered file: itself where browsers show it, else drawn by the server; `large`, as a window shows it, of several pages one. */
export const pictureOf = (deliveryId: string, { position, format }: One, large?: { page?: number }): string =>
  `/api/deliveries/${deliveryId}/files/${position}${FORMATS[format].shown ? '' : `/picture.png${large ? '?large=1' : ''}${large?.page ? `&page=${large.page}` : ''}`}`;
