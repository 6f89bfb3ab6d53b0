import { apply, boxUnion, boxOf, emptyBox, type Box, type Transform, type Vec } from '../geometry';
import type { Mm, Rad } from '../units';
import { diameterAt } from './profile';
import { alongSide, downAxis, type LyingSide } from './side';
import { travelFor } from './taper';

/**
 * Something that is engraved at one place of a round blank, or at several evenly round it.
 * Picture frame of a face: x to the right, y up towards the rim, origin at its middle, mm of
 * surface.
 */
export interface FacePlace {
  /** All the way round: keeps its angles at every diameter, so that it closes at every one. */
  readonly closes?: boolean | undefined;
  /** Angle of its middle from the feature, to the right as seen from outside with the rim up. */
  readonly angle: Rad;
  /** Its middle from the rim along the axis, mm. */
  readonly along: Mm;
}

/** How the unrolled blank, lying with its engraved line level, is brought onto the machine. */
export interface Unrolling extends LyingSide {
  readonly contactDiameter: Mm;
  readonly rowScaling: boolean;
  /** Angle from the feature that lies on the crest where the file's zero is. */
  readonly zeroAt: Rad;
  /** From the picture on the standing blank to the file's axes. */
  readonly toFile: Transform;
}

const TURN = 2 * Math.PI;

/** Angles of n faces evenly round, the first at `start`. */
export const evenFaces = (start: Rad, n: number): Rad[] =>
  Array.from({ length: n }, (_, i) => (start + (i * TURN) / n) % TURN);

/** Which way a face reads: round the blank as it stands, down from rim to base, or up from base to rim. */
export type Reads = 'around' | 'down' | 'up';

/** Turns a face's picture to the way in which it reads. */
export const readingTurn = (p: Vec, reads: Reads): Vec =>
  reads === 'around' ? p : reads === 'down' ? { x: p.y, y: -p.x } : { x: -p.y, y: p.x };

/**
 * Where a point of a face lies on the blank: its angle from the feature and its place from the rim, on the axis.
 * A face stands upright on its own generator, as tall on the side as it is drawn; art that closes keeps its angles at
 * every diameter.
 */
export const onBlank = (p: Vec, place: FacePlace, side: LyingSide): { angle: Rad; along: Mm } => {
  const along = downAxis(alongSide(place.along, side) - p.y, side);
  const diameter = diameterAt(side.profile, place.closes ? place.along : along);
  return { angle: place.angle + (2 * p.x) / diameter, along };
};

/** The room of a face on its blank, for drawing: its edges as angles and places. */
export const faceOutline = (side: LyingSide, place: FacePlace, around: Mm, along: Mm): { angle: Rad; along: Mm }[] => {
  const edge = (y: number, turn: 1 | -1): Vec[] =>
    Array.from({ length: 25 }, (_, i) => ({ x: (turn * around * (i - 12)) / 24, y }));
  return [...edge(along / 2, 1), ...edge(-along / 2, -1)].map((p) => onBlank(p, place, side));
};

/**
 * A point of a face in the file's axes: along the blank as the head goes over its level side, around as the travel that
 * the drive must make at its contact circle. The middle of a face lies at its angle whatever the
 * diameter there; without row scaling all of it is scaled for the diameter at its middle.
 */
export const toTravel = (p: Vec, place: FacePlace, u: Unrolling): Vec => {
  const along = alongSide(place.along, u) - p.y;
  const start = ((place.angle - u.zeroAt) * u.contactDiameter) / 2;
  const arc = travelFor(
    p.x,
    along,
    u.lying,
    u.contactDiameter,
    diameterAt(u.profile, place.along),
    u.rowScaling && !place.closes,
  );
  return apply(u.toFile, { x: start + arc, y: -along });
};

/** Longest edge left straight when row scaling bends lines, mm. */
const FINE: Mm = 1;

/** A polyline of a face in the file's axes; long edges are divided where row scaling bends them. */
export const lineToTravel = (
  line: readonly Vec[],
  place: FacePlace,
  reads: Reads,
  u: Unrolling,
  closed: boolean,
): Vec[] => {
  const out: Vec[] = [];
  const count = closed ? line.length : line.length - 1;
  for (let i = 0; i < line.length; i += 1) {
    const a = readingTurn(line[i]!, reads);
    out.push(toTravel(a, place, u));
    if (!u.rowScaling || i >= count) continue;
    const b = readingTurn(line[(i + 1) % line.length]!, reads);
    const pieces = Math.ceil(Math.abs(b.y - a.y) / FINE);
    for (let k = 1; k < pieces; k += 1)
      out.push(toTravel({ x: a.x + ((b.x - a.x) * k) / pieces, y: a.y + ((b.y - a.y) * k) / pieces }, place, u));
  }
  return out;
};

/** How a band that goes all the way round meets itself. */
export interface Seam {
  readonly kind: 'seamless' | 'gapped';
  /** Gap left on purpose, mm; nought when seamless. */
  readonly gap: Mm;
}

/** Width that art is scaled to round the blank, at a diameter: one circumference, less the gap. */
export const bandWidth = (diameter: Mm, seam: Seam): Mm => Math.PI * diameter - (seam.kind === 'gapped' ? seam.gap : 0);

/** Bounding box of polylines; empty when there are none. */
export const linesBox = (lines: readonly (readonly Vec[])[]): Box =>
  lines.reduce((box, line) => (line.length === 0 ? box : boxUnion(box, boxOf(line))), emptyBox);

/** Scale and shift that bring a box of art into the middle of a room, whole and undistorted. */
export const fitInto = (art: Box, width: Mm, height: Mm): { scale: number; x: Mm; y: Mm } => {
  const w = art.maxX - art.minX;
  const h = art.maxY - art.minY;
  const scale = Math.min(w > 0 ? width / w : Infinity, h > 0 ? height / h : Infinity);
  return { scale, x: -(art.minX + art.maxX) / 2, y: -(art.minY + art.maxY) / 2 };
};
