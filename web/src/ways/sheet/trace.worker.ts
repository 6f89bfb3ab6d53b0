import { expose } from 'comlink';
import {
  addRows,
  emptyInk,
  paperOf,
  pictureHead,
  traceSheet,
  type Ink,
  type PictureHead,
  type Result,
  type TraceChoices,
  type Traced,
} from '@bistre/core';

/** Rows that are unpacked at once: four bytes a dot are never held for the whole picture. */
const STRIP = 512;
/** Size of the picture that its paper's colour is learnt from, dots. */
const LOOK = 400;

let kept: { readonly name: string; readonly ink: Ink } | null = null;

const inkOf = async (file: Blob, progress: (share: number) => void): Promise<Ink> => {
  // A camera's note of how it was held is followed: what stands is then as wide as it is seen.
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image', colorSpaceConversion: 'none', premultiplyAlpha: 'none' }); // prettier-ignore
  const { width, height } = bitmap;
  // The whole picture made small first: its edges are paper.
  const small = new OffscreenCanvas(Math.min(width, LOOK), Math.min(height, LOOK));
  const look = small.getContext('2d', { willReadFrequently: true })!;
  look.drawImage(bitmap, 0, 0, small.width, small.height);
  const rgba = look.getImageData(0, 0, small.width, small.height).data;
  const paper = paperOf({ top: 0, count: small.height, rgba }, small.width);
  const strip = new OffscreenCanvas(width, Math.min(height, STRIP));
  const g = strip.getContext('2d', { willReadFrequently: true })!;
  const ink = emptyInk(width, height);
  for (let top = 0; top < height; top += STRIP) {
    const count = Math.min(STRIP, height - top);
    g.clearRect(0, 0, width, STRIP);
    g.drawImage(bitmap, 0, top, width, count, 0, 0, width, count);
    addRows(ink, { top, count, rgba: g.getImageData(0, 0, width, count).data }, paper);
    progress(top / height);
  }
  bitmap.close();
  return ink;
};

/** Time the worker was at it. */
export interface Took {
  readonly seconds: number;
}

const service = {
  /** Unpacks a picture and keeps it; says its size, or why it is not taken. */
  async open(file: Blob, name: string, progress: (share: number) => void): Promise<Result<PictureHead> & Took> {
    kept = null;
    const start = performance.now();
    const took = (): number => (performance.now() - start) / 1000;
    const head = pictureHead(new Uint8Array(await file.slice(0, 200_000).arrayBuffer()), name);
    if (!head.ok) return { ...head, seconds: took() };
    let upright = head.value;
    try {
      const ink = await inkOf(file, progress);
      kept = { name, ink };
      upright = { ...upright, width: ink.width, height: ink.height };
    } catch {
      return {
        seconds: took(),
        ok: false,
        problem: { code: 'bad-picture', message: `${name} is damaged and cannot be read.`, field: 'picture' },
      };
    }
    return { ok: true, value: upright, seconds: took() };
  },
  /** Finds the outlines of the picture that is kept; null when none is. */
  trace(dot: number, choices: TraceChoices, progress: (share: number) => void): (Result<Traced> & Took) | null {
    if (!kept) return null;
    const start = performance.now();
    const made = traceSheet(kept.ink, { name: kept.name, dot }, choices, progress);
    return { ...made, seconds: (performance.now() - start) / 1000 };
  },
};

export type TraceService = typeof service;
expose(service);
