import { batchInput, type api, type BatchDocument, type BodyOf, type SimRunView, type SimView } from '@bistre/contract';
import {
  apply,
  bedToFile,
  boxCorners,
  contourLength,
  crossContours,
  effectiveHold,
  flatten,
  invert,
  loadGcode,
  markContours,
  pieceGround,
  placedPieces,
  pointerFromDot,
  roundedRectangle,
  slotTransform,
  tracedOutline,
  tracedPieces,
  worstCorner,
  type BatchInput,
  type BatchReckoning,
  type PlacedPiece,
  type Slot,
  type Vec,
} from '@bistre/core';
import {
  afterSegment,
  burnDot,
  gapOnCard,
  repeatedDot,
  shankThatGoesIn,
  slotThatHolds,
  unlikeDrawing,
  trueInPlace,
  home,
  jog,
  leastMargin,
  lookThroughLoupe,
  measureOffsets,
  moveTo,
  runFile,
  segmentBox,
  segmentPiece,
  truePose,
  tryFeed,
  type BurnedPiece,
} from '@bistre/core/bench-sim';
import { needBoard, reckonDocument } from '../batches';
import type { Db } from '../db/connect';
import { refused } from '../http/problem';
import {
  machineOf,
  layWork,
  withPointer,
  standsSim,
  layingOf,
  zeroOnGrid,
  photographOf,
  type BenchState,
} from '../simulated-bench';
import { leftAt, type Left } from './left';
import { mustTakeChanges } from './stamped';

const LOUPE_RADIUS = 2.5;

/** How pieces on a strip lie, in the words of what lies on the bed. */
const FED_AS = { row: 'fence', parts: 'panel', long: 'long' } as const;

/** The blanks of a row as they lie, strip frame. */
const blankEdges = ({ board, sizes }: BatchReckoning): Vec[][] =>
  board!.slots.map((slot) =>
    boxCorners({
      minX: -sizes.length.mean / 2,
      maxX: sizes.length.mean / 2,
      minY: -sizes.width.mean / 2,
      maxY: sizes.width.mean / 2,
    }).map((c) => apply(slotTransform(slot), c)),
  );

/** What can be seen from where the operator stands; the hidden numbers stay behind. */
const view = (state: BenchState, batch: BatchDocument, reckoning: BatchReckoning): SimView => {
  const machine = machineOf(batch);
  const board = needBoard(reckoning);
  const pose = truePose(state.hidden);
  const display = apply(bedToFile(machine), state.head);
  const whole = (v: { x: number; y: number }): { x: number; y: number } => ({ x: Math.round(v.x), y: Math.round(v.y) });
  // A corner that is aimed at is a sharp one.
  const outline = flatten(
    roundedRectangle({ x: board.width / 2, y: board.height / 2 }, board.width, board.height, reckoning.feed ? 0 : 3),
  );
  // A panel's marks are there once its first file has cut them.
  // A long piece's marks are where its segments really left them.
  const seenMarks =
    reckoning.cutOut && reckoning.face.side === 'front'
      ? []
      : board.marks.map((m) => {
          const real = state.marks?.find((b) => b.id === m.id);
          return real ? { ...m, at: { x: real.x, y: real.y } } : m;
        });
  // A feeder's work is aimed at by corners; only the seams of a long piece carry marks.
  const corners = reckoning.feed && (reckoning.feed.work !== 'long' || reckoning.feed.current === 1);
  const lines = [
    ...(corners ? [] : seenMarks).flatMap((m) =>
      (reckoning.cutOut ? crossContours(m) : markContours(m)).map((c) => {
        const points = flatten(c, 0.01);
        return { kind: 'mark' as const, points: c.closed ? [...points, points[0]!] : points };
      }),
    ),
    ...(reckoning.feed?.work === 'row' ? blankEdges(reckoning) : [outline]).map((points) => ({
      kind: 'edge' as const,
      points: [...points, points[0]!],
    })),
  ];
  const loupe = lookThroughLoupe(state, lines, LOUPE_RADIUS, reckoning.place.marksAt);
  return {
    homed: state.homed,
    display: { x: Math.round(display.x * 100) / 100 || 0, y: Math.round(display.y * 100) / 100 || 0 },
    head: state.head,
    dots: state.dots.length,
    landed: [...(state.landed ?? [])],
    feeder: state.feeder ? { moved: state.feeder.moved, offsets: state.feeder.offsets } : null,
    boardCorners: boxCorners({ minX: 0, minY: 0, maxX: board.width, maxY: board.height }).map((c) =>
      whole(apply(pose, c)),
    ),
    marksSeen: seenMarks.map((m) => ({ id: m.id, at: whole(apply(pose, m.at)) })),
    loupe: {
      radius: loupe.radius,
      lines: loupe.lines.map((l) => ({ kind: l.kind, points: l.points.map((p) => ({ x: p.x, y: p.y })) })),
    },
  };
};

