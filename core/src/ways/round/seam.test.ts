import { seeded } from '../../budget';
import { combineRings, type RingReading } from '../../drive';
import { governingSize } from '../../samples';
import type { BatchInput } from '../../setup';
import { inWay } from '../../test-held';
import { reckon } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';

// The drive itself, a line at a time, without any of Bistre's formulas: rollers whose travel nobody knows, pieces of a
// spread, a ring that is read on one of them, and every other piece turned by the number that followed.
const D = 75;
const S = 0.3;
const READ = 0.15;
const REPEAT = 0.08;
const TRIES = 40_000;

/** Samples whose mean and spread are just so, many enough to be known. */
const samples = Array.from({ length: 400 }, (_, i) => D + (i % 2 === 0 ? S : -S) * Math.sqrt(399 / 400));
const diameter = governingSize({ label: 'diameter', nominal: D, catalogueTolerance: 1, samples, coverage: 0.95, confidence: 0.95 }); // prettier-ignore

const tries = (measured: boolean): number[] => {
  const random = seeded(11);
  return Array.from({ length: TRIES }, () => {
    const gain = 1 + 0.02 * random.normal();
    const carrier = D + S * random.normal();
    // The surface goes gain × what is commanded; one turn of this piece is π times its own diameter.
    const overlap = Math.PI * D * gain - Math.PI * carrier + Math.hypot(READ, REPEAT) * random.normal();
    const ring: RingReading = { overlap, circumference: Math.PI * D, correction: 1, readingError: READ, diameter: measured ? carrier : null }; // prettier-ignore
    const { correction } = combineRings([ring], Math.PI * D, REPEAT, { mean: diameter.mean, u: S });
    return Math.PI * D * gain * correction - Math.PI * (D + S * random.normal()) + REPEAT * random.normal();
  });
};

const cup = (rings: readonly object[]): BatchInput => {
  const plain = EXAMPLES.drive;
  const profile = [
    { at: 0, diameter: D },
    { at: 130, diameter: D },
  ];
  return inWay(
    {
      ...plain,
      rings: rings as never,
      blank: {
        ...plain.blank,
        shape: { ...plain.blank.shape, profile } as never,
        samples: { ...plain.blank.samples, diameter: samples },
      },
    },
    'drive',
    {},
    {},
  );
};
const ring = (piece: number | null) => ({ id: 'r', overlap: 0, circumference: Math.PI * D, correction: 1, readingError: READ, diameter: piece, at: '2026-11-20T08:00:00Z', by: 'Odile', batchId: 'b' }); // prettier-ignore
const spread95 = (misses: readonly number[]): number =>
  misses.map(Math.abs).sort((a, b) => a - b)[Math.ceil(0.95 * misses.length) - 1]!;

describe('the seam of pieces that differ', () => {
  it('misses by ± 2.6 mm where the ring’s piece was not measured, not by ± 0.36', () => {
    const { seam } = reckon(cup([ring(null)])).own.round!.on!;
    expect(seam.spread).toBeCloseTo(2.66, 1);
    expect(seam.spread / spread95(tries(false))).toBeCloseTo(1, 1);
    expect(Math.abs(seam.spread / spread95(tries(false)) - 1)).toBeLessThan(0.05);
  });
  it('misses by the pieces alone where it was', () => {
    const { seam, rings } = reckon(cup([ring(D)])).own.round!.on!;
    expect(rings.ofPiece).toBe(0);
    expect(Math.abs(seam.spread / spread95(tries(true)) - 1)).toBeLessThan(0.05);
    expect(seam.spread).toBeLessThan(2);
  });
  it('a ring on a piece that is larger tells the same drive as one on a piece like the rest', () => {
    // Both turned by a drive that goes 1 % too far.
    const set = { mean: D, u: S };
    const on = (piece: number): number =>
      combineRings(
        [{ overlap: Math.PI * D * 1.01 - Math.PI * piece, circumference: Math.PI * D, correction: 1, readingError: READ, diameter: piece }], // prettier-ignore
        Math.PI * D,
        REPEAT,
        set,
      ).correction;
    for (const piece of [D - 1, D, D + 0.4, D + 2]) expect(on(piece)).toBeCloseTo(1 / 1.01, 6);
  });
  it('is told in its working, number for number', () => {
    const { seam } = reckon(cup([ring(null)])).own.round!.on!;
    const line = seam.working.find((w) => w.label === 'its 95 %')!;
    const [t, ...parts] = [...line.substituted.matchAll(/[\d.]+(?=²| ×)/g)].map((m) => Number(m[0]));
    expect(t! * Math.hypot(...parts)).toBeCloseTo(seam.spread, 1);
  });
});
