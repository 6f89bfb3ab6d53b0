import { openDB, type DBSchema } from 'idb';
import type { Kept } from './kept';

/** Where writes are kept until they were answered. */
export interface Store {
  /** In the order in which they were made. */
  readonly all: () => Promise<Kept[]>;
  /** Keeps a new write; its place in the order is given. */
  readonly add: (kept: Omit<Kept, 'seq'>) => Promise<Kept>;
  readonly put: (...kept: readonly Kept[]) => Promise<void>;
  /**
   * Changes one as it is stored at this moment, whatever other tabs do meanwhile.
   * @param change answers null to leave it
   * @returns what is stored then; null when it is gone or was left
   */
  readonly change: (seq: number, change: (kept: Kept) => Kept | null) => Promise<Kept | null>;
  readonly remove: (seq: number) => Promise<void>;
}

interface Schema extends DBSchema {
  writes: { key: number; value: Kept };
}

/** Where a browser lets nothing be kept: as long as the page is open. */
const inMemory = (): Store => {
  const kept = new Map<number, Kept>();
  let last = 0;
  const put = (k: Kept): void => void kept.set(k.seq, structuredClone(k));
  return {
    all: () => Promise.resolve([...kept.values()].sort((a, b) => a.seq - b.seq)),
    add: (draft) => {
      const made: Kept = { ...draft, seq: (last += 1) };
      put(made);
      return Promise.resolve(made);
    },
    put: (...all) => Promise.resolve(all.forEach(put)),
    change: (seq, change) => {
      const now = kept.get(seq);
      const next = now ? change(now) : null;
      if (next) put(next);
      return Promise.resolve(next);
    },
    remove: (seq) => Promise.resolve(void kept.delete(seq)),
  };
};

const inDatabase = async (name: string): Promise<Store> => {
  const db = await openDB<Schema>(name, 1, {
    upgrade: (made) => void made.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true }),
  });
  return {
    all: () => db.getAll('writes'),
    add: async (kept) => ({ ...kept, seq: await db.add('writes', kept as Kept) }),
    put: async (...kept) => {
      const trx = db.transaction('writes', 'readwrite');
      await Promise.all([...kept.map((k) => trx.store.put(k)), trx.done]);
    },
    change: async (seq, change) => {
      const trx = db.transaction('writes', 'readwrite');
      const now = await trx.store.get(seq);
      const next = now ? change(now) : null;
      if (next) await trx.store.put(next);
      await trx.done;
      return next;
    },
    remove: (seq) => db.delete('writes', seq),
  };
};

/**
 * The browser's own database: it survives reload, crash and an update of the page, and all tabs share it. Where a browser
 * forbids it (a private window, a policy), writes are kept as long as the page is open.
 *
 * @param onForbidden told once when nothing lasts
 */
export const openStore = (name = 'bistre-outbox', onForbidden: () => void = () => undefined): Store => {
  let opened: Promise<Store> | null = null;
  const store = (): Promise<Store> =>
    (opened ??= inDatabase(name).catch(() => {
      onForbidden();
      return inMemory();
    }));
  return {
    all: async () => (await store()).all(),
    add: async (kept) => (await store()).add(kept),
    put: async (...kept) => (await store()).put(...kept),
    change: async (seq, change) => (await store()).change(seq, change),
    remove: async (seq) => (await store()).remove(seq),
  };
};
