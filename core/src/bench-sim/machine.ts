import { apply, compose, distance, rigid, type Transform, type Vec } from '../geometry';
import { shownToTrue, UNMEASURED_AXES, type Axes, type Machine } from '../burn';
import { seeded } from '../budget';
import { POINTER_LEAN } from '../marks';
import type { Mm, Rad } from '../units';

/** What the simulated bench hides from the planner: where the board lies and where the pointer aims. */
export interface Hidden {
  readonly seed: number;
  readonly pose: { readonly angle: Rad; readonly x: Mm; readonly y: Mm };
  /** Dot minus beam on the surface in focus, mm. */
  readonly pointer: Vec;
  /** How far the dot moves for a millimetre that a surface lies higher; it shines straight down when absent. */
  readonly lean?: Vec | undefined;
  /** What printer and paper did to a sheet: scales along and across, and its right angle; absent for boards. */
  readonly print?: { readonly scaleX: number; readonly scaleY: number; readonly skew: Rad } | undefined;
  /** What the machine's axes really go; just as it shows when absent. */
  readonly axes?: Axes | undefined;
  /** Whether the same machine made the work, so that it carries the same axes. */
  readonly madeHere?: boolean | undefined;
}

/** A machine's own axes: a millimetre a metre off at the most, either way, in length and across. */
export const hiddenAxes = (seed: number): Axes => {
  const r = seeded(seed * 71 + 9);
  const off = (): number => UNMEASURED_AXES * (2 * r.uniform() - 1);
  return { x: 1 + off(), y: 1 + off(), lean: off() };
};

/** A rule is read to the half millimetre. */
const ON_THE_RULE: Mm = 0.5;

/** A square that such a machine burned, by the rule: along, across, and both diagonals; mm. */
export const squareOnRule = (side: Mm, axes: Axes): readonly [Mm, Mm, Mm, Mm] => {
  const m = shownToTrue(axes, { x: 0, y: 0 });
  const at = (x: Mm, y: Mm): Vec => apply(m, { x, y });
  const read = (a: Vec, b: Vec): Mm => Math.round(distance(a, b) / ON_THE_RULE) * ON_THE_RULE;
  const [left, right, behind, far] = [at(0, 0), at(side, 0), at(0, side), at(side, side)] as const;
  return [read(left, right), read(left, behind), read(left, far), read(behind, right)];
};

/** A simulated machine as it stands. All positions in the bed's frame, mm. */
export interface SimState {
  readonly hidden: Hidden;
  readonly homed: boolean;
  /** Where the machine shows that its head stands. */
  readonly head: Vec;
  /** How far off that it really stands, since it last came from afar; and how often it did. Nothing when absent. */
  readonly off?: Vec;
  readonly came?: number;
  /** Test dots that were burned on scrap, where the beam really landed, and what the machine showed there. */
  readonly dots: readonly (Vec & { readonly shown?: Vec })[];
}

/** A head that comes from farther than this comes back a little elsewhere, mm; on a step of the jog keys it goes as it says. */
const FROM_AFAR: Mm = 5;

/** Where a machine with such axes really is when it shows a place; bed frame. */
export const reallyAt = ({ axes }: Pick<Hidden, 'axes'>, shown: Vec): Vec =>
  axes ? apply(shownToTrue(axes, { x: 0, y: 0 }), shown) : shown;

/** Where the head really stands. */
const standsAt = ({ hidden, head, off = { x: 0, y: 0 } }: SimState): Vec =>
  reallyAt(hidden, { x: head.x + off.x, y: head.y + off.y });

/** The board's true place: what a placement tries to find. */
export const truePose = (hidden: Hidden): Transform => {
  const lies = rigid(hidden.pose.angle, hidden.pose.x, hidden.pose.y);
  if (hidden.madeHere && hidden.axes) return compose(lies, shownToTrue(hidden.axes, { x: 0, y: 0 }));
  if (!hidden.print) return lies;
  const { scaleX, scaleY, skew } = hidden.print;
  return compose(lies, { a: scaleX, b: 0, c: scaleY * Math.sin(skew), d: scaleY * Math.cos(skew), e: 0, f: 0 });
};

/** A printer of its own: half of all sheets are stretched in one direction or both, a few are sheared. */
export const printSheet = (state: SimState): SimState => {
  const r = seeded(state.hidden.seed * 31 + 5);
  const spread = (a: number): number => a * (2 * r.uniform() - 1);
  const kind = Math.floor(4 * r.uniform());
  const one = spread(0.004);
  const print =
    kind === 0
      ? { scaleX: 1, scaleY: 1, skew: 0 }
      : kind === 1
        ? { scaleX: 1 + one, scaleY: 1 + one, skew: 0 }
        : { scaleX: 1 + one, scaleY: 1 + spread(0.004), skew: kind === 3 ? spread(0.002) : 0 };
  return { ...state, hidden: { ...state.hidden, print } };
};

/**
 * Lays a board somewhere on the bed, turned by up to 4° and shifted, and bends the pointer by up to
 * half a millimetre.
 */
