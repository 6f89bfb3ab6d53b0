import { batchInput, type BatchDocument } from '@bistre/contract';
import {
  aimingError,
  aimingOf,
  apply,
  bedToFile,
  blankOutline,
  seeded,
  effectiveHold,
  type BatchReckoning,
  type FeedReckoning,
  type Machine,
  type Side,
  type Slot,
  type Vec,
} from '@bistre/core';
import {
  layToGrid,
  layToPegs,
  sinceZero,
  unlikeDrawing,
  type LyingPiece,
  feedTo,
  photograph,
  someCamera,
  thingsOf,
  throwBlanks,
  throwOffcuts,
  layBoard,
  layInFeeder,
  laySegment,
  printSheet,
  stripPose,
  type FeederState,
  type SegmentState,
  type SimState,
  type ThrownBlank,
} from '@bistre/core/bench-sim';
import sharp from 'sharp';
import { needBoard } from './batches';
import { refused } from './http/problem';
import { seedOf } from './simulation';

/** Dots along the longer side of the simulated camera's picture. */
const PHOTO_DOTS = 2_400;

export const machineOf = (batch: BatchDocument): Machine => ({
  id: batch.machine.id,
  name: batch.machine.name,
  ...batch.machine.profile,
});

/** What the simulated bench knows beyond where things lie. */
export type BenchState = SimState &
  SegmentState & {
    /** The side of a panel that lies up. */
    readonly side?: Side;
    /** The segment of a long piece that lies on the bed. */
    readonly segment?: number;
    /** Blanks that were thrown on the bed, and which time it was. */
    readonly thrown?:
      { readonly time: number; readonly across: number; readonly blanks: readonly ThrownBlank[] } | undefined;
    /** A feeder, with the strip that lies in it. */
    readonly feeder?: FeederState | undefined;
  };

/**
 * A board, a sheet as a printer made it, or a panel laid somewhere on the bed. A panel's first file
 * defines where it lies; turned over, it lies elsewhere, unless only its pieces were turned.
 */
export const layWork = (seed: number, batch: BatchDocument, reckoning: BatchReckoning): BenchState => {
  const board = needBoard(reckoning);
  const { long } = reckoning;
  if (long) {
    const laid = layBoard(seed, machineOf(batch), { width: 100, height: 100 });
    return { ...laid, segment: long.current, hidden: { ...laid.hidden, pose: laySegment(seed, reckoning, long) } };
  }
  const laid = layBoard(seed, machineOf(batch), board);
  if (reckoning.cutLine) return printSheet(laid);
  if (!reckoning.cutOut) return laid;
  const { side } = reckoning.face;
  const square = { angle: 0, x: reckoning.boardToBed.e, y: reckoning.boardToBed.f };
  return side === 'back' && board.marks.length > 0
    ? { ...laid, side }
    : { ...laid, side, hidden: { ...laid.hidden, pose: square } };
};

/** The pointer belongs to the machine: measured for one batch, its offset holds for the next. */
export const withPointer = (state: BenchState, batch: BatchDocument): BenchState => {
  const { pointer, lean } = layBoard(seedOf(batch.machine.id), machineOf(batch), { width: 100, height: 100 }).hidden;
  return { ...state, hidden: { ...state.hidden, pointer, lean } };
};

/** How a batch's bench stands: as it was left, or laid for the first time. */
export const standsSim = (stored: BenchState | null, batch: BatchDocument, reckoning: BatchReckoning): BenchState =>
  withPointer(
    reckoning.feed
      ? fedSim(stored, batch, reckoning.feed)
      : reckoning.photo
        ? thrownSim(stored, batch, reckoning)
        : reckoning.fixings.locator
          ? standingSim(stored, batch, reckoning)
          : lyingSim(stored, batch, reckoning),
    batch,
  );

/** A frame on its locator board: the board lies as the frame came to stand for this load. */
const standingSim = (stored: BenchState | null, batch: BatchDocument, reckoning: BatchReckoning): BenchState => {
  const bare = layBoard(seedOf(batch.id), machineOf(batch), { width: 100, height: 100 });
  const state: BenchState = stored ?? bare;
  const load = reckoning.run.openLoad ?? 0;
  return {
    ...state,
    hidden: { ...state.hidden, pose: sinceZero(state.hidden.seed, load, effectiveHold(batch).locator) },
  };
};

/** How pieces that are laid to lines really lie; null where something else holds them. */
export const layingOf = (
  batch: BatchDocument,
  reckoning: BatchReckoning,
  seed: number,
): ((slot: Slot) => LyingPiece) | null => {
  const { fixings, sizes } = reckoning;
  const load = reckoning.run.openLoad ?? 1;
  const { lines, locator } = effectiveHold(batch);
  if (fixings.locator) return (slot) => layToGrid(seed, load, slot.slot, sizes, locator.eye);
  const seat = fixings.lines;
  if (!seat) return null;
  const outline = blankOutline(batchInput(batch).blank, sizes)[0]!;
  return (slot) => layToPegs(seed, load, slot.slot, outline, seat, sizes, lines, unlikeDrawing(seed));
};

