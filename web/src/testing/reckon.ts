import type { BatchDocument } from '@bistre/contract';
import { testAlphabets } from '../../../core/src/test-alphabets';
import type { ReckonService } from '../data/reckon.worker';
import type { Shown } from '../data/shown';

let service: ReckonService | undefined;
jest.mock('comlink', () => ({
  expose: (exposed: ReckonService) => {
    service = exposed;
  },
  wrap: () => service,
  proxy: (value: unknown) => value,
}));

/** The alphabets that ship, answered as the server would. */
const answerAlphabets = (): void => {
  globalThis.fetch = ((url: string) => {
    const alphabet = testAlphabets[url.split('/').at(-1) as keyof typeof testAlphabets];
    return Promise.resolve({ ok: alphabet !== undefined, json: () => Promise.resolve(alphabet) });
  }) as unknown as typeof fetch;
};

/** What the worker answers, crossed over as a worker's answers cross: by structured clone. */
export const reckonShown = async (batch: BatchDocument, pieces = 500): Promise<Shown> => {
  answerAlphabets();
  await import('../data/reckon.worker');
  return structuredClone(await service!.reckon(batch, pieces));
};
export const worker = async (): Promise<ReckonService> => {
  answerAlphabets();
  await import('../data/reckon.worker');
  return service!;
};