/** What is meant for each loaded piece: its art and, where its side's file frees it, its outline. */
const loadedShapes = (reckoning: BatchReckoning): PlacedPiece[] => {
  if (reckoning.long) return segmentPiece(reckoning, reckoning.long);
  const placed = placedPieces(reckoning, reckoning.onTheBoard);
  const frees =
    (reckoning.feed ?? reckoning.photo) !== null ||
    (reckoning.board?.marks.length === 0 ? 'front' : 'back') === reckoning.face.side;
  if (!reckoning.cutOut || !frees) return placed;
  const lines = reckoning.cutOut.map((c) => {
    const points = flatten(c, 0.01);
    return [...points, points[0]!];
  });
  return placed.map((p) => ({ ...p, shapes: { ...p.shapes, drawn: [...p.shapes.drawn, ...lines] } }));
};

/** Length of the marks that the first file of a panel cuts beside its pieces, mm. */
const ownMarks = ({ cutOut, board, face, feed, photo }: BatchReckoning): number =>
  cutOut && board && !feed && !photo && face.side === 'front'
    ? board.marks.flatMap(crossContours).reduce((sum, c) => sum + contourLength(c), 0)
    : 0;

/** Where print ends on the piece of each slot, its own frame; null when nothing is printed. */
const printEdges = (
  batch: BatchDocument,
  { board, cutLine, sizes }: BatchReckoning,
): ((slot: number) => Vec[]) | null => {
  if (!cutLine || !board) return null;
  const { sheet } = effectiveHold(batch);
  const pieces = sheet.traced ? tracedPieces(sheet.traced) : null;
  const ground = pieces ? null : pieceGround(batchInput(batch).blank, sizes, sheet)[0]!;
  return (slot) => flatten(ground ?? tracedOutline(pieces![slot - 1]!)[0]!, 0.02);
};

interface Bench {
  readonly batch: BatchDocument;
  readonly version: number;
  readonly input: BatchInput;
  readonly reckoning: BatchReckoning;
  readonly state: BenchState;
}

const standing = async (db: Db, id: string, pieces: number, use: 'look' | 'change' = 'look'): Promise<Bench> => {
  const { batch, version, stored } = await leftAt<BenchState>(db, id);
  if (use === 'change') mustTakeChanges(batch);
  const { input, reckoning } = reckonDocument(batch, pieces);
  // Round work lies on the simulated drive, which keeps its own state.
  if (reckoning.round) needBoard(reckoning);
  return { batch, version, input, reckoning, state: standsSim(stored, batch, reckoning) };
};

export const viewBench = async (db: Db, id: string): Promise<SimView> => {
  const { batch, reckoning, state } = await standing(db, id, 1_000);
  return view(state, batch, reckoning);
};

type Act = BodyOf<typeof api.simDo>;

const laidAnew = ({ batch, reckoning, state }: Bench): BenchState => {
  const seed = (state.hidden.seed * 31 + 17) >>> 0;
  const laid = reckoning.feed
    ? { ...state, feeder: undefined, hidden: { ...state.hidden, seed } }
    : layWork(seed, batch, reckoning);
  return withPointer({ ...laid, homed: state.homed, head: state.head }, batch);
};

const atFeeder = (state: BenchState, act: Extract<Act, { act: 'feed' | 'square' }>): BenchState => {
  if (!state.feeder) throw refused({ code: 'no-feeder', message: 'Nothing lies in a feeder yet.', field: 'feed' });
  const { seed } = state.hidden;
  return {
    ...state,
    feeder:
      act.act === 'feed' ? tryFeed(seed, state.feeder, act.commanded) : measureOffsets(seed, state.feeder, act.apart),
  };
};

const after = (bench: Bench, act: Act): { state: BenchState; said: string | null } => {
  const { state } = bench;
  const machine = machineOf(bench.batch);
  switch (act.act) {
    case 'lay':
      return { state: laidAnew(bench), said: 'Board laid on the simulated bed anew' };
    case 'home':
      return { state: home(state, machine), said: null };
    case 'dot':
      return { state: burnDot(state), said: 'Test dot burned on scrap on the simulated machine' };
    case 'jog':
      return { state: jog(state, machine, { x: act.dx, y: act.dy }), said: null };
    case 'feed':
    case 'square':
      return { state: atFeeder(state, act), said: null };
    case 'goto':
      return { state: moveTo(state, machine, apply(invert(bedToFile(machine)), act)), said: null };
  }
};

export const actOnBench = async (db: Db, { id, act }: { id: string; act: Act }): Promise<Left<SimView>> => {
  const bench = await standing(db, id, 1_000, 'change');
  if (!bench.state.homed && (act.act === 'jog' || act.act === 'goto' || act.act === 'dot'))
    throw refused({ code: 'not-homed', message: 'Home the machine first; it does not know where it stands.' });
  const { state, said } = after(bench, act);
  return { value: view(state, bench.batch, bench.reckoning), state, version: bench.version, said };
};

/** The pointer's offset as the simulated machine shows it: burned dot against where the head stands. */
export const pointerOnBench = async (db: Db, id: string): Promise<{ x: number; y: number }> => {
  const { state } = await standing(db, id, 1_000, 'change');
  const burned = state.dots.at(-1);
  if (!burned) throw refused({ code: 'no-dot', message: 'Burn a dot first, then move until the pointer lies on it.' });
  const offset = pointerFromDot(burned, state.head);
  const far = Math.hypot(offset.x, offset.y);
  if (far > 5)
    throw refused({
      code: 'pointer-far',
      message: `The pointer would be ${far.toFixed(1)} mm off. Bring its dot onto the burned dot first.`,
    });
  return { x: offset.x, y: offset.y };
};

