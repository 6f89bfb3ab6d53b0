import { use } from 'react';
import type { BatchDocument } from '@bistre/contract';
import { wayOf, type WayId } from '@bistre/core';
import type { WayPages } from './pages';

/** How the pages of every way are fetched: when a batch is held in it, not before. */
const ROOMS: { readonly [K in WayId]: () => Promise<WayPages> } = {
  pockets: async () => (await import('./pockets')).pockets,
  fence: async () => (await import('./fence')).fence,
  pegs: async () => (await import('./pegs')).pegs,
  locator: async () => (await import('./locator')).locator,
  sheet: async () => (await import('./sheet')).sheet,
  panel: async () => (await import('./panel')).panel,
  long: async () => (await import('./long')).long,
  marked: async () => (await import('./marked')).marked,
  feed: async () => (await import('./feed')).feed,
  photo: async () => (await import('./photo')).photo,
  drive: async () => (await import('./drive')).drive,
  cradle: async () => (await import('./cradle')).cradle,
};

const fetched = new Map<WayId, Promise<WayPages>>();

const pagesOf = (id: WayId): Promise<WayPages> => {
  let pages = fetched.get(id);
  if (!pages) {
    pages = ROOMS[id]();
    // A fetch that failed is tried again with the next look.
    pages.catch(() => fetched.delete(id));
    fetched.set(id, pages);
  }
  return pages;
};

/** The pages of the way that a batch is held in; suspends while they are fetched. */
export const useWayPages = (batch: BatchDocument): WayPages => use(pagesOf(wayOf(batch).id));