export const layBoard = (seed: number, machine: Pick<Machine, 'bed'>, board: { width: Mm; height: Mm }): SimState => {
  const r = seeded(seed);
  const spread = (a: number): number => a * (2 * r.uniform() - 1);
  const roomX = Math.max(0, machine.bed.width - board.width);
  const roomY = Math.max(0, machine.bed.height - board.height);
  // The largest turn that keeps the corners on the bed, at most 4°.
  const most = Math.min(
    (4 * Math.PI) / 180,
    Math.max(0.002, Math.min(roomX, roomY) / (1.2 * Math.max(board.width, board.height))),
  );
  const angle = spread(most);
  const middle = {
    x: machine.bed.width / 2 + spread(Math.min(40, roomX / 6)),
    y: machine.bed.height / 2 + spread(Math.min(40, roomY / 6)),
  };
  const turned = apply(rigid(angle, 0, 0), { x: board.width / 2, y: board.height / 2 });
  return {
    hidden: {
      seed,
      pose: { angle, x: middle.x - turned.x, y: middle.y - turned.y },
      pointer: { x: spread(0.5), y: spread(0.5) },
      lean: { x: spread(POINTER_LEAN), y: spread(POINTER_LEAN) },
    },
    homed: false,
    head: { x: machine.bed.width, y: machine.bed.height },
    dots: [],
  };
};

/** Moves the head to its home corner. */
export const home = (state: SimState, machine: Machine): SimState => ({
  ...state,
  homed: true,
  head: {
    x: machine.zeroCorner.endsWith('left') ? 0 : machine.bed.width,
    y: machine.zeroCorner.startsWith('front') ? 0 : machine.bed.height,
  },
});

/** Moves the head to a place on the bed, stopping at its ends; from afar it comes there as well as the machine returns. */
export const moveTo = (state: SimState, machine: Machine, to: Vec): SimState => {
  const { bed, repeatability } = machine;
  const head = { x: Math.min(bed.width, Math.max(0, to.x)), y: Math.min(bed.height, Math.max(0, to.y)) };
  if (distance(head, state.head) <= FROM_AFAR) return { ...state, head };
  const came = (state.came ?? 0) + 1;
  const r = seeded(state.hidden.seed * 613 + came * 7919);
  const off = { x: repeatability * (2 * r.uniform() - 1), y: repeatability * (2 * r.uniform() - 1) };
  return { ...state, head, came, off };
};

/** A step of the jog keys. */
export const jog = (state: SimState, machine: Machine, by: Vec): SimState =>
  moveTo(state, machine, { x: state.head.x + by.x, y: state.head.y + by.y });

/** Burns a dot on a scrap that lies under the head. */
export const burnDot = (state: SimState): SimState => ({
  ...state,
  dots: [...state.dots.slice(-4), { ...standsAt(state), shown: state.head }],
});

/** Where the visible dot lies on a surface at a height over the focus. */
export const dotAt = (state: SimState, height: Mm = 0): Vec => {
  const { pointer, lean } = state.hidden;
  const { x, y } = standsAt(state);
  return { x: x + pointer.x + (lean?.x ?? 0) * height, y: y + pointer.y + (lean?.y ?? 0) * height };
};

export interface LoupeLine {
  readonly kind: 'mark' | 'edge' | 'burn';
  readonly points: readonly Vec[];
}

/** A magnified picture of what lies under the visible dot; the dot is at the middle. mm. */
export interface Loupe {
  readonly radius: Mm;
  readonly lines: readonly LoupeLine[];
}

/** The stretch of a line inside a circle about the origin, or null. */
const clipToCircle = (a: Vec, b: Vec, radius: Mm): [Vec, Vec] | null => {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const qa = dx * dx + dy * dy;
  const qb = 2 * (a.x * dx + a.y * dy);
  const qc = a.x * a.x + a.y * a.y - radius * radius;
  const disc = qb * qb - 4 * qa * qc;
  if (qa === 0 || disc <= 0) return null;
  const t0 = Math.max(0, (-qb - Math.sqrt(disc)) / (2 * qa));
  const t1 = Math.min(1, (-qb + Math.sqrt(disc)) / (2 * qa));
  return t0 >= t1
    ? null
    : [
        { x: a.x + t0 * dx, y: a.y + t0 * dy },
        { x: a.x + t1 * dx, y: a.y + t1 * dy },
      ];
};

/**
 * What the loupe shows: engraved lines of the board near the dot, drawn from where they truly are.
 * @param lines polylines of the board's engraved marks and edge, board frame
 * @param height of the board's surface over the focus, where scrap lies, mm
 */
export const lookThroughLoupe = (
  state: SimState,
  lines: readonly { kind: 'mark' | 'edge'; points: readonly Vec[] }[],
  radius: Mm,
  height: Mm = 0,
): Loupe => {
  const pose = truePose(state.hidden);
  const dot = dotAt(state, height);
  const onScrap = dotAt(state);
  const seen: LoupeLine[] = [];
  for (const { kind, points } of lines) {
    const placed = points.map((p) => {
      const q = apply(pose, p);
      return { x: q.x - dot.x, y: q.y - dot.y };
    });
    for (let i = 1; i < placed.length; i += 1) {
      const part = clipToCircle(placed[i - 1]!, placed[i]!, radius);
      if (part) seen.push({ kind, points: part });
    }
  }
  for (const burn of state.dots) {
    const at = { x: burn.x - onScrap.x, y: burn.y - onScrap.y };
    if (distance(at, { x: 0, y: 0 }) < radius) seen.push({ kind: 'burn', points: [at] });
  }
  return { radius, lines: seen };
};
