import { layBoard, truePose } from '../bench-sim';
import { inPockets, runFile } from '../bench-sim/run';
import { seeded } from '../budget';
import { bedToFile } from '../burn';
import { moveWords, type Correction } from '../correct';
import { apply, compose, rigid } from '../geometry';
import { madeOf } from '../holding';
import { placedPieces, type BatchInput, type MarkReading } from '../setup';
import { testAlphabets } from '../test-alphabets';
import { loadedPieces, testBatch, testMachine } from '../test-batch';
import { inWay } from '../test-held';
import { EXAMPLES } from '../test-ways';
import { WAY_IDS, WAYS } from '../ways';
import { besideBudget, loadGcode, reckonBatch, reckonCorrection } from '.';

const options = { now: new Date('2026-11-20T00:00:00Z'), alphabets: testAlphabets, labels: 'readability', simulatedPieces: 500 }; // prettier-ignore
const SLOTS = [1, 3, 4, 6, 8, 9, 11, 13, 16, 18, 21, 24];

const stroked = (): BatchInput => {
  const base = inWay(testBatch(), 'pockets');
  const lines = [{ column: 'name', alphabet: 'readability', capHeight: 6 }];
  return { ...base, setup: { ...base.setup, lettering: { ...base.setup.lettering, lines } } };
};

/** A board whose marks are read beside where they are: shifted and turned by an error that nobody knows of. */
const misread = (input: BatchInput, seed: number, error: { x: number; y: number; turn: number }) => {
  const board = reckonBatch(input, options).board!;
  const hidden = layBoard(seed, testMachine, board).hidden;
  const wrong = compose(truePose(hidden), rigid(error.turn, error.x, error.y));
  const readings: MarkReading[] = board.marks.map((m) => ({
    id: `00000000-0000-4000-8000-00000000000${m.id}`,
    mark: m.id,
    ...apply(bedToFile(testMachine), apply(wrong, m.at)),
    source: 'typed',
    at: '2026-11-20T08:00:00Z',
    by: 'Imre',
    purpose: 'place',
  }));
  return { ...input, readings, hidden };
};

/** Burns a load on the simulated machine and gives its pieces as they were measured. */
const burn = ({ hidden, ...input }: ReturnType<typeof misread>, load: number): BatchInput['pieces'] => {
  const on = { ...input, pieces: loadedPieces(SLOTS).map((p) => ({ ...p, load })) };
  const r = reckonBatch(on, options);
  const file = loadGcode(on, r, 'load');
  if (!file.ok) throw new Error(file.problem.message);
  const lie = { sizes: r.sizes, pocket: r.pocket, load, made: madeOf(testMachine) };
  const run = runFile([...file.value].join(''), hidden, testMachine, { ...lie, seating: inPockets({ ...lie, hidden }), interval: 0.1 }, placedPieces(r, r.onTheBoard)); // prettier-ignore
  if (!run.ok) throw new Error(run.problem.message);
  return on.pieces.map((p) => {
    const { dx, dy, yaw } = run.value.pieces.find((q) => q.slot === p.slot)!;
    return { ...p, state: 'done' as const, dx, dy, yaw };
  });
};
const meanOf = (pieces: BatchInput['pieces']): number =>
  Math.hypot(pieces.reduce((s, p) => s + p.dx!, 0) / pieces.length, pieces.reduce((s, p) => s + p.dy!, 0) / pieces.length); // prettier-ignore

const accepted = (input: BatchInput, pieces: BatchInput['pieces'], load: number, laying: string | null): Correction => {
  const { proposal, measured } = reckonCorrection({ ...input, pieces }, reckonBatch({ ...input, pieces }, options))!;
  if (proposal.kind !== 'correct') throw new Error(proposal.words);
  return { ...proposal.move, id: 'c', at: '2026-11-20T09:00:00Z', by: 'Imre', laying, load, pieces: measured.length, chance: proposal.chance }; // prettier-ignore
};
const withMove = <T extends BatchInput>(input: T, correction: Correction): T => ({
  ...input,
  setup: { ...input.setup, place: { ...input.setup.place, corrections: [correction] } },
});

