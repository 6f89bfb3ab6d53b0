import type { Box } from '../geometry';
import type { BlankSizes, EdgeSeat, Made, Pocket, Slot } from '../holding';
import type { MarkSpread } from '../marks';
import type { Mm, Rad, Share } from '../units';
import type { WorkedLine } from '../working';
import type { Component } from './combine';

export type SourceId =
  | 'float'
  | 'yaw'
  | 'size'
  | 'aiming'
  | 'pointer'
  | 'return'
  | 'second'
  | 'angle'
  | 'diameter'
  | 'calibration'
  | 'slip'
  | 'number'
  | 'creep'
  | 'run-out'
  | 'taper'
  | 'tilt'
  | 'straight'
  | 'feature'
  | 'crest'
  | 'rim'
  | 'step'
  | 'backlash'
  | 'outline'
  | 'feed'
  | 'feed-repeat'
  | 'skew'
  | 'guide'
  | 'laid'
  | 'eye'
  | 'card'
  | 'stops'
  | 'cut'
  | 'seating'
  | 'line'
  | 'axes';

/** One source of position error, as a radial standard uncertainty at the worst corner of the art. */
export interface Source extends Component {
  readonly id: SourceId;
  readonly name: string;
  /** Greatest it can be, mm. */
  readonly worst: Mm;
  /** Where its size came from. */
  readonly origin: 'measured' | 'assumed' | 'catalogue' | 'profile' | 'reckoned';
  /** What would halve it. */
  readonly halve: string;
  /** Share of the squared total. */
  readonly share: Share;
  readonly working: WorkedLine;
}

/** Pieces that are laid to lines: how they are seated, and what can be wrong with it. */
export interface LaidInput {
  readonly seat: EdgeSeat;
  /** Laid to a line by eye, mm either way. */
  readonly eye: Mm;
  /** The drawn outline against the real edge, mm either way. */
  readonly outline: { readonly error: Mm; readonly measured: boolean };
  /** A frame that is lifted off: how its stops hold it, and how each stop's error changes, standard, mm. Null for machines that stay; `dof` 0: assumed. */
  readonly returns: { readonly seat: EdgeSeat; readonly u: Mm; readonly dof: number } | null;
}

/** What a machine's own axes leave, ±: a scale, as a share, and how far y leans, rad. */
export interface AxesInput {
  readonly scale: number;
  readonly lean: Rad;
  readonly measured: boolean;
  /** Whether it grows from the marks that place the work, or only over the art on a piece. */
  readonly from: 'marks' | 'piece';
}

export interface BudgetInput {
  /** Greatest displacement allowed of any point of the art on its piece, mm. */
  readonly tolerance: Mm;
  /** The art on a piece, blank frame. */
  readonly art: Box;
  /** How a piece lies: loose in a pocket, against what says where it is, or cut out where it is drawn. */
  readonly lies: 'loose' | 'against' | 'drawn';
  readonly sizes: BlankSizes;
  readonly pocket: Pocket;
  readonly slots: readonly Slot[];
  /** Marks used or planned, board frame. */
  readonly marks: MarkSpread;
  readonly sigma: Mm;
  /** How much more the aiming error weighs where a sheet may be stretched: scales are read from the marks too, or hidden; 1 for boards. */
  readonly aimingGrowth: number;
  readonly pointer: { readonly status: 'measured' | 'stale' | 'unmeasured'; readonly uncertainty: Mm };
  readonly repeatability: Mm;
  /** How far a second source's beam may lie from where it is said to, standard per axis, mm; absent where one source burns all of it. */
  readonly second?: Mm | undefined;
  /** Standard uncertainty per axis of outlines that were found in a picture, mm; 0 for drawn ones. */
  readonly outline: Mm;
  /**
   * Blanks that a camera saw, by place: how far off the middle of each is per axis, and its turn, standard; and how far the
   * camera’s foot may put it aside per axis, ± mm.
   */
  readonly seen?: readonly { readonly shift: Mm; readonly turn: Rad; readonly foot?: Mm }[] | null;
  /** Where pieces are laid to lines and contacts; null where pockets or nothing holds them. */
  readonly laid?: LaidInput | null;
  /** How truly what holds the pieces is made; null where nothing does. */
  readonly made?: Made | null;
  /** What the machine's own axes leave; null where nothing of it is felt. */
  readonly axes?: AxesInput | null;
  /** Angle left over when the work, not the file, was turned. */
  readonly leftoverAngle: Rad;
  readonly pieces: number;
  readonly seed: number;
}
