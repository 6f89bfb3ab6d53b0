import type { PlacedPiece } from '../../artwork';
import { flatten, roundedRectangle, boxCorners, type Box, type Contour, type Vec } from '../../geometry';
import type { Board, Side } from '../../holding';
import type { MarkPlace } from '../../marks';
import type { GreyPicture } from '../../photo';
import { placedPieces, type BatchInput, type BatchReckoning } from '../../setup';
import type { Mm, SlotNumber } from '../../units';
import type { FeederState } from '../feeder';
import { layBoard, type SimState } from '../machine';
import type { Seating, SimRun } from '../run';
import type { ThrownBlank } from '../scatter';
import type { Landed, SegmentState } from '../segments';

/** What a simulated bench knows beyond where things lie. */
export type BenchState = SimState &
  SegmentState & {
    /** The side of a panel that lies up. */
    readonly side?: Side;
    /** The segment of a long piece that lies on the bed. */
    readonly segment?: number;
    /** Blanks that were thrown on the bed, and which time it was. */
    readonly thrown?:
      { readonly time: number; readonly across: Mm; readonly blanks: readonly ThrownBlank[] } | undefined;
    /** A feeder, with the strip that lies in it. */
    readonly feeder?: FeederState | undefined;
  };

/** A batch on the bench, with what chance begins from: the bench, its machine and its feeder are each the same every time. */
export interface Bench {
  readonly input: BatchInput;
  readonly reckoning: BatchReckoning;
  readonly seeds: { readonly batch: number; readonly feeder: number };
}

/** How a segment came to lie on its work, once it is burned. */
export interface BurnedSegment {
  readonly state: Required<SegmentState>;
  /** What it carries, from the middle of the work. */
  readonly box: Box;
  readonly off: Landed | undefined;
}

/** Stands in for a bench on which work is held in one way. What it hides, only its measurements show. */
export interface StandIn {
  /** Whether its machine has axes of its own: it made the work itself, or somebody else did; absent where none are hidden. */
  readonly axes?: 'made here' | 'made elsewhere' | undefined;
  /** How the work lies: as it was left, or laid for the first time. */
  stands(stored: BenchState | null, bench: Bench): BenchState;
  /** The work taken off and laid on anew. */
  lay(seed: number, bench: Bench, left: BenchState): BenchState;
  /** Marks that are there to be aimed at, board frame; and their lines. */
  marks(bench: Bench): readonly MarkPlace[];
  readonly lines: (mark: MarkPlace, bench: Bench) => readonly Contour[];
  /** Edges that are there to be aimed at, closed, board frame. */
  edges(bench: Bench, state: BenchState): readonly (readonly Vec[])[];
  /** What is meant for each loaded piece. */
  meant(bench: Bench): readonly PlacedPiece[];
  /** Length of what the file burns beside its pieces, mm. */
  beside(bench: Bench): Mm;
  /** How pieces lie while the file of the load runs. */
  seating(bench: Bench, state: BenchState): Seating;
  /** What the machine showed where the file's zero was set; absent where that is the machine's own. */
  readonly zero?: (bench: Bench, state: BenchState) => Vec;
  /** Where print ends on the piece of a slot, piece frame; absent where nothing is printed. */
  readonly printed?: (bench: Bench, slot: SlotNumber) => readonly Vec[];
  /** What a segment's run leaves behind; null where work is not burned in segments. */
  readonly segment?: (bench: Bench, state: BenchState, run: SimRun) => BurnedSegment | null;
  /** What a camera straight above sees; every time it is held a little otherwise. */
  readonly photograph?: (bench: Bench, state: BenchState, shot: number, dots: number) => GreyPicture;
  /** Distance of a dot and its repeat after a frame was lifted off and put back; null while there is no board for it, mm. */
  readonly repeat?: (bench: Bench, state: BenchState, time: number) => Mm | null;
}

/** The outline of a board whose corners are rounded, board frame. */
export const outlineOf = ({ width, height }: Board, cornerRadius: Mm): Vec[] =>
  flatten(roundedRectangle({ x: width / 2, y: height / 2 }, width, height, cornerRadius));

/** Half of a piece's size about its middle. */
export const sizeBox = ({ sizes }: BatchReckoning): Vec[] =>
  boxCorners({
    minX: -sizes.length.mean / 2,
    maxX: sizes.length.mean / 2,
    minY: -sizes.width.mean / 2,
    maxY: sizes.width.mean / 2,
  });

/** A bare machine before work is laid on it. */
export const bareBench = ({ input: { machine }, seeds }: Bench): SimState =>
  layBoard(seeds.batch, machine, { width: 100, height: 100 });

/** The pieces of the load as they are drawn. */
export const asPlaced = ({ reckoning }: Bench): PlacedPiece[] => placedPieces(reckoning, reckoning.onTheBoard);

/** Pieces with the lines that free them from what they are cut from. */
export const cutFree = (bench: Bench): PlacedPiece[] => {
  const lines = (bench.reckoning.own.cutOut?.lines ?? []).map((c) => {
    const points = flatten(c, 0.01);
    return [...points, points[0]!];
  });
  return asPlaced(bench).map((p) => ({ ...p, shapes: { ...p.shapes, drawn: [...p.shapes.drawn, ...lines] } }));
};

/** The load that is on. */
export const loadOf = ({ reckoning }: Bench): number => reckoning.run.openLoad ?? 1;
