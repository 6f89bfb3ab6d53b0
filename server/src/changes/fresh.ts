import type { Setup } from '@bistre/contract';
import { defaultHold, freshBack, freshFeed, freshLong, freshDriveSettings } from '@bistre/core';

/** What a batch begins with, before anybody chose anything. */
export const freshSetup = (name: string): Setup => ({
  hold: defaultHold(boardName(name)),
  lettering: {
    zoneId: null,
    gap: 1.5,
    narrowest: 0.8,
    smallest: 1.5,
    lines: [],
  },
  back: { ...freshBack, lines: [] },
  long: { ...freshLong, art: null },
  place: { school: 'file', model: 'auto' },
  burn: { sweep: 'row' },
  drive: { ...freshDriveSettings, faces: [] },
  feed: { ...freshFeed, used: [] },
  looks: { pieces: [] },
  close: { notes: '', keep: '' },
});

/** A short name that can be engraved and used for files. */
export const boardName = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toUpperCase()
    .slice(0, 20) || 'BOARD';
