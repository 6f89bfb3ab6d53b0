import type { TrialSpec } from '@bistre/contract';
import { CUT_STATES, isPushed, type verdictsOf } from '@bistre/core';
import type { CellMark } from './GridPicture';
import type { Said } from './ScorePad';

/** One look in words. */
export const saidOf = ({ effect }: Pick<TrialSpec, 'effect'>, { grade, tell }: Said): string =>
  isPushed(effect)
    ? (CUT_STATES.find((s) => s.grade === grade && s.tell === tell)?.id ?? `${grade} of 10`)
    : `${grade}${tell === 'right' ? '' : `, too ${tell}`}`;

/** What is written on cells of which something was said. */
export const marksOf = (verdicts: ReturnType<typeof verdictsOf>): Map<number, CellMark> =>
  new Map(
    verdicts.map((v) => [v.cell, { text: v.looks.length > 1 ? v.grade.toFixed(1) : String(v.grade), tell: v.tell === 'right' ? null : v.tell, apart: v.apart }]), // prettier-ignore
  );
