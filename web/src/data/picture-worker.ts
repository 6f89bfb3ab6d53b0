import { proxy, wrap, type Remote } from 'comlink';
import type { BatchDocument } from '@bistre/contract';
import type { PictureService, Written } from './picture.worker';

const start = (): { worker: Worker; remote: Remote<PictureService> } => {
  const worker = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
  return { worker, remote: wrap<PictureService>(worker) };
};

let kept: ReturnType<typeof start> | null = null;
/** The worker for pictures; made when first needed, and anew after one was ended. */
export const pictureWorker = (): Remote<PictureService> => (kept ??= start()).remote;

const end = (): void => {
  kept?.worker.terminate();
  kept = null;
};

/** Has the worker fetch pictures before they are written. */
export const warmPictures = (ids: readonly string[]): void => {
  // What fails here is said when the file is written.
  void pictureWorker()
    .have(ids)
    .catch(() => undefined);
};

/**
 * Writes a batch's G-code with its pictures; cancelling ends the worker itself, whatever it is at.
 * Resolves to null when it was cancelled.
 */
export const writePictures = (
  batch: BatchDocument,
  progress: (share: number) => void,
  cancelled: AbortSignal,
): Promise<Written | null> =>
  new Promise((resolve, reject) => {
    const remote = pictureWorker();
    let done = false;
    cancelled.addEventListener('abort', () => {
      end();
      resolve(null);
    });
    kept?.worker.addEventListener('error', (e) => {
      end();
      reject(new Error(e.message || 'The worker ran out of room. Choose a coarser interval.'));
    });
    remote
      .write(
        batch,
        // What was told before the worker ended may still be on its way.
        proxy((share: number) => {
          if (!cancelled.aborted && !done) progress(share);
        }),
      )
      .then(resolve, (error: unknown) => reject(error instanceof Error ? error : new Error(String(error))))
      .finally(() => {
        done = true;
      });
  });
