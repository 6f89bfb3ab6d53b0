import { dot, type Box, type Vec, boxCorners } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm, Rad } from '../units';

/** A place at a blank’s edge that says where it lies: it bears against a contact, or an eye lays it to a line. */
export interface SeatPoint {
  /** Blank frame, mm. */
  readonly at: Vec;
  /** Outwards, of length 1. */
  readonly normal: Vec;
  readonly by: 'contact' | 'line';
}

/** Shift, mm, and turn, radians, of a piece. */
export interface SeatMove {
  readonly x: Mm;
  readonly y: Mm;
  readonly turn: Rad;
}

/** Where pieces lie, and how they move when an edge is not where it was drawn. */
export interface EdgeSeat {
  readonly points: readonly SeatPoint[];
  /** Move of a piece by a millimetre of error at each point: its edge out too far, or laid short of its line. */
  readonly response: readonly SeatMove[];
}

/** A contact is kept whatever the eye does: its share of the least squares against a line's. */
const HARD = 1e6;

type Row = readonly [number, number, number];

/** Displacement of the edge along its outward normal by a small move: n·t + θ (r × n). */
const rowOf = ({ at, normal }: SeatPoint): Row => [normal.x, normal.y, at.x * normal.y - at.y * normal.x];

const cross3 = (a: Row, b: Row): Row => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const dot3 = (a: Row, b: Row): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** The motion that two contacts leave free; up to its size. */
export const freeMove = (a: SeatPoint, b: SeatPoint): SeatMove => {
  const [x, y, turn] = cross3(rowOf(a), rowOf(b));
  return { x, y, turn };
};

/** How far a move carries the edge along its normal, mm. */
export const edgeMove = (point: SeatPoint, move: SeatMove): Mm => dot3(rowOf(point), [move.x, move.y, move.turn]);

/**
 * Solves where a piece comes to lie: contacts are kept exactly, lines are shared out evenly by eye
 * (least squares), for small moves.
 *
 * @param points at least three that leave no freedom
 * @returns the response, or a problem when a piece can still slide or turn
 * @example seatOf([front left, front right, left edge]) // a corner: three contacts
 */
export const seatOf = (points: readonly SeatPoint[]): Result<EdgeSeat> => {
  const scale = Math.max(1, ...points.map((p) => Math.hypot(p.at.x, p.at.y)));
  // Turns are counted in millimetres at the farthest point, so that all three freedoms weigh alike.
  const rows = points.map((p): Row => {
    const [x, y, turn] = rowOf(p);
    return [x, y, turn / scale];
  });
  const weights = points.map((p) => (p.by === 'contact' ? HARD : 1));
  const m = [0, 1, 2].map((i) =>
    [0, 1, 2].map((j) => rows.reduce((s, r, k) => s + weights[k]! * r[i]! * r[j]!, 0)),
  ) as [number[], number[], number[]];
  const [a, b, c] = m as unknown as [Row, Row, Row];
  const adjugate = [cross3(b, c), cross3(c, a), cross3(a, b)];
  const determinant = dot3(a, adjugate[0]!);
  const contacts = points.filter((p) => p.by === 'contact').length;
  // Of the three freedoms, each contact holds one by HARD; what is left must be held by a line that sees it.
  if (!(determinant > 1e-3 * HARD ** Math.min(3, contacts)))
    return fail(
      'not-held',
      'A piece could still slide or turn: the contacts and lines all look the same way. Move one contact.',
      'hold.lines',
    );
  const response = rows.map((r, k): SeatMove => {
    const [x, y, turn] = adjugate.map((column) => (-weights[k]! * dot3(column, r)) / determinant) as [
      number,
      number,
      number,
    ];
    return { x, y, turn: turn / scale };
  });
  return ok({ points, response });
};

/** How far the edge at a seat's point lies out on a piece that is longer and wider than meant, mm. */
export const edgeGrowth = ({ at, normal }: SeatPoint, longer: number, wider: number): Mm =>
  at.x * normal.x * longer + at.y * normal.y * wider;

/** Mean squared displacement of a point when every point of the seat is out by a standard millimetre, independently; mm². */
export const moveSquare = ({ response }: EdgeSeat, p: Vec): number =>
  response.reduce((s, r) => s + (r.x - r.turn * p.y) ** 2 + (r.y + r.turn * p.x) ** 2, 0);

/** Radial standard uncertainty at the worst corner from independent errors at the points, mm. */
export const seatSpread = ({ response }: EdgeSeat, deviations: readonly Mm[], art: Box): Mm =>
  Math.max(
    ...boxCorners(art).map((c) =>
      Math.sqrt(
        response.reduce(
          (s, r, i) => s + deviations[i]! ** 2 * ((r.x - r.turn * c.y) ** 2 + (r.y + r.turn * c.x) ** 2),
          0,
        ),
      ),
    ),
  );

/** Greatest displacement of the worst corner when every error is at its greatest, mm. */
export const seatWorst = ({ response }: EdgeSeat, greatest: readonly Mm[], art: Box): Mm =>
  Math.max(
    ...boxCorners(art).map((c) =>
      response.reduce((s, r, i) => s + greatest[i]! * Math.hypot(r.x - r.turn * c.y, r.y + r.turn * c.x), 0),
    ),
  );

/** Whether two contacts both bear when a piece is pushed at `by` along `way`: forces on both, none pulling. */
export const bearsOnBoth = (a: SeatPoint, b: SeatPoint, by: Vec, way: Vec): boolean => {
  // Contacts push inwards (−n): λ₁n₁ + λ₂n₂ = way, both λ > 0, and no moment about where the normals meet.
  const det = a.normal.x * b.normal.y - a.normal.y * b.normal.x;
  if (Math.abs(det) < 0.05) {
    const along = { x: b.at.x - a.at.x, y: b.at.y - a.at.y };
    const share = dot({ x: by.x - a.at.x, y: by.y - a.at.y }, along) / Math.max(1e-9, dot(along, along));
    return dot(a.normal, b.normal) > 0 && dot(way, a.normal) > 0.8 && share > 0.15 && share < 0.85;
  }
  const first = (way.x * b.normal.y - way.y * b.normal.x) / det;
  const second = (a.normal.x * way.y - a.normal.y * way.x) / det;
  return first > 0.15 && second > 0.15;
};
