import type { Box, Transform } from '../geometry';
import type { FeedCalibration, Feeder, FeedWorkKind, GuideAngle, Index, Misfit, Skew, StripLayout } from '../feeder';
import type { LongPlan } from '../long';
import type { Problem } from '../result';
import type { Mm, Seconds, Ordinal, SlotNumber } from '../units';
import type { WorkedLine } from '../working';

/** The mark number of the strip's leading corner at the guide. */
export const START_MARK = 400;

/** One stop of the strip, with what is told to the feeder and what the head aims at. */
export interface FeedStop extends Index {
  /** Places on the strip that are burned here, first and how many; 0 and 1 for a long piece. */
  readonly first: number;
  readonly count: number;
  /** What the feeder is told, from the stop before, mm; for the first from where the strip was laid. */
  readonly command: Mm;
  /** The strip is aimed at here. */
  readonly aimed: boolean;
  readonly marks: readonly number[];
  /** Radius at 95 % at its worst corner, mm. */
  readonly error: Mm;
}

/** A batch on a feeder: how its strip is laid, fed and aimed at. */
export interface FeedReckoning {
  readonly work: FeedWorkKind;
  readonly feeder: Feeder | null;
  readonly size: { readonly length: Mm; readonly width: Mm; readonly thickness: Mm };
  readonly misfits: readonly Misfit[];
  readonly problem: Problem | null;
  readonly layout: StripLayout | null;
  readonly plan: LongPlan | null;
  readonly stops: readonly FeedStop[];
  /** The stop that is on or comes next, from 1. */
  readonly current: number;
  readonly strip: number;
  readonly strips: number;
  readonly calibration: FeedCalibration;
  readonly skew: Skew;
  readonly guide: GuideAngle;
  readonly aimEvery: number;
  /** How far the windows of a long piece may miss each other where they meet, 95 %, mm; null for everything else. */
  readonly step: Mm | null;
  readonly stepWorking: readonly WorkedLine[];
  readonly proposed: number | null;
  /** Marks of the current stop that are not read yet. */
  readonly unread: readonly number[];
  /** Where a test patch may be burned, strip frame. */
  readonly patch: Box | null;
  /** Bars under the work as they lie under the current stop, strip frame, by place along it. */
  readonly bars: readonly { readonly from: Mm; readonly to: Mm }[];
  /** What stands out of the bed at its farthest, mm: where work comes in, and where it leaves. */
  readonly room: { readonly before: Mm; readonly behind: Mm };
  /** All feeds of the batch with their settling. */
  readonly feeding: Seconds;
  /** How stops, strips, lost ends and feeding were counted. */
  readonly counts: readonly WorkedLine[];
  /** Which roster line lies on which place: burned and loaded ones as they are, the rest as they will be. */
  readonly roster: readonly { readonly slot: SlotNumber; readonly ordinal: Ordinal }[];
  /** Bed to strip at every stop as it is meant, so that the work can be drawn moving. */
  readonly meant: readonly Transform[];
}
