import { heldNow, type HeldBatch, type WayId } from '../setup';
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
import type { Way } from './way';

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

/** How a batch is held. */
export const wayOf = (batch: HeldBatch): Way => WAYS[heldNow(batch).way];

export const WAY_IDS = Object.keys(WAYS) as readonly WayId[];

/** The ways that work of this form can be held in, with what each is. */
export const waysFor = (shape: { readonly kind: string }): readonly (readonly [WayId, string])[] =>
  Object.values(WAYS)
    .filter((w) => w.suits(shape))
    .map((w) => [w.id, w.words]);
