import type { BatchDocument } from '@bistre/contract';
import { testAlphabets } from '../../../core/src/test-alphabets';
import type { ReckonService } from '../data/reckon.worker';
import type { Shown } from '../data/shown';
import { serviceOf } from './workers';

/** The alphabets that ship, answered as the server would. */
const answerAlphabets = (): void => {
  globalThis.fetch = ((url: string) => {
    const alphabet = testAlphabets[url.split('/').at(-1) as keyof typeof testAlphabets];
    return Promise.resolve({ ok: alphabet !== undefined, json: () => Promise.resolve(alphabet) });
  }) as unknown as typeof fetch;
};

export const worker = (): Promise<ReckonService> => {
  answerAlphabets();
  return serviceOf('reckon.worker.ts');
};
/** What the worker answers, crossed over as a worker's answers cross: by structured clone. */
export const reckonShown = async (batch: BatchDocument, pieces = 500): Promise<Shown> =>
  structuredClone(await (await worker()).reckon(batch, pieces));
