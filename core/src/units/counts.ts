import type { Tagged } from './brands';

/** A piece by its line of the roster, from 1. */
export type Ordinal = Tagged<'ordinal'>;
/** A place on a board, a sheet or a strip, from 1: the first that is filled. */
export type SlotNumber = Tagged<'slot'>;
/** A load of a batch, from 1. */
export type LoadNumber = Tagged<'load'>;
/** A stop of a feeder, from 1. */
export type StopNumber = Tagged<'stop'>;

type Counted = Ordinal | SlotNumber | LoadNumber | StopNumber;

/**
 * What a list holds for a number that counts from 1: the only place that takes one off. The kinds are told apart as
 * units are: a slot does not pass for a piece.
 * @returns undefined where the list has none
 * @example nth(['MINT', 'NAVY'], 2) // 'NAVY'
 */
export const nth = <T>(list: readonly T[] | undefined, number: Counted): T | undefined => list?.[number - 1];
