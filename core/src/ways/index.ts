import type { HoldMethod } from '../holding';
import { effectiveHold } from '../setup';
import { cradle } from './cradle';
import { drive } from './drive';
import { feed } from './feed';
import { fence } from './fence';
import { locator } from './locator';
import { long } from './long';
import { marked } from './marked';
import { panel } from './panel';
import { pegs } from './pegs';
import { photo } from './photo';
import { pockets } from './pockets';
import { sheet } from './sheet';
import type { HeldBatch, Way, WayId } from './way';

export * from './way';

/** Every way of holding, by its name. */
export const WAYS: { readonly [K in WayId]: Way } = {
  pockets,
  fence,
  pegs,
  locator,
  sheet,
  panel,
  long,
  marked,
  feed,
  photo,
  drive,
  cradle,
};

/** Ways by what the Hold station is set to. */
const BY_METHOD: Readonly<Record<HoldMethod, WayId>> = {
  nest: 'pockets',
  fence: 'fence',
  lines: 'pegs',
  locator: 'locator',
  sheet: 'sheet',
  panel: 'panel',
  long: 'long',
  marked: 'marked',
  feed: 'feed',
  photo: 'photo',
};

/** How a batch is held: a round blank on its drive or still in a cradle, everything else as the Hold station says. */
export const wayOf = (shape: { readonly kind: string }, batch: HeldBatch): Way =>
  WAYS[shape.kind === 'round' ? (batch.drive ? 'drive' : 'cradle') : BY_METHOD[effectiveHold(batch).method]];
