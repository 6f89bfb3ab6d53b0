import { proxy, wrap, type Remote } from 'comlink';
import type { BatchDocument } from '@bistre/contract';
import type { PictureService } from './picture.worker';

const start = (): { worker: Worker; remote: Remote<PictureService> } => {
  const worker = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
  return { worker, remote: wrap<PictureService>(worker) };
};

let idle: Remote<PictureService> | null = null;
/** The worker that shows pictures close up; made when first needed. */
export const pictureWorker = (): Remote<PictureService> => (idle ??= start().remote);

/**
 * Writes a batch's G-code with its pictures in a worker of its own, so that cancelling simply ends it.
 * Resolves to null when it was cancelled.
 */
export const writePictures = (
  batch: BatchDocument,
  progress: (share: number) => void,
  cancelled: AbortSignal,
): Promise<Blob | null> =>
  new Promise((resolve, reject) => {
    const { worker, remote } = start();
    const end = (): void => worker.terminate();
    cancelled.addEventListener('abort', () => {
      end();
      resolve(null);
    });
    worker.addEventListener('error', (e) => {
      end();
      reject(new Error(e.message || 'The worker ran out of room. Choose a coarser interval.'));
    });
    remote.write(batch, proxy(progress)).then(
      (blob) => {
        end();
        resolve(blob);
      },
      (error: unknown) => {
        end();
        reject(error instanceof Error ? error : new Error(String(error)));
      },
    );
  });
