import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { cellKey } from '@tolvik/core';
import { useEffect, useMemo } from 'react';
import { ApiError } from '../../api/client';
import type { Difference } from '../../pictures/difference';
import { useDifference } from '../../pictures/use-difference';
import { fileUrl, largePictureUrl, pageUrl } from '../../project/files/file-urls';
import { useMade, useSession, useSessionPart } from '../../project/session/context';
import { MOST_PANES, type Pane } from './panes';

export type Picture = { url: string; bytes: number | null };

/** What one pane shows, and how it differs from the first; null for the first itself and while it is not known. */
export type Comparison = { picture: Picture | null; trouble: string; difference: Difference | null };

/** The pictures of the panes, one for each that there can be. `drawnByUs` are those a browser cannot show itself; `page` is another page of the first's file than its own. */
export function useComparedPictures(
  pieceId: string,
  panes: readonly Pane[],
  drawnByUs: (pane: Pane) => boolean,
  size: { widthPx: number; heightPx: number } = { widthPx: 1, heightPx: 1 },
  page: number | null = null,
): Comparison[] {
  const [a, b, c] = Array.from({ length: MOST_PANES }, (_, i) => panes[i]);
  const isOurs = (pane: Pane | undefined) => !!pane && drawnByUs(pane);
  const first = usePicture(pieceId, a, isOurs(a), page);
  const second = usePicture(pieceId, b, isOurs(b));
  const third = usePicture(pieceId, c, isOurs(c));
  const { widthPx, heightPx } = size;
  const ofSecond = useDifference(first.picture?.url, second.picture?.url, widthPx, heightPx);
  const ofThird = useDifference(first.picture?.url, third.picture?.url, widthPx, heightPx);
  return [
    { ...first, difference: null },
    { ...second, difference: ofSecond },
    { ...third, difference: ofThird },
  ];
}

/** The file of a pane with its weight: from the server's cache, or made with the settings that are tried. */
function usePicture(
  pieceId: string,
  pane: Pane | undefined,
  isPdf: boolean,
  page: number | null = null,
): { picture: Picture | null; trouble: string } {
  const session = useSession();
  const version = useSessionPart('version');
  const { files } = useMade();
  const made = pane && files.get(cellKey(pieceId, pane.outputId));
  const { data, error } = useQuery({
    queryKey: ['trial', session.id, version, pieceId, pane?.outputId, pane?.settings],
    enabled: !!pane?.settings,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
    queryFn: async ({ signal }) => {
      const response = await fetch(`/api/projects/${session.id}/trial`, {
        method: 'POST',
        signal,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ pieceId, outputId: pane?.outputId, settings: pane?.settings }),
      });
      if (!response.ok)
        throw new ApiError(response.status, {
          code: 'trial',
          message: (await response.json().catch(() => ({}))).detail ?? 'it cannot be made',
        });
      return response.blob();
    },
  });
  const url = useMemo(() => (data ? URL.createObjectURL(data) : ''), [data]);
  useEffect(() => () => void (url && setTimeout(() => URL.revokeObjectURL(url), 2000)), [url]);
  if (!pane) return { picture: null, trouble: '' };
  if (page !== null)
    return { picture: { url: pageUrl(session.id, version, { pieceId, ...pane }, page), bytes: null }, trouble: '' };
  if (pane.settings) return { picture: data ? { url, bytes: data.size } : null, trouble: error?.message ?? '' };
  return {
    picture: made?.key
      ? { url: isPdf ? largePictureUrl(session.id, made) : fileUrl(session.id, made), bytes: made.bytes }
      : null,
    trouble: '',
  };
}
