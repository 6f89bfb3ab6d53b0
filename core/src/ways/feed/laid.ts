import type { BatchArt } from '../../artwork';
import { aimingOf, bedToFile } from '../../burn';
import {
  calibrateFeed,
  guideAngle,
  reckonFit,
  reckonSkew,
  type FeedCalibration,
  type FeedErrors,
  type FeedFindings,
  type FeedSettings,
  type GuideAngle,
  type GuideEnds,
  type Misfit,
  type Skew,
} from '../../feeder';
import { apply, invert } from '../../geometry';
import { blankSizes, cornerPocket, plainPlace, printedSizes, type BlankSizes, type Pocket } from '../../holding';
import { aimingError, pointerDoubt, type PointerDoubt } from '../../marks';
import {
  besideNow,
  frontFace,
  heldAs,
  artOf,
  type BatchInput,
  type FeedReckoning,
  type Face,
  type ReckonOptions,
} from '../../setup';
import { nextPiece } from '../../samples';
import type { Mm } from '../../units';
import { layLong, layRow, type FeedWorkPlan } from './work';

/** What goes into a feeder, how it lies there, and how well that is known. */
export interface OnStrip {
  readonly choice: FeedSettings & { readonly name: string };
  readonly found: FeedFindings;
  readonly sizes: BlankSizes;
  readonly pocket: Pocket;
  readonly face: Face;
  readonly art: BatchArt | null;
  readonly size: FeedReckoning['size'];
  readonly sigma: Mm;
  readonly pointer: PointerDoubt;
  readonly calibration: FeedCalibration;
  readonly skew: Skew;
  readonly guide: GuideAngle;
  readonly misfits: readonly Misfit[];
  readonly errors: FeedErrors;
  readonly work: FeedWorkPlan;
}

/** What may be off at a stop; parts are cut beside their own engraving, so that only the feed counts. */
const errorsOf = (
  { machine }: BatchInput,
  { work, turned }: FeedSettings,
  sizes: BlankSizes,
  { calibration, skew, guide }: Pick<OnStrip, 'calibration' | 'skew' | 'guide'>,
  aim: { readonly sigma: Mm; readonly pointer: Mm },
): FeedErrors => {
  const [along, across] = turned ? [sizes.width, sizes.length] : [sizes.length, sizes.width];
  const cutOut = work.kind === 'parts';
  return {
    factor: calibration.uncertainty,
    repeat: calibration.repeatability,
    skew: cutOut ? 0 : skew.uncertainty,
    guide: cutOut ? 0 : guide.uncertainty,
    aim: cutOut ? 0 : aim.sigma,
    pointer: cutOut ? 0 : aim.pointer,
    back: machine.repeatability,
    laid: work.kind === 'row' ? work.laid : 0,
    spread: work.kind === 'row' ? { along: nextPiece(along), across: nextPiece(across) } : { along: 0, across: 0 },
    dof: { feeds: calibration.dof, along: along.dof, across: across.dof },
  };
};

/** The work as it is laid on the strip; why it cannot be, where it cannot. */
const workOf = (
  input: BatchInput,
  { work }: FeedSettings,
  { sizes, art, face, size, misfits }: Pick<OnStrip, 'sizes' | 'art' | 'face' | 'size' | 'misfits'>,
): FeedWorkPlan => {
  const { feeder } = input;
  if (!feeder)
    return {
      problem: { code: 'no-feeder', message: 'Choose the feeder that carries the work.', field: 'feed.feederId' },
    };
  const [misfit] = misfits;
  if (misfit) return { problem: { code: `feed-${misfit.limit}`, message: misfit.message, field: 'feed' } };
  return work.kind === 'long'
    ? layLong(input, feeder, art, face.zone, size, work.long)
    : layRow(input, feeder, sizes, art);
};

/** The ends of the guide that were read, in the bed's frame. */
const guideOnBed = (machine: BatchInput['machine'], ends: GuideEnds | null): GuideEnds | null => {
  const toBed = invert(bedToFile(machine));
  return ends && { a: apply(toBed, ends.a), b: apply(toBed, ends.b) };
};

/** Lays a batch's work on its strip. */
export const layOnStrip = (input: BatchInput, options: ReckonOptions): OnStrip => {
  const { choice, found } = heldAs(input, 'feed');
  const { work: on } = choice;
  const { feeder, machine } = input;
  const { coverage, confidence } = besideNow(input);
  const measured = blankSizes(input.blank, coverage, confidence);
  const sizes = on.kind === 'row' ? measured : printedSizes(input.blank, measured);
  const face = frontFace(input);
  const art = artOf(input, face, sizes, options);
  const { sigma } = aimingError(aimingOf(machine));
  const pointer = pointerDoubt(machine.pointerOffset, sigma, options.now);
  const size = {
    ...(on.kind === 'long' ? { length: sizes.length.mean, width: sizes.width.mean } : choice.strip),
    thickness: sizes.thickness.mean,
  };
  const known = {
    calibration: calibrateFeed(input.feedReadings, feeder ?? { repeats: 0.1, feedPerStep: 0.01 }),
    skew: reckonSkew(found.squaring, size.length, input.tolerance),
    guide: guideAngle(guideOnBed(machine, found.guide ?? null), feeder?.along ?? 'x', sigma),
  };
  const across = feeder ? (feeder.along === 'x' ? machine.bed.height : machine.bed.width) - feeder.guideAt : Infinity;
  const misfits = feeder ? reckonFit(feeder, size, choice.rails, input.feeders, across) : [];
  return {
    choice,
    found,
    sizes,
    pocket: on.kind === 'row' ? cornerPocket(input.blank, sizes, on.pushRoom) : plainPlace(sizes),
    face,
    art,
    size,
    sigma,
    pointer,
    ...known,
    misfits,
    errors: errorsOf(input, choice, sizes, known, { sigma, pointer: pointer.uncertainty }),
    work: workOf(input, choice, { sizes, art, face, size, misfits }),
  };
};
