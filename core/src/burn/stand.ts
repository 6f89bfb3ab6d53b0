import { fixed } from '../working';
import type { Mm } from '../units';
import type { BurnSetting, Machine, SecondSource } from './machine';

/** What stands still while something is burned, and is changed between two burns with the beam off. */
export interface BurnStand {
  readonly source: 'first' | 'second';
  /** Lens above its focus; below where negative. */
  readonly focus: Mm;
  /** Null: as it is. */
  readonly air: 'on' | 'off' | null;
}

/** How a machine stands when a program begins: its first source, in focus, the air as somebody left it. */
export const PLAIN: BurnStand = { source: 'first', focus: 0, air: null };

export const standOf = ({ source, focus, air }: BurnSetting): BurnStand => ({ source: source ?? 'first', focus: focus ?? 0, air: air ?? null }); // prettier-ignore

export const sameStand = (a: BurnStand, b: BurnStand): boolean =>
  a.source === b.source && a.focus === b.focus && a.air === b.air;

/** Where a lens stands against its focus, in words. */
export const focusWords = (focus: Mm): string =>
  focus === 0 ? 'in focus' : `${fixed(Math.abs(focus), 1)} mm ${focus > 0 ? 'above' : 'below'} focus`;

/**
 * Lines of G-code (RS-274, NIST IR 6556) from one stand to the next: T and M6 choose the source, M8 and M9 switch the air,
 * M0 waits for a person who sets the lens, since not every bench moves it by itself.
 */
export const standLines = (from: BurnStand, to: BurnStand): string[] => [
  ...(from.source === to.source ? [] : [`T${to.source === 'second' ? 2 : 1} M6`]),
  ...(to.air === null || from.air === to.air ? [] : [to.air === 'on' ? 'M8' : 'M9']),
  ...(from.focus === to.focus ? [] : [`(set the lens ${focusWords(to.focus)}, then start again)`, 'M0']),
];

/** A stand as it is after another: what it leaves open stays as it was. */
export const standAfter = (from: BurnStand, to: BurnStand): BurnStand => ({ ...to, air: to.air ?? from.air });

/** What a machine burns with. */
export type Sources = Pick<Machine, 'source' | 'power' | 'leastPower' | 'second'>;

/** The source that a burn goes by; null where the machine has none of it. */
export const beamSource = (
  machine: Sources,
  { source }: Pick<BurnSetting, 'source'>,
): Pick<SecondSource, 'source' | 'power' | 'leastPower'> | null =>
  source === 'second' ? (machine.second ?? null) : machine;
