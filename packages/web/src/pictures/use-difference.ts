import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type Difference, difference } from './difference';

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
