import type { HeldSection } from './held';
import { freshBeside } from './held';
import { freshBack } from './face';
import type { SetupSections } from './input';

/** A short name that can be engraved and used for files. */
export const boardName = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toUpperCase()
    .slice(0, 20) || 'BOARD';

/** What a batch that is held so begins with, before anything else was chosen. */
export const freshSections = (held: HeldSection): SetupSections => ({
  held,
  beside: freshBeside,
  lettering: { zoneId: null, gap: 1.5, narrowest: 0.8, smallest: 1.5, lines: [] },
  back: { ...freshBack, lines: [] },
  faces: [],
  place: { school: 'file', model: 'auto' },
  burn: { sweep: 'row' },
  looks: { pieces: [] },
  close: { notes: '', keep: '' },
});
