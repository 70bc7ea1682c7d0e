import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { cellKey } from '@tolvik/core';
import { useEffect, useMemo } from 'react';
import { ApiError } from '../../api/client';
import { fileUrl, pictureUrl, useMade, useSession, useSessionPart } from '../../project/context';
import { type Difference, difference } from './difference';
import type { Pane } from './panes';

export type Picture = { url: string; bytes: number | null };

/** The file of a pane with its weight: from the server's cache, or made with the settings that are tried. */
export function usePicture(
  pieceId: string,
  pane: Pane | undefined,
  isPdf: boolean,
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
  if (pane.settings) return { picture: data ? { url, bytes: data.size } : null, trouble: error?.message ?? '' };
  return {
    picture: made?.key
      ? { url: isPdf ? pictureUrl(session.id, made) : fileUrl(session.id, made), bytes: made.bytes }
      : null,
    trouble: '',
  };
}

const MOST_PIXELS = 8_000_000;

async function pixelsOf(url: string, width: number, height: number): Promise<ImageData> {
  const image = new Image();
  image.src = url;
  await image.decode();
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true }) as OffscreenCanvasRenderingContext2D;
  context.drawImage(image, 0, 0, width, height);
  return context.getImageData(0, 0, width, height);
}

/** How two pictures differ at a size in px; null while it is not known, or when it would be too large to look at. */
export function useDifference(
  one: string | undefined,
  other: string | undefined,
  width: number,
  height: number,
): Difference | null {
  const { data } = useQuery({
    queryKey: ['difference', one, other, width, height],
    enabled: !!one && !!other && one !== other && width * height <= MOST_PIXELS,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 10_000,
    retry: false,
    queryFn: async () => {
      const [a, b] = await Promise.all([
        pixelsOf(one as string, width, height),
        pixelsOf(other as string, width, height),
      ]);
      return difference(a, b);
    },
  });
  return data ?? null;
}
