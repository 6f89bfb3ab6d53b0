import { proxy, wrap, type Remote } from 'comlink';
import { create } from '../../data/store';
import type { BatchDocument } from '@bistre/contract';
import type { Offcut, Result } from '@bistre/core';
import type { HandMark, Looked, PhotoService } from './photo.worker';

/** A look at a photograph in a worker of its own, which can be stopped. */
export class PhotoLook {
  private readonly worker = new Worker(new URL('./photo.worker.ts', import.meta.url), { type: 'module' });
  private readonly remote: Remote<PhotoService> = wrap<PhotoService>(this.worker);
  private stop: () => void = () => undefined;
  private readonly stopped = new Promise<null>((resolve) => {
    this.stop = () => resolve(null);
  });

  /** What was found, or null when it was stopped. */
  async look(
    file: Blob,
    name: string,
    batch: BatchDocument,
    progress: (share: number) => void,
    hand: readonly HandMark[] | null = null,
  ): Promise<Result<Looked> | null> {
    try {
      return await Promise.race([this.remote.look(file, name, batch, proxy(progress), hand), this.stopped]);
    } finally {
      this.worker.terminate();
    }
  }

  /** Parts laid into the offcuts, or null when it was stopped. */
  async lay(
    batches: readonly BatchDocument[],
    seconds: number,
    progress: (share: number, laid: number, density: number) => void,
  ): Promise<Awaited<ReturnType<PhotoService['lay']>> | null> {
    try {
      return await Promise.race([this.remote.lay(batches, seconds, proxy(progress)), this.stopped]);
    } finally {
      this.worker.terminate();
    }
  }

  /** How many parts stored offcuts would take, or null when it was stopped. */
  async wouldTake(
    batch: BatchDocument,
    offcuts: readonly Offcut[],
  ): Promise<Awaited<ReturnType<PhotoService['wouldTake']>> | null> {
    try {
      return await Promise.race([this.remote.wouldTake(batch, offcuts), this.stopped]);
    } finally {
      this.worker.terminate();
    }
  }

  end(): void {
    this.worker.terminate();
    this.stop();
  }
}

/** The last photograph of each batch, for as long as the page is open; its blanks are kept on the server. */
export interface Shot {
  readonly url: string;
  readonly looked: Looked;
}

export const shots = create<Readonly<Record<string, Shot>>>({});
