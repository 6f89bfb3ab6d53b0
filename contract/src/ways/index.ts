import type { WayId } from '@bistre/core';
import { z } from 'zod';
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

/** How a batch is held: one of every way's choice and findings. */
export const held = z.discriminatedUnion('way', [
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
]);

/** How a batch is held, with the ways that were tried and left, as they stood. */
export const heldSection = held.and(z.object({ left: z.array(held).max(held.options.length).readonly() }));

/** The schema of what is decided of one way. */
export const choiceOf = (way: WayId) => {
  const found = held.options.find((o) => o.shape.way.value === way);
  if (!found) throw new Error(`No way is called ${way}.`);
  return found.shape.choice;
};
/** The schema of what is seen at the bench of one way. */
export const findingsOf = (way: WayId) => held.options.find((o) => o.shape.way.value === way)!.shape.found;

/** What is decided alone: what a fixture's revision keeps. */
export const chosen = z.discriminatedUnion('way', [
  pockets.omit({ found: true }),
  fence.omit({ found: true }),
  pegs.omit({ found: true }),
  locator.omit({ found: true }),
  sheet.omit({ found: true }),
  panel.omit({ found: true }),
  long.omit({ found: true }),
  marked.omit({ found: true }),
  feed.omit({ found: true }),
  photo.omit({ found: true }),
  drive.omit({ found: true }),
  cradle.omit({ found: true }),
]);
