/** What a browser has and the simulated one lacks. */
import 'fake-indexeddb/auto';
import { TextDecoder, TextEncoder } from 'node:util';

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
Object.assign(globalThis, {
  TextEncoder,
  TextDecoder,
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
