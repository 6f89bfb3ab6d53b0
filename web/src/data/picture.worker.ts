import { expose } from 'comlink';
import type { BatchDocument } from '@bistre/contract';
import { batchProgram, picturesOf, seenCloseUp, type Grey, type Treatment } from '@bistre/core';
import { greyOf } from './grey';
import { prepare } from './prepare';

/** A file with the time that resampling and writing it took. */
export interface Written {
  readonly file: Blob;
  readonly seconds: number;
}

/** Chunks are gathered to this length before they become part of the file, characters. */
const PART = 4_000_000;

const service = {
  /** Fetches pictures before they are asked for. */
  async have(ids: readonly string[]): Promise<void> {
    await Promise.all(ids.map(greyOf));
  },
  /** The G-code of the piece that lies on the drive, with its pictures. `progress` is told the share written. */
  async write(batch: BatchDocument, progress: (share: number) => void): Promise<Written> {
    const { input, reckoning } = await prepare(batch, 200);
    const pictures = new Map<string, Grey>();
    for (const id of picturesOf(input)) pictures.set(id, await greyOf(id));
    const start = performance.now();
    let told = 0;
    const made = batchProgram(input, reckoning, 'load', {
      title: batch.name,
      pictures,
      progress: (share) => {
        if (share - told < 0.01) return;
        told = share;
        progress(share);
      },
    });
    if (!made.ok) throw new Error((made.problem.reasons ?? [made.problem]).map((p) => p.message).join('\n'));
    const parts: Blob[] = [];
    let gathered: string[] = [];
    let length = 0;
    for (const chunk of made.value) {
      gathered.push(chunk);
      length += chunk.length;
      if (length < PART) continue;
      parts.push(new Blob(gathered));
      gathered = [];
      length = 0;
    }
    const file = new Blob([...parts, ...gathered], { type: 'text/plain' });
    return { file, seconds: (performance.now() - start) / 1000 };
  },
  /** A part from the middle of a picture as it will look, burned with a spot of this size; lengths in mm. */
  async closeUp(
    id: string,
    across: number,
    shown: { width: number; height: number },
    interval: number,
    spot: number,
    treatment: Treatment,
    px: { width: number; height: number },
  ): Promise<Grey> {
    const picture = await greyOf(id);
    const width = Math.min(picture.width, (shown.width / across) * picture.width);
    const height = Math.min(picture.height, (width * px.height) / px.width);
    return seenCloseUp(
      picture,
      { x: (picture.width - width) / 2, y: (picture.height - height) / 2, width, height },
      (width / picture.width) * across,
      interval,
      spot,
      treatment,
      px.width,
    );
  },
};

export type PictureService = typeof service;
expose(service);
