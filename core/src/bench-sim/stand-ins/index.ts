import type { WayId } from '../../setup';
import { feed } from './feed';
import { locator } from './locator';
import { long } from './long';
import { BOARD, fence, marked } from './lying';
import { panel } from './panel';
import { pegs } from './pegs';
import { photo } from './photo';
import { sheet } from './sheet';
import type { StandIn } from './stand-in';

/** Stands in for the bench of every way; round work turns on a drive of its own (`runOnDrive`). */
export const STAND_INS: { readonly [K in WayId]: StandIn | null } = {
  pockets: BOARD,
  fence,
  pegs,
  locator,
  sheet,
  panel,
  long,
  marked,
  feed,
  photo,
  drive: null,
  cradle: null,
};

export type { Bench, BenchState, StandIn } from './stand-in';
