import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
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

/** The browser's own database: it survives reload, crash and an update of the page, and all tabs share it. */
export const openStore = (name = 'bistre-outbox'): Store => {
  let opened: Promise<IDBPDatabase<Schema>> | null = null;
  const db = (): Promise<IDBPDatabase<Schema>> =>
    (opened ??= openDB<Schema>(name, 1, {
      upgrade: (made) => void made.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true }),
    }));
  return {
    all: async () => (await db()).getAll('writes'),
    add: async (kept) => {
      const seq = await (await db()).add('writes', kept as Kept);
      return { ...kept, seq };
    },
    put: async (...kept) => {
      const trx = (await db()).transaction('writes', 'readwrite');
      await Promise.all([...kept.map((k) => trx.store.put(k)), trx.done]);
    },
    change: async (seq, change) => {
      const trx = (await db()).transaction('writes', 'readwrite');
      const now = await trx.store.get(seq);
      const next = now ? change(now) : null;
      if (next) await trx.store.put(next);
      await trx.done;
      return next;
    },
    remove: async (seq) => (await db()).delete('writes', seq),
  };
};
