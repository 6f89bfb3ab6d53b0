import { counted } from '../working';
import type { Effect } from './plan';

/** What is done to a cell to see whether it holds. */
export const HOLD_KINDS = ['rub', 'wash', 'tape'] as const;
export type HoldKind = (typeof HOLD_KINDS)[number];

/** One trial of whether a cell holds: how often, with what, and what came of it. */
export interface HoldTest {
  readonly kind: HoldKind;
  readonly times: number;
  readonly with: string;
  readonly holds: boolean;
}

/** How a kind of test is called, what it is done with to begin with, and how often [common practice]. */
export const HOLD_WORDS: Readonly<Record<HoldKind, { name: string; done: string; with: string; times: number }>> = {
  rub: { name: 'Rub', done: 'rubbed', with: 'a cloth and alcohol', times: 20 },
  wash: { name: 'Wash', done: 'washed', with: 'warm water and soap', times: 3 },
  tape: { name: 'Tape', done: 'taped', with: 'packing tape, pulled off at once', times: 3 },
};

const ASKED: Readonly<Record<Effect, readonly HoldKind[]>> = {
  frost: ['wash'],
  mark: ['rub'],
  clean: ['rub', 'tape'],
  // What is deep, scored or cut through is gone: there is nothing that could come off.
  deep: [],
  score: [],
  cut: [],
};

/** The tests that an effect asks for before it is said to hold: what lies on a surface may come off it [common practice]. */
export const testsFor = (effect: Effect): readonly HoldKind[] => ASKED[effect];

/** Tests that an effect asks for and nobody made. */
export const testsMissing = (effect: Effect, made: readonly Pick<HoldTest, 'kind'>[]): readonly HoldKind[] =>
  testsFor(effect).filter((kind) => !made.some((t) => t.kind === kind));

/** @example testWords({ kind: 'rub', times: 20, with: 'a cloth', holds: true }) // 'rubbed 20 times with a cloth: holds' */
export const testWords = ({ kind, times, with: by, holds }: HoldTest): string =>
  `${HOLD_WORDS[kind].done} ${counted(times, 'time')}${by.trim() && ` with ${by.trim()}`}: ${holds ? 'holds' : 'comes off'}`;