describe('a board that lies elsewhere than its marks were read', () => {
  const base = misread(stroked(), 41, { x: 0.5, y: -0.35, turn: 0 });
  const last = base.readings.at(-1)!.id;
  const first = burn(base, 1);

  it('its first load says by how much, in the board’s own directions; the next lies where it was meant', () => {
    expect(meanOf(first)).toBeGreaterThan(0.45);
    const correction = accepted(base, first, 1, last);
    // Twelve pieces that float by ± 0.35 mm tell a shift to ± 0.12 mm; a little of it is kept back.
    expect(Math.abs(correction.shift.x + 0.5)).toBeLessThan(0.15);
    expect(Math.abs(correction.shift.y - 0.35)).toBeLessThan(0.15);
    const next = burn(withMove(base, correction), 2);
    expect(meanOf(next)).toBeLessThan(0.2);
    // Pieces from before it are counted with it: nothing more is proposed of all of them.
    const both = withMove({ ...base, pieces: [...first, ...next] }, correction);
    const after = reckonCorrection(both, reckonBatch(both, options))!;
    expect(after.measured).toHaveLength(2 * SLOTS.length);
    expect(after.proposal.words).toMatch(/may be noise|Move the burn 0\.0\d/);
  });

  it('is gone with the laying: a mark read again takes correction and measured pieces with it', () => {
    const correction = accepted(base, first, 1, last);
    const again = { ...base.readings[0]!, id: '00000000-0000-4000-8000-000000000099', at: '2026-11-20T10:00:00Z' };
    const laid = withMove({ ...base, pieces: first, laidAfter: 1, readings: [...base.readings, again] }, correction);
    const r = reckonBatch(laid, options);
    expect(reckonCorrection(laid, r)).toMatchObject({ inForce: [], measured: [], proposal: { kind: 'leave' } });
    expect(r.boardToBed).toEqual(reckonBatch({ ...laid, setup: { ...laid.setup, place: { ...laid.setup.place, corrections: [] } } }, options).boardToBed); // prettier-ignore
  });

  it('a turn of the whole board is told by pieces far apart', () => {
    const turned = misread(stroked(), 42, { x: 0, y: 0, turn: 0.004 });
    const correction = accepted(turned, burn(turned, 1), 1, turned.readings.at(-1)!.id);
    expect(Math.abs(correction.turn + 0.004)).toBeLessThan(0.0012);
    expect(moveWords(correction)).toMatch(/turned 0\.2\d+° clockwise/);
  });

  it('pieces in slots that lie turned are counted in the board’s directions', () => {
    const r = reckonBatch({ ...base, pieces: first }, options);
    const quarter = { ...r, board: { ...r.board!, slots: r.board!.slots.map((s) => ({ ...s, angle: Math.PI / 2 })) } };
    // What lies right on the piece lies away on the board.
    const [piece] = reckonCorrection({ ...base, pieces: [{ ...first[0]!, dx: 0.3, dy: 0 }] }, quarter)!.measured;
    expect(piece!.off.x).toBeCloseTo(0, 9);
    expect(piece!.off.y).toBeCloseTo(0.3, 9);
  });
});

it('aimed well, a load is left alone in nearly every run', () => {
  const random = seeded(3);
  let left = 0;
  for (let seed = 1; seed <= 12; seed += 1) {
    const base = misread(stroked(), seed, { x: 0.03 * random.normal(), y: 0.03 * random.normal(), turn: 0 });
    const pieces = burn(base, 1);
    if (reckonCorrection({ ...base, pieces }, reckonBatch({ ...base, pieces }, options))!.proposal.kind === 'leave') left += 1; // prettier-ignore
  }
  expect(left).toBeGreaterThanOrEqual(11);
});

it.each(WAY_IDS)('%s: offered where the burn can be moved as a whole, and nowhere else', (way) => {
  const input = EXAMPLES[way];
  const r = reckonBatch(input, { ...options, simulatedPieces: 200 });
  expect(reckonCorrection(input, r) !== null).toBe(WAYS[way].corrects !== false && r.board !== null);
});

describe('the budget beside what pieces say', () => {
  const of = (id: string, u: number) => ({ id, name: id, u, worst: 0, origin: 'measured', halve: '', share: 0, working: {} }); // prettier-ignore
  const r = { budget: { sources: [of('pointer', 0.3), of('float', 0.1), of('size', 0.05), of('yaw', 0.4)] }, artBox: { minX: 0, maxX: 60, minY: 0, maxY: 20 } } as unknown as Parameters<typeof besideBudget>[0]; // prettier-ignore
  /** Offsets of a hundred pieces round a shift, with a standard deviation. */
  const pieces = (shift: number, s: number) => Array.from({ length: 100 }, (_, i) => shift + s * Math.SQRT2 * Math.sin(i * 2.399963)); // prettier-ignore

  it('tells which sources show in all alike and which from piece to piece, largest first, by the axis', () => {
    const { sources } = besideBudget(r, [0], [0])!;
    expect(sources.map((s) => [s.id, s.shows, Number(s.u.toFixed(3))])).toEqual([
      ['pointer', 'all alike', 0.212],
      ['float', 'piece to piece', 0.071],
      ['size', 'piece to piece', 0.035],
    ]);
  });

  it('finds what was expected as expected, and three times as much as more, both of shift and of spread', () => {
    const s = Math.hypot(0.1, 0.05) / Math.SQRT2;
    expect(besideBudget(r, pieces(0.1, s), pieces(0, s))).toMatchObject({ alike: { verdict: 'as expected' }, apart: { verdict: 'as expected' } }); // prettier-ignore
    expect(besideBudget(r, pieces(0, 3 * s), pieces(0, 3 * s))!.apart!.verdict).toBe('more');
    expect(besideBudget(r, pieces(0, s / 3), pieces(0, s / 3))!.apart!.verdict).toBe('less');
    expect(besideBudget(r, pieces(0.9, s), pieces(0, s))!.alike.verdict).toBe('more');
  });

  it('has the interval of a standard deviation of χ² tables: ν = 10, s = 1 lies between 0.699 and 1.755', () => {
    // χ² of 10 degrees of freedom: 3.247 and 20.483 (NIST/SEMATECH e-Handbook 1.3.6.7.4, from memory). Six pieces, two axes.
    const six = [1, -1, 1, -1, 1, -1].map((v) => v / Math.sqrt(6 / 5));
    const { apart } = besideBudget(r, six, six)!;
    expect(apart!.found).toBeCloseTo(1, 6);
    expect(apart!.low).toBeCloseTo(Math.sqrt(10 / 20.483), 3);
    expect(apart!.high).toBeCloseTo(Math.sqrt(10 / 3.247), 3);
  });

  it('of one piece has no spread, of none nothing', () => {
    expect(besideBudget(r, [0.1], [0])!.apart).toBeNull();
    expect(besideBudget(r, [], [])).toBeNull();
  });
});
