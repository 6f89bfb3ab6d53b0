import { useSyncExternalStore } from 'react';

/** A value that several parts of the page look at; gone with the page. */
export interface Store<T> {
  readonly get: () => T;
  readonly set: (next: T) => void;
  readonly use: () => T;
}

export const create = <T>(first: T): Store<T> => {
  let value = first;
  const listeners = new Set<() => void>();
  const subscribe = (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  const get = (): T => value;
  return {
    get,
    set: (next) => {
      value = next;
      listeners.forEach((l) => l());
    },
    use: () => useSyncExternalStore(subscribe, get),
  };
};