/** Where the simulated head stood when zero was set over the grid: as well as pointer, step and eye let it. */
export const zeroOnGrid = (state: BenchState, batch: BatchDocument, { fixings }: BatchReckoning): Vec | null => {
  if (!fixings.locator) return null;
  const machine = machineOf(batch);
  const { sigma } = aimingError(aimingOf(machine));
  const r = seeded(state.hidden.seed * 53 + 9);
  const { pointer } = state.hidden;
  const { zero } = fixings.locator;
  return apply(bedToFile(machine), {
    x: zero.x - pointer.x + sigma * r.normal(),
    y: zero.y - pointer.y + sigma * r.normal(),
  });
};

/** The simulated bed with blanks thrown on it; the machine's frame is the work's. */
const thrownSim = (stored: BenchState | null, batch: BatchDocument, reckoning: BatchReckoning): BenchState => {
  const bare = layBoard(seedOf(batch.id), machineOf(batch), { width: 100, height: 100 });
  const state: BenchState = stored ?? bare;
  const { afterLoad } = batch.setup.hold.photo;
  const used = batch.pieces.some((p) => p.load > afterLoad && p.state !== 'loaded');
  // When every blank of the last photograph is burned, new ones are laid.
  const time =
    used && reckoning.photo!.free === 0 && reckoning.run.openLoad === null
      ? Math.max(0, ...batch.pieces.map((p) => p.load))
      : (state.thrown?.time ?? 0);
  const across = reckoning.photo!.field.width;
  const thrown =
    state.thrown?.time === time && state.thrown.across === across
      ? state.thrown
      : {
          time,
          across,
          blanks: throwBlanks(
            (state.hidden.seed + time * 101) >>> 0,
            reckoning.photo!.field,
            batchInput(batch).blank,
            reckoning.sizes,
            Math.min(24, Math.max(1, reckoning.run.waiting.length)),
          ),
        };
  // A sheet lies somewhere on the bed; burned marks lie where the machine put them.
  const pose = reckoning.photo!.onSheet
    ? layBoard(seedOf(batch.id), machineOf(batch), reckoning.photo!.field).hidden.pose
    : { angle: 0, x: 0, y: 0 };
  return { ...state, thrown, hidden: { ...state.hidden, pose } };
};

/** What the simulated camera over a batch's bed sees, as a PNG; every time it is held a little otherwise. */
export const photographOf = async (
  state: BenchState,
  batch: BatchDocument,
  reckoning: BatchReckoning,
  shot: number,
): Promise<Uint8Array> => {
  if (!reckoning.photo)
    throw refused({ code: 'no-camera', message: 'This batch is not placed by a photograph.', field: 'hold' });
  const bed = reckoning.photo.field;
  const things = reckoning.photo.parts
    ? throwOffcuts((state.hidden.seed + (state.thrown?.time ?? 0)) >>> 0, bed, reckoning.sizes.thickness.mean)
    : thingsOf(state.thrown?.blanks ?? [], batchInput(batch).blank, reckoning.sizes);
  const ratio = bed.width >= bed.height ? 4 / 3 : 3 / 4;
  const [width, height] = ratio > 1 ? [PHOTO_DOTS, PHOTO_DOTS / ratio] : [PHOTO_DOTS * ratio, PHOTO_DOTS];
  const seed = seedOf(batch.id) + shot;
  const held = someCamera(seed, bed, width, height);
  const up = batch.setup.hold.photo.cameraHeight;
  const made = photograph(
    { ...held, at: { ...held.at, height: up }, focal: (held.focal * up) / held.at.height },
    reckoning.photo.marks,
    things,
    seed,
  );
  return sharp(Buffer.from(made.data.buffer), { raw: { width: made.width, height: made.height, channels: 1 } })
    .png({ compressionLevel: 2 })
    .toBuffer();
};

/** A strip in the simulated feeder, fed to the stop that is on. */
const fedSim = (stored: BenchState | null, batch: BatchDocument, feed: FeedReckoning): BenchState => {
  const { feeder } = feed;
  const bare = layBoard(seedOf(batch.id), machineOf(batch), { width: 100, height: 100 });
  const state: BenchState = stored ?? bare;
  if (!feeder || feed.stops.length === 0) return state;
  const { seed } = state.hidden;
  const lies =
    state.feeder && state.feeder.strip === feed.strip && state.feeder.stop <= feed.current
      ? state.feeder
      : layInFeeder(seed, seedOf(feeder.id), feeder, feed.strip);
  const fed = feedTo(seed, lies, feed);
  return {
    ...state,
    // Marks of another strip are gone with it.
    ...(lies === state.feeder ? {} : { marks: [], landed: [] }),
    feeder: fed,
    hidden: { ...state.hidden, pose: stripPose(fed, feeder) },
  };
};

const lyingSim = (stored: BenchState | null, batch: BatchDocument, reckoning: BatchReckoning): BenchState => {
  const state = stored;
  if (!state) return layWork(seedOf(batch.id), batch, reckoning);
  const same = reckoning.long
    ? state.segment === reckoning.long.current
    : !reckoning.cutOut || state.side === reckoning.face.side;
  if (same) return state;
  // Turned over or moved on by hand: the head stays where it is, the pointer as it was.
  const laid = layWork((state.hidden.seed * 13 + 5) >>> 0, batch, reckoning);
  return {
    ...state,
    ...laid,
    homed: state.homed,
    head: state.head,
    dots: state.dots,
    hidden: { ...laid.hidden, pointer: state.hidden.pointer },
  };
};
