import { Matrix, solve } from 'ml-matrix';
import {
  bearsOnBoth,
  edgeGrowth,
  edgeMove,
  freeMove,
  seatOf,
  seatSpread,
  type EdgeSeat,
  type SeatMove,
  type SeatPoint,
} from './seat';

/** Where a piece lies whose edge is out by `errors` at the seat's points, mm. */
const seated = ({ response }: EdgeSeat, errors: readonly number[]): SeatMove => {
  let x = 0,
    y = 0,
    turn = 0;
  for (let i = 0; i < response.length; i += 1) {
    x += response[i]!.x * errors[i]!;
    y += response[i]!.y * errors[i]!;
    turn += response[i]!.turn * errors[i]!;
  }
  return { x, y, turn };
};

const corner: SeatPoint[] = [
  { at: { x: -32, y: -15 }, normal: { x: 0, y: -1 }, by: 'contact' },
  { at: { x: 32, y: -15 }, normal: { x: 0, y: -1 }, by: 'contact' },
  { at: { x: -40, y: 0 }, normal: { x: -1, y: 0 }, by: 'contact' },
];

describe('a seat', () => {
  it('of three contacts at a corner moves as trigonometry says', () => {
    const seat = seatOf(corner);
    if (!seat.ok) throw new Error(seat.problem.message);
    // An edge that is out by e at one of two contacts 64 mm apart turns the piece by e / 64.
    const move = seated(seat.value, [0, 0.1, 0]);
    expect(move.turn).toBeCloseTo(0.1 / 64, 9);
    expect(move.x).toBeCloseTo(0, 9);
    expect(move.y).toBeCloseTo(0.05, 9);
    // Grown by a percent, all edges: the middle moves by half of it, nothing turns.
    const grown = seated(
      seat.value,
      corner.map((p) => edgeGrowth(p, 0.01, 0.01)),
    );
    expect(grown.x).toBeCloseTo(0.4, 9);
    expect(grown.y).toBeCloseTo(0.15, 9);
    expect(grown.turn).toBeCloseTo(0, 9);
  });

  it('agrees with the least squares of ml-matrix where lines share what contacts leave', () => {
    const points: SeatPoint[] = [
      { at: { x: -20, y: -18 }, normal: { x: 0.1, y: -Math.sqrt(0.99) }, by: 'line' },
      { at: { x: 25, y: -10 }, normal: { x: 0.6, y: -0.8 }, by: 'line' },
      { at: { x: -44, y: 3 }, normal: { x: -1, y: 0 }, by: 'line' },
      { at: { x: 38, y: 9 }, normal: { x: 0.8, y: 0.6 }, by: 'line' },
    ];
    const seat = seatOf(points);
    if (!seat.ok) throw new Error(seat.problem.message);
    const errors = [0.12, -0.05, 0.2, 0.07];
    const rows = new Matrix(
      points.map((p) => [1, 0, 0].map((_, k) => edgeMove(p, { x: +(k === 0), y: +(k === 1), turn: +(k === 2) }))),
    );
    const [x, y, turn] = solve(rows, Matrix.columnVector(errors.map((e) => -e))).to1DArray();
    const move = seated(seat.value, errors);
    expect(move.x).toBeCloseTo(x!, 9);
    expect(move.y).toBeCloseTo(y!, 9);
    expect(move.turn).toBeCloseTo(turn!, 11);
  });

  it('refuses contacts and lines that all look the same way', () => {
    const same = corner.map((p) => ({ ...p, normal: { x: 0, y: -1 } }));
    expect(seatOf(same).ok).toBe(false);
  });

  it('says what two contacts leave free', () => {
    const free = freeMove(corner[0]!, corner[1]!);
    expect(edgeMove(corner[0]!, free)).toBeCloseTo(0, 12);
    expect(edgeMove(corner[1]!, free)).toBeCloseTo(0, 12);
    expect(Math.abs(edgeMove(corner[2]!, free))).toBeGreaterThan(0);
  });

  it('knows where a push brings both contacts to bear', () => {
    const [a, b, c] = corner as [SeatPoint, SeatPoint, SeatPoint];
    expect(bearsOnBoth(a, b, { x: 0, y: 20 }, { x: 0, y: -1 })).toBe(true);
    expect(bearsOnBoth(a, b, { x: 50, y: 20 }, { x: 0, y: -1 })).toBe(false);
    expect(bearsOnBoth(a, c, { x: 30, y: 20 }, { x: -Math.SQRT1_2, y: -Math.SQRT1_2 })).toBe(true);
    expect(bearsOnBoth(a, c, { x: 30, y: 20 }, { x: 0, y: -1 })).toBe(false);
  });

  it('adds independent errors in squares at the worst corner', () => {
    const seat = seatOf(corner);
    if (!seat.ok) throw new Error(seat.problem.message);
    const art = { minX: -10, maxX: 30, minY: -5, maxY: 5 };
    // By hand at (30, 5): y from both front contacts, x by the turn, x from the side.
    const turn = Math.SQRT2 / 64;
    const y = Math.hypot((30 + 32) / 64, (30 - 32) / 64);
    const x = Math.hypot(turn * 5, 1);
    expect(seatSpread(seat.value, [1, 1, 1], art)).toBeCloseTo(Math.hypot(x, y), 6);
  });
});
