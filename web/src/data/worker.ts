import { wrap, type Remote } from 'comlink';
import type { ReckonService } from './reckon.worker';

let remote: Remote<ReckonService> | null = null;

/** The one worker that does the reckoning; made when first needed. */
export const reckoner = (): Remote<ReckonService> => {
  remote ??= wrap<ReckonService>(new Worker(new URL('./reckon.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
};
