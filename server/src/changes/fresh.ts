import type { Setup } from '@bistre/contract';
import { freshBack, freshBeside, freshHeld } from '@bistre/core';

/**
 * What a batch begins with, before anybody chose anything.
 * @param shape of its blank, which says in which ways it can be held
 */
export const freshSetup = (name: string, shape: { readonly kind: string }, quantity: number): Setup => ({
  held: freshHeld(boardName(name), shape, quantity),
  beside: freshBeside,
  lettering: {
    zoneId: null,
    gap: 1.5,
    narrowest: 0.8,
    smallest: 1.5,
    lines: [],
  },
  back: { ...freshBack, lines: [] },
  faces: [],
  place: { school: 'file', model: 'auto' },
  burn: { sweep: 'row' },
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
