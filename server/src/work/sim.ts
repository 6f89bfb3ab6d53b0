import type { api, BatchDocument, BodyOf, SimRunView, SimView } from '@bistre/contract';
import {
  aimingError,
  aimingOf,
  apply,
  countedToFile,
  boxCorners,
  flatten,
  invert,
  loadGcode,
  pictureDots,
  picturesOf,
  placedPieces,
  withDots,
  pointerFromDot,
  worstCorner,
  type Machine,
  type Vec,
} from '@bistre/core';
import {
  burnDot,
  gapOnCard,
  home,
  jog,
  leastMargin,
  lookThroughLoupe,
  measureOffsets,
  moveTo,
  readGuide,
  runFile,
  shankThatGoesIn,
  slotThatHolds,
  truePose,
  tryFeed,
  unlikeDrawing,
  type Bench,
  type BenchState,
  type BurnedPiece,
  type FeederState,
} from '@bistre/core/bench-sim';
import { needBoard, reckonDocument } from '../batches';
import type { Db } from '../db/connect';
import { refused } from '../http/problem';
import { benchOf, machineOf, photographOf, squareOf, standInOf, withMachine } from '../simulated-bench';
import { loadPictures } from '../pictures';
import { leftAt, type Left } from './left';
import { mustTakeChanges } from './stamped';

const LOUPE_RADIUS = 2.5;
/** Most dots of pictures that are burned at once on the simulated machine. */
const MOST_SIMULATED_DOTS = 2_000_000;

/** The ends of the guide as the machine shows them, to its hundredth. */
const shownGuide = (machine: Machine, { guide }: FeederState): NonNullable<SimView['feeder']>['guide'] => {
  const shown = (p: Vec): Vec => {
    const { x, y } = apply(countedToFile(machine), p);
    return { x: Math.round(x * 100) / 100 || 0, y: Math.round(y * 100) / 100 || 0 };
  };
  return guide ? { a: shown(guide.a), b: shown(guide.b) } : null;
};

