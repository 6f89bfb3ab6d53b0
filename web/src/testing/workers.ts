import type { PictureService } from '../data/picture.worker';
import type { ReckonService } from '../data/reckon.worker';
import type { PhotoService } from '../ways/photo/photo.worker';
import type { TraceService } from '../ways/sheet/trace.worker';

interface Services {
  readonly 'reckon.worker.ts': ReckonService;
  readonly 'picture.worker.ts': PictureService;
  readonly 'photo.worker.ts': PhotoService;
  readonly 'trace.worker.ts': TraceService;
}
const FETCH: { readonly [K in keyof Services]: () => Promise<unknown> } = {
  'reckon.worker.ts': () => import('../data/reckon.worker'),
  'picture.worker.ts': () => import('../data/picture.worker'),
  'photo.worker.ts': () => import('../ways/photo/photo.worker'),
  'trace.worker.ts': () => import('../ways/sheet/trace.worker'),
};
type Call = (...args: unknown[]) => unknown;

let exposed: unknown;
const services: Partial<Record<keyof Services, unknown>> = {};

jest.mock('comlink', () => ({
  expose: (service: unknown) => {
    exposed = service;
  },
  /** Calls reach the service where the test is; of a worker that was ended no answer comes. */
  wrap: (worker: { readonly url: URL; readonly ended: boolean }) =>
    new Proxy(
      {},
      {
        get: (_, name: string) =>
          name === 'then'
            ? undefined
            : async (...args: unknown[]): Promise<unknown> => {
                const service = await serviceOf(worker.url.pathname.split('/').at(-1) as keyof Services);
                const answer = await (service as unknown as Record<string, Call>)[name]!(...args);
                return worker.ended ? new Promise(() => undefined) : answer;
              },
      },
    ),
  proxy: (value: unknown) => value,
}));

/** What a worker of the pages offers, without the worker. */
export const serviceOf = async <K extends keyof Services>(name: K): Promise<Services[K]> => {
  if (!services[name]) {
    await FETCH[name]();
    services[name] = exposed;
  }
  return services[name] as Services[K];
};
