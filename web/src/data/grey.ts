import { PICTURES } from '@bistre/contract';
import type { Grey } from '@bistre/core';

const kept = new Map<string, Promise<Grey>>();

const fetchGrey = async (id: string): Promise<Grey> => {
  const response = await fetch(`${PICTURES}/${id}`);
  if (!response.ok) throw new Error('A picture of this setup is not kept any more. Choose it again.');
  const bitmap = await createImageBitmap(await response.blob(), { colorSpaceConversion: 'none' });
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, Math.min(height, 512));
  const g = canvas.getContext('2d', { willReadFrequently: true })!;
  const pixels = new Uint8Array(width * height);
  // Strip by strip: four bytes a dot are never held for the whole picture at once.
  for (let top = 0; top < height; top += canvas.height) {
    const rows = Math.min(canvas.height, height - top);
    g.drawImage(bitmap, 0, top, width, rows, 0, 0, width, rows);
    const { data } = g.getImageData(0, 0, width, rows);
    for (let i = 0, at = top * width; i < data.length; i += 4, at += 1) pixels[at] = data[i]!;
  }
  bitmap.close();
  return { width, height, pixels };
};

/** The dots of a picture, fetched once. */
export const greyOf = (id: string): Promise<Grey> => {
  let grey = kept.get(id);
  if (!grey) {
    if (kept.size >= 3) kept.delete(kept.keys().next().value!);
    grey = fetchGrey(id);
    grey.catch(() => kept.delete(id));
    kept.set(id, grey);
  }
  return grey;
};
