import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { DeliveryDetail } from '../../api/types';
import { pictureOf } from '../picture-of';

type File = DeliveryDetail['files'][number];
type One = NonNullable<File['now']>;

const pagesOf = (one: One | undefined): number => one?.measured?.pages ?? 1;

/** The size of a picture in px; undefined until it is here. */
function usePictureSize(url: string | undefined): { widthPx: number; heightPx: number } | undefined {
  const { data } = useQuery({
    queryKey: ['picture-size', url],
    enabled: !!url,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 10_000,
    retry: false,
    queryFn: async () => {
      const image = new Image();
      image.src = url as string;
      await image.decode();
      return { widthPx: image.naturalWidth, heightPx: image.naturalHeight };
    },
  });
  return url ? data : undefined;
}

/**
 * The page one looks at of a delivered file and of the one before it, with their pictures; of files of one page, the
 * file. A page that one of them does not have is as a file that is not there; pages are as large as their pictures.
 */
export function usePages({ path, now: made, before }: File, deliveryId: string) {
  const [turned, setTurned] = useState({ path, at: 1 });
  const now = made?.state === 'made' ? made : undefined;
  const of = Math.max(pagesOf(now), pagesOf(before));
  const at = turned.path === path ? Math.min(turned.at, of) : 1;
  const has = (one: One | undefined) => at <= pagesOf(one);
  const page = of > 1 ? at : undefined;
  const urls = {
    now: now && has(now) ? pictureOf(deliveryId, now, { page }) : undefined,
    before: before && has(before) ? pictureOf(before.delivery.id, before, { page }) : undefined,
  };
  const sizes = {
    now: usePictureSize(page ? urls.now : undefined),
    before: usePictureSize(page ? urls.before : undefined),
  };
  const seen = <T extends One>(one: T | undefined, url: string | undefined, size: typeof sizes.now): T | undefined =>
    page && one ? (url && size ? { ...one, ...size } : undefined) : one;
  return {
    /** Null for files of one page. */
    pages: page ? { at, of } : null,
    turn: (by: number) => setTurned({ path, at: Math.min(of, Math.max(1, at + by)) }),
    urls,
    made: has(now) ? made : undefined,
    now: seen(now, urls.now, sizes.now),
    before: seen(before, urls.before, sizes.before),
  };
}