/** What a rule, a loupe or a gauge shows on the simulated bench. */
export const measureOnBench = async (
  db: Db,
  { id, what, time }: BodyOf<typeof api.simMeasure> & { id: string },
): Promise<number> => {
  const { batch, reckoning, state } = await standing(db, id, 200);
  const { seed } = state.hidden;
  const { locator } = reckoning.fixings;
  switch (what) {
    case 'card':
      return gapOnCard(seed, unlikeDrawing(seed));
    case 'back':
      if (!locator) throw refused({ code: 'no-locator', message: 'There is no locator board yet.', field: 'hold' });
      return repeatedDot(seed, time, locator, effectiveHold(batch).locator);
    case 'shank':
      return shankThatGoesIn(seed, batch.setup.hold.pins?.cell ?? 7);
    case 'fit':
      return slotThatHolds(seed);
  }
};

/** The camera's picture, and how the bench lies in it. */
export const takePhotograph = async (db: Db, { id, shot }: { id: string; shot: number }): Promise<Left<Uint8Array>> => {
  const { batch, version, reckoning, state } = await standing(db, id, 200);
  return { value: await photographOf(state, batch, reckoning, shot), state, version, said: null };
};

/** How the pieces of a load lie while its file runs. */
const lying = ({ batch, reckoning, state }: Bench): Parameters<typeof runFile>[3] => {
  const { method } = effectiveHold(batch);
  const laying = layingOf(batch, reckoning, state.hidden.seed);
  const zero = zeroOnGrid(state, batch, reckoning);
  return {
    sizes: reckoning.sizes,
    pocket: reckoning.pocket,
    // A piece that was turned in its own hole lies in it as in a pocket.
    method: reckoning.photo?.parts
      ? 'panel'
      : reckoning.feed
        ? FED_AS[reckoning.feed.work]
        : reckoning.cutOut && reckoning.face.side === 'back' && reckoning.board?.marks.length === 0
          ? 'nest'
          : method,
    load: reckoning.run.openLoad ?? 1,
    interval: reckoning.face.recipe!.engrave.interval,
    ...(reckoning.photo && !reckoning.photo.parts
      ? { lying: (slot: Slot) => trueInPlace(slot, state.thrown?.blanks ?? [], reckoning.sizes) }
      : {}),
    ...(laying ? { lying: laying } : {}),
    ...(zero ? { zero } : {}),
    laid: reckoning.feed?.work === 'row' ? batch.setup.feed.laid : 0,
  };
};

const short = (v: number): number => Math.round(v * 100) / 100;

/** Runs the load's file, as it is saved for a real machine, and measures where it landed. */
export const runOnBench = async (db: Db, id: string): Promise<Left<SimRunView>> => {
  const bench = await standing(db, id, 20_000, 'change');
  const { batch, input, reckoning } = bench;
  let { state } = bench;
  const file = loadGcode(input, reckoning, batch.name);
  if (!file.ok) throw refused(file.problem);
  const run = runFile([...file.value].join(''), state.hidden, machineOf(batch), lying(bench), loadedShapes(reckoning));
  if (!run.ok) throw refused(run.problem);
  const { long } = reckoning;
  if (long) state = { ...state, ...afterSegment(state, reckoning, long, run.value) };
  const box = long ? segmentBox(reckoning, long) : reckoning.artBox;
  const segment = long ? state.landed?.at(-1) : undefined;
  /** How far a piece is off, as measured on it; a segment as its file lies on the work. */
  const offOf = (p: BurnedPiece): Pick<SimRunView['pieces'][number], 'dx' | 'dy' | 'yaw' | 'worst'> => {
    const { dx, dy, yaw } = segment ?? p;
    return { dx, dy, yaw, worst: dx === null ? null : worstCorner(box, dx, dy!, yaw!) };
  };
  const edges = printEdges(batch, reckoning);
  return {
    state,
    version: bench.version,
    said: `Load ${reckoning.run.openLoad} run on the simulated machine: ${run.value.pieces.length} pieces, ${run.value.lines} lines of G-code`,
    value: {
      stray: Math.max(0, run.value.stray - ownMarks(reckoning)),
      lines: run.value.lines,
      predicted: reckoning.budget.predicted,
      tolerance: batch.tolerance,
      landed: [...(state.landed ?? [])],
      pieces: run.value.pieces.map((p) => ({
        slot: p.slot,
        length: p.piece.length,
        width: p.piece.width,
        seatX: p.piece.dx,
        seatY: p.piece.dy,
        seatYaw: p.piece.yaw,
        ...offOf(p),
        margin: edges ? leastMargin(p.strokes, edges(p.slot)) : null,
        // A long piece is drawn from its art, segment by segment, as each landed.
        strokes: long ? [] : p.strokes.map(short),
      })),
    },
  };
};