/** What can be seen from where the operator stands; the hidden numbers stay behind. */
const view = ({ batch, bench, state }: Standing): SimView => {
  const { reckoning } = bench;
  const machine = machineOf(batch);
  const board = needBoard(reckoning);
  const standIn = standInOf(bench);
  const pose = truePose(state.hidden);
  const display = apply(countedToFile(machine), state.head);
  const whole = (v: { x: number; y: number }): { x: number; y: number } => ({ x: Math.round(v.x), y: Math.round(v.y) });
  // A long piece's marks are where its segments really left them.
  const seenMarks = standIn.marks(bench).map((m) => {
    const real = state.marks?.find((b) => b.id === m.id);
    return real ? { ...m, at: { x: real.x, y: real.y } } : m;
  });
  const closed = (points: readonly Vec[]): Vec[] => [...points, points[0]!];
  const lines = [
    ...seenMarks.flatMap((m) =>
      standIn.lines(m, bench).map((c) => {
        const points = flatten(c, 0.01);
        return { kind: 'mark' as const, points: c.closed ? closed(points) : points };
      }),
    ),
    ...standIn.edges(bench, state).map((points) => ({ kind: 'edge' as const, points: closed(points) })),
  ];
  const loupe = lookThroughLoupe(state, lines, LOUPE_RADIUS, reckoning.place.marksAt);
  return {
    homed: state.homed,
    display: { x: Math.round(display.x * 100) / 100 || 0, y: Math.round(display.y * 100) / 100 || 0 },
    head: state.head,
    dots: state.dots.length,
    landed: [...(state.landed ?? [])],
    feeder: state.feeder
      ? { moved: state.feeder.moved, offsets: state.feeder.offsets, guide: shownGuide(machine, state.feeder) }
      : null,
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

interface Standing {
  readonly batch: BatchDocument;
  readonly version: number;
  readonly bench: Bench;
  readonly state: BenchState;
}

const standing = async (db: Db, id: string, pieces: number, use: 'look' | 'change' = 'look'): Promise<Standing> => {
  const { batch, version, stored } = await leftAt<BenchState>(db, id);
  if (use === 'change') mustTakeChanges(batch);
  const { input, reckoning } = reckonDocument(batch, pieces);
  const bench = benchOf(batch, input, reckoning);
  return { batch, version, bench, state: withMachine(standInOf(bench).stands(stored, bench), batch, standInOf(bench)) };
};

export const viewBench = async (db: Db, id: string): Promise<SimView> => view(await standing(db, id, 1_000));

type Act = BodyOf<typeof api.simDo>;

const laidAnew = ({ batch, bench, state }: Standing): BenchState => {
  needBoard(bench.reckoning);
  const laid = standInOf(bench).lay((state.hidden.seed * 31 + 17) >>> 0, bench, state);
  return withMachine({ ...laid, homed: state.homed, head: state.head }, batch, standInOf(bench));
};

const atFeeder = (
  { batch, bench, state }: Standing,
  act: Extract<Act, { act: 'feed' | 'square' | 'guide' }>,
): BenchState => {
  if (!state.feeder) throw refused({ code: 'no-feeder', message: 'Nothing lies in a feeder yet.', field: 'feed' });
  const { seed } = state.hidden;
  if (act.act === 'guide') {
    const { feeder } = bench.input;
    const hand = { sigma: aimingError(aimingOf(machineOf(batch))).sigma, pointer: state.hidden.pointer };
    return { ...state, feeder: feeder ? readGuide(seed, state.feeder, feeder, hand) : state.feeder };
  }
  return {
    ...state,
    feeder:
      act.act === 'feed' ? tryFeed(seed, state.feeder, act.commanded) : measureOffsets(seed, state.feeder, act.apart),
  };
};

const after = (stands: Standing, act: Act): { state: BenchState; said: string | null } => {
  const { state } = stands;
  const machine = machineOf(stands.batch);
  switch (act.act) {
    case 'lay':
      return { state: laidAnew(stands), said: 'Board laid on the simulated bed anew' };
    case 'home':
      return { state: home(state, machine), said: null };
    case 'dot':
      return { state: burnDot(state), said: 'Test dot burned on scrap on the simulated machine' };
    case 'jog':
      return { state: jog(state, machine, { x: act.dx, y: act.dy }), said: null };
    case 'feed':
    case 'square':
    case 'guide':
      return { state: atFeeder(stands, act), said: null };
    case 'goto':
      return { state: moveTo(state, machine, apply(invert(countedToFile(machine)), act)), said: null };
  }
};

export const actOnBench = async (db: Db, { id, act }: { id: string; act: Act }): Promise<Left<SimView>> => {
  const stands = await standing(db, id, 1_000, 'change');
  if (!stands.state.homed && (act.act === 'jog' || act.act === 'goto' || act.act === 'dot'))
    throw refused({ code: 'not-homed', message: 'Home the machine first; it does not know where it stands.' });
  const { state, said } = after(stands, act);
  return { value: view({ ...stands, state }), state, version: stands.version, said };
};

/** The pointer's offset as the simulated machine shows it: burned dot against where the head stands. */
export const pointerOnBench = async (db: Db, id: string): Promise<{ x: number; y: number }> => {
  const { state } = await standing(db, id, 1_000, 'change');
  const burned = state.dots.at(-1);
  if (!burned) throw refused({ code: 'no-dot', message: 'Burn a dot first, then move until the pointer lies on it.' });
  const offset = pointerFromDot(burned.shown ?? burned, state.head);
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
  const { batch, bench, state } = await standing(db, id, 200);
  const { seed } = state.hidden;
  switch (what) {
    case 'card':
      return gapOnCard(seed, unlikeDrawing(seed));
    case 'back': {
      const apart = standInOf(bench).repeat?.(bench, state, time) ?? null;
      if (apart === null)
        throw refused({ code: 'no-locator', message: 'There is no locator board yet.', field: 'hold' });
      return apart;
    }
    case 'shank':
      return shankThatGoesIn(seed, batch.setup.beside.pins?.cell ?? 7);
    case 'fit':
      return slotThatHolds(seed);
    case 'square':
      return squareOf(batch)[time % 4]!;
  }
};

/** The camera's picture, and how the bench lies in it. */
export const takePhotograph = async (db: Db, { id, shot }: { id: string; shot: number }): Promise<Left<Uint8Array>> => {
  const { bench, version, state } = await standing(db, id, 200);
  return { value: await photographOf(bench, state, shot), state, version, said: null };
};

const short = (v: number): number => Math.round(v * 100) / 100;

/** Runs the load's file, as it is saved for a real machine, and measures where it landed. */
export const runOnBench = async (db: Db, id: string): Promise<Left<SimRunView>> => {
  const { batch, version, bench, state } = await standing(db, id, 20_000, 'change');
  const { input, reckoning } = bench;
  const standIn = standInOf(bench);
  const interval = reckoning.face.recipe?.engrave.interval ?? 1;
  const dots = pictureDots(placedPieces(reckoning, reckoning.onTheBoard), reckoning.boardToBed, interval);
  if (dots > MOST_SIMULATED_DOTS)
    throw refused({
      code: 'too-many-dots',
      message: `The pictures have ${(dots / 1e6).toFixed(1)} million dots; the simulated machine burns up to ${MOST_SIMULATED_DOTS / 1e6} million. Rehearse with a coarser recipe or a smaller load; the file for the machine is not limited so.`,
      field: 'recipe',
    });
  const pictures = await loadPictures(db, dots > 0 ? picturesOf(input) : []);
  const file = loadGcode(input, reckoning, batch.name, pictures);
  if (!file.ok) throw refused(file.problem);
  const zero = standIn.zero?.(bench, state);
  const run = runFile(
    [...file.value].join(''),
    state.hidden,
    machineOf(batch),
    {
      sizes: reckoning.sizes,
      pocket: reckoning.pocket,
      seating: standIn.seating(bench, state),
      load: reckoning.run.openLoad ?? 1,
      interval,
      ...(zero ? { zero } : {}),
    },
    standIn.meant(bench).map((p) => ({ ...p, shapes: withDots(p.shapes, interval, pictures) })),
  );
  if (!run.ok) throw refused(run.problem);
  const segment = standIn.segment?.(bench, state, run.value) ?? null;
  const left = segment ? { ...state, ...segment.state } : state;
  const box = segment?.box ?? reckoning.artBox;
  /** How far a piece is off, as measured on it; a segment as its file lies on the work. */
  const offOf = (p: BurnedPiece): Pick<SimRunView['pieces'][number], 'dx' | 'dy' | 'yaw' | 'worst'> => {
    const { dx, dy, yaw } = segment?.off ?? p;
    return { dx, dy, yaw, worst: dx === null ? null : worstCorner(box, dx, dy!, yaw!) };
  };
  return {
    state: left,
    version,
    said: `Load ${reckoning.run.openLoad} run on the simulated machine: ${run.value.pieces.length} pieces, ${run.value.lines} lines of G-code`,
    value: {
      stray: Math.max(0, run.value.stray - standIn.beside(bench)),
      lines: run.value.lines,
      predicted: reckoning.budget.predicted,
      tolerance: batch.tolerance,
      landed: [...(left.landed ?? [])],
      pieces: run.value.pieces.map((p) => ({
        slot: p.slot,
        length: p.piece.length,
        width: p.piece.width,
        seatX: p.piece.dx,
        seatY: p.piece.dy,
        seatYaw: p.piece.yaw,
        ...offOf(p),
        margin: standIn.printed ? leastMargin(p.strokes, standIn.printed(bench, p.slot)) : null,
        // A long piece is drawn from its art, segment by segment, as each landed.
        strokes: segment ? [] : p.strokes.map(short),
      })),
    },
  };
};
