/** What a browser has and the simulated one lacks. */
import 'fake-indexeddb/auto';
import { TextDecoder, TextEncoder } from 'node:util';
import { configure } from '@testing-library/dom';

// A busy machine is not a wrong page.
configure({ asyncUtilTimeout: 5_000 });

class NoObserver {
  observe(): void {
    /* Nothing has a size here. */
  }
  unobserve(): void {
    /* Nothing is watched. */
  }
  disconnect(): void {
    /* Nothing is watched. */
  }
}
/** Work is done where the test is: what a worker would answer is asked of its service (`workers.ts`). */
class WorkerHere extends EventTarget {
  ended = false;
  constructor(readonly url: URL) {
    super();
  }
  postMessage(): void {
    /* Nobody listens. */
  }
  terminate(): void {
    this.ended = true;
  }
}
/** What the router notes of a page that is asked for. */
class Asked {
  readonly method = 'GET';
  readonly headers = new Headers();
  readonly signal: unknown;
  constructor(
    readonly url: string,
    { signal }: { signal?: unknown } = {},
  ) {
    this.signal = signal;
  }
}
Object.assign(globalThis, {
  Worker: WorkerHere,
  Request: Asked,
  TextEncoder,
  TextDecoder,
  matchMedia: (media: string) => ({
    media,
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }),
  structuredClone: globalThis.structuredClone ?? ((value: unknown) => JSON.parse(JSON.stringify(value)) as unknown),
  ResizeObserver: NoObserver,
});
Object.assign(Element.prototype, {
  scrollIntoView() {
    /* Nothing scrolls here. */
  },
  hasPointerCapture: () => false,
  setPointerCapture() {
    /* One pointer only. */
  },
  releasePointerCapture() {
    /* One pointer only. */
  },
});
/** Nothing is painted: what a canvas shows is looked at in a real browser. */
HTMLCanvasElement.prototype.getContext = (() => null) as never;
