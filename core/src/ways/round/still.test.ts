import { reckonBatch } from '../../batch';
import { seeded } from '../../budget';
import type { Vec } from '../../geometry';
import { readGcode } from '../../output';
import type { BatchInput } from '../../setup';
import { loadedPieces, testMachine } from '../../test-batch';
import { many, within } from '../../test-many';
import { OPTIONS, reckon } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';
import { ringGcode } from './output';
import { stillGcode } from './still';

// A grip in its cradle, burned from straight above by the very file: each burned place goes down onto a piece of its own
// diameter, wherever a hand set the zero and laid the piece.
const D = 34;
const LENGTH = 130;
const PIECES = many(1_000, 400);
const grip = (square: BatchInput['machine']['square'] = null): BatchInput => {
  const plain = EXAMPLES.cradle;
  const diameter = Array.from({ length: 30 }, (_, i) => D + (i % 2 === 0 ? 0.15 : -0.15));
  const profile = [0, LENGTH].map((at) => ({ at, diameter: D }));
  return {
    ...plain,
    pieces: loadedPieces([1]),
    machine: { ...testMachine, focusRange: 20, square },
    blank: {
      ...plain.blank,
      shape: { ...plain.blank.shape, profile } as never,
      samples: { ...plain.blank.samples, diameter },
      zones: [{ ...plain.blank.zones[0]!, x: 70, width: 60, height: 16, margin: 0, angle: 0 }],
    },
    setup: {
      ...plain.setup,
      faces: [{ zoneId: 'face', content: { kind: 'art', name: 'frame', contours: [{ closed: true, vertices: [{ x: 0, y: 0 }, { x: 60, y: 0 }, { x: 60, y: 16 }, { x: 0, y: 16 }] }] }, reads: 'around', repeats: 1, wraps: false }], // prettier-ignore
    },
  };
};

/** Where the beam was on, as the machine counts, from where its zero was set. */
const burned = (input: BatchInput): Vec[] => {
  const made = stillGcode(input, reckon(input), 'grip');
  if (!made.ok) throw new Error(made.problem.message);
  const read = readGcode([...made.value].join(''), input.machine.dialect.powerMax);
  if (!read.ok) throw new Error(read.problem.message);
  const { moves } = read.value;
  return Array.from({ length: moves.count }, (_, i) => i)
    .filter((i) => moves.power[i]! > 0)
    .flatMap((i) => [i - 1, i].map((k) => ({ x: moves.x[k]!, y: moves.y[k]! })));
};

describe('a piece lying still', () => {
  it(`lands within the prediction: ${within(PIECES).words} of ${PIECES}`, () => {
    const input = grip();
    const all = burned(input);
    const end = (of: (p: Vec) => number): Vec => all.reduce((best, p) => (of(p) > of(best) ? p : best));
    // The corners of what was burned are off most.
    const corners = [1, -1].flatMap((i) => [1, -1].map((j) => end((p) => i * p.x + 2 * j * p.y)));
    expect(Math.max(...all.map((p) => Math.abs(p.y)))).toBeCloseTo(17 * Math.sin(8 / 17), 1);
    const { predicted, sources } = reckonBatch(input, { ...OPTIONS, simulatedPieces: 20_000 }).budget;
    const aim = sources.find((s) => s.id === 'pointer')!.u / Math.SQRT2;
    const r = seeded(77);
    const either = (a: number): number => a * (2 * r.uniform() - 1);
    let inside = 0;
    for (let i = 0; i < PIECES; i += 1) {
      const own = (D + 0.15 * r.normal()) / 2;
      const [crest, rim, slant, laid] = [either(0.2), either(0.2), either(0.2 / LENGTH), either(0.05)];
      const [sx, sy, lean] = [either(0.001), either(0.001), either(0.001)];
      const off = { x: rim + aim * r.normal() + either(0.04), y: crest + laid + aim * r.normal() + either(0.04) };
      const worst = Math.max(
        ...corners.map((p) => {
          // Where the head really goes, and from there straight down.
          const at = { x: (1 + sx) * p.x + lean * p.y + off.x, y: (1 + sy) * p.y + off.y + slant * p.x };
          return Math.hypot(own * Math.asin(at.y / own) - (D / 2) * Math.asin(p.y / (D / 2)), at.x - p.x);
        }),
      );
      if (worst <= predicted) inside += 1;
    }
    expect(inside / PIECES).toBeGreaterThan(within(PIECES).low);
    expect(inside / PIECES).toBeLessThan(within(PIECES).high);
  });

  it('goes by the machine’s own axes where a square measured them: 0.2 % less along, 0.1 % more across', () => {
    const side = 500;
    const [along, across] = [side * 1.002, side * 0.999];
    const diagonal = Math.hypot(along, across);
    const square = { side, along, across, rising: diagonal, falling: diagonal, rule: 0.25, measuredAt: '2026-11-01T00:00:00Z' }; // prettier-ignore
    const [plain, own] = [burned(grip()), burned(grip(square))];
    const widest = (of: readonly Vec[], by: 'x' | 'y'): number => Math.max(...of.map((p) => p[by])) - Math.min(...of.map((p) => p[by])); // prettier-ignore
    expect(widest(own, 'x') / widest(plain, 'x')).toBeCloseTo(1 / 1.002, 3);
    expect(widest(own, 'y') / widest(plain, 'y')).toBeCloseTo(1 / 0.999, 3);
  });

  it('names nothing of a drive among what it may be off by', () => {
    const { sources } = reckon(grip()).budget;
    expect(sources.map((s) => s.id).sort()).toEqual(['axes', 'crest', 'diameter', 'pointer', 'return', 'rim', 'seating', 'straight']); // prettier-ignore
    expect(sources.map((s) => s.halve).join(' ')).not.toMatch(/ring|rollers|turn/);
  });
});

it('on a drive the head alone goes by the machine’s axes: the turn is the drive’s own', () => {
  const side = 500;
  const diagonal = side * Math.hypot(1.004, 1);
  const square = { side, along: 1.004 * side, across: side, rising: diagonal, falling: diagonal, rule: 0.25, measuredAt: '2026-11-01T00:00:00Z' }; // prettier-ignore
  const farthest = (of: BatchInput['machine']['square']) => {
    const input = { ...EXAMPLES.drive, machine: { ...EXAMPLES.drive.machine, square: of } };
    const ring = ringGcode(input, reckon(input));
    if (!ring.ok) throw new Error(ring.problem.message);
    const most = (letter: string): number => Math.max(...[...ring.value.matchAll(new RegExp(`${letter}(-?[\\d.]+)`, 'g'))].map((m) => Math.abs(Number(m[1])))); // prettier-ignore
    return { x: most('X'), y: most('Y') };
  };
  const [plain, own] = [farthest(null), farthest(square)];
  expect(own.x / plain.x).toBeCloseTo(1 / 1.004, 4);
  expect(own.y).toBe(plain.y);
});
