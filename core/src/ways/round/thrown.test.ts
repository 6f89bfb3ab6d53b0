import { reckonBatch } from '../../batch';
import { seeded } from '../../budget';
import { freshDrive, type Drive } from '../../drive';
import type { BatchInput } from '../../setup';
import { testMachine } from '../../test-batch';
import { inWay } from '../../test-held';
import { OPTIONS } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';

// Round work thrown by itself, piece by piece: what an eye, a level, a rule and a drive do, put into where each corner of the
// art comes to lie on a piece of its own diameter. Bistre's sums and laws are not used; the sizes of what is assumed are
// written out here.
const TRIES = 12_000;
/** An eye to a line; rollers askew; the bubble of a level; how a turn repeats; a caliper; what stands unmeasured: rollers, chuck, axes, dial. */
const EYE = 0.2;
const CREEP = 0.001;
const BUBBLE = (0.5 * Math.PI) / 180;
const REPEAT = 0.08;
const CALIPER = 0.1;
const OFF = { rollers: 0.01, chuck: 0.001, axes: 0.001, dial: 0.2 };
const LENGTH = 130;

interface Case {
  readonly drive: 'rollers' | 'chuck' | 'still';
  readonly diameter: number;
  readonly spread: number;
  readonly samples: number;
  /** Where the face's middle lies, degrees from the zero; how far it goes around and along; its middle from the rim. */
  readonly angle: number;
  readonly around: number;
  readonly along: number;
  readonly at: number;
  readonly ring?: { readonly read: number; readonly measured: boolean };
  readonly feature?: boolean;
  readonly pointer?: boolean;
  readonly dial?: number;
}

const rollers = (diameter: number, spread: number, samples: number, angle: number, more: Partial<Case> = {}): Case => ({
  ...{ drive: 'rollers', diameter, spread, samples, angle, around: 40, along: 25, at: 60 },
  ...more,
});
const CASES: readonly Case[] = [
  rollers(75, 0.3, 12, 0),
  rollers(75, 0.3, 12, 180),
  rollers(75, 0.3, 12, 180, { ring: { read: 0.15, measured: false } }),
  rollers(75, 0.3, 12, 180, { ring: { read: 0.15, measured: true } }),
  rollers(75, 0.05, 20, 90, { ring: { read: 0.15, measured: true }, feature: true }),
  rollers(92, 0.1, 10, 0, { ring: { read: 0.15, measured: true }, pointer: false }),
  rollers(92, 0.1, 10, 120, { ring: { read: 0.3, measured: false }, around: 60 }),
  rollers(40, 0.08, 8, 0, { around: 20, along: 60, at: 80 }),
  rollers(40, 0.2, 8, 150, { ring: { read: 0.15, measured: true }, around: 20 }),
  rollers(110, 0.4, 30, 60, { ring: { read: 0.25, measured: false }, feature: true }),
  rollers(110, 0.02, 30, 0, { ring: { read: 0.15, measured: true }, along: 100, at: 70 }),
  rollers(60, 0.15, 5, 90, { ring: { read: 0.15, measured: true } }),
  { ...rollers(75, 0.3, 12, 90), drive: 'chuck' },
  { ...rollers(75, 0.3, 12, 0, { around: 120 }), drive: 'chuck', dial: 0.1 },
  { ...rollers(88, 0.5, 15, 180, { around: 90 }), drive: 'chuck', dial: 0.4 },
  { ...rollers(60, 0.1, 15, 0, { pointer: false }), drive: 'chuck', dial: 0.3 },
  { ...rollers(34, 0.1, 12, 0, { around: 8 }), drive: 'still' },
  { ...rollers(34, 0.4, 6, 0, { around: 16, along: 80, at: 70 }), drive: 'still' },
  { ...rollers(60, 0.2, 12, 0, { around: 14, pointer: false }), drive: 'still' },
  { ...rollers(22, 0.5, 12, 0, { around: 14, along: 90, at: 60 }), drive: 'still' },
];

/** So many samples of just this mean and spread. */
const samplesOf = ({ diameter, spread, samples: n }: Case): number[] => {
  const raw = Array.from({ length: n }, (_, i) => Math.sin(3 * i + 1));
  const mean = raw.reduce((a, b) => a + b, 0) / n;
  const s = Math.sqrt(raw.reduce((a, b) => a + (b - mean) ** 2, 0) / (n - 1));
  return raw.map((v) => diameter + (spread * (v - mean)) / s);
};

const batchOf = (c: Case, tolerance = 1): BatchInput => {
  const plain = c.drive === 'still' ? EXAMPLES.cradle : EXAMPLES.drive;
  const drive: Drive | null =
    c.drive === 'still'
      ? null
      : c.drive === 'chuck'
        ? ({ ...plain.drive!, ...freshDrive, kind: 'chuck', id: plain.drive!.id, name: 'Chuck' } as never) // prettier-ignore
        : plain.drive;
  const profile = [0, LENGTH].map((at) => ({ at, diameter: c.diameter }));
  const feature = c.feature ? { kind: 'mark', from: 0, to: 10, reach: 0, width: 4, mass: 0 } : null;
  const base: BatchInput = {
    ...plain,
    tolerance,
    drive,
    machine: { ...testMachine, pointerOffset: c.pointer === false ? null : testMachine.pointerOffset, focusRange: 40 },
    rings: c.ring
      ? [{ id: 'r', batchId: 'b', at: '', by: '', overlap: 0, circumference: Math.PI * c.diameter, correction: 1, readingError: c.ring.read, diameter: c.ring.measured ? c.diameter : null }] // prettier-ignore
      : [],
    blank: {
      ...plain.blank,
      shape: { ...plain.blank.shape, profile, feature } as never,
      samples: { ...plain.blank.samples, diameter: samplesOf(c) },
      zones: [{ ...plain.blank.zones[0]!, x: c.at, width: c.along, height: c.around, margin: 0, angle: (c.angle * Math.PI) / 180 }], // prettier-ignore
    },
  };
  return c.drive === 'chuck' ? inWay(base, 'drive', {}, { runOut: c.dial ?? null }) : base;
};

/** How far the worst corner of a thrown piece's art lies from where it belongs on that piece, sorted, mm. */
const thrown = (c: Case, u: { readonly pointer: number; readonly step: number }): number[] => {
  const r = seeded(c.diameter * 7 + c.angle + c.samples);
  const either = (a: number): number => a * (2 * r.uniform() - 1);
  const theta = (c.angle * Math.PI) / 180;
  const corners = [-1, 1].flatMap((i) => [-1, 1].map((j) => [(i * c.around) / 2, c.at + (j * c.along) / 2] as const));
  return Array.from({ length: TRIES }, () => {
    // What the shop believes of its spread comes of so few samples; a batch's mean is not its samples' either.
    let chi = 0;
    for (let i = 1; i < c.samples; i += 1) chi += r.normal() ** 2;
    const spread = c.spread * Math.sqrt((c.samples - 1) / chi);
    const mean = c.diameter + (spread * r.normal()) / Math.sqrt(c.samples);
    const own = mean + spread * r.normal();
    const carrier = c.ring?.measured ? c.diameter + either(CALIPER) : mean + spread * r.normal();
    const [px, aside] =
      c.pointer === false ? [either(0.3), either(0.3)] : [u.pointer * r.normal(), u.pointer * r.normal()];
    // A blank without a feature has no place around it that is aimed at.
    const py = c.feature || c.drive === 'still' ? aside : 0;
    // Travel is put right so that the ring closed on its carrier as it was read; unread, it is what the maker says.
    const read = c.ring ? Math.hypot(c.ring.read, REPEAT) * r.normal() : 0;
    const gain = c.ring
      ? (Math.PI * carrier + read) / (Math.PI * c.diameter)
      : 1 + either(c.drive === 'chuck' ? OFF.chuck : OFF.rollers);
    const turns = 1 + (REPEAT * r.normal()) / (Math.PI * c.diameter);
    const [rim, crest, level, askew, slant] = [either(EYE), c.feature || c.drive === 'still' ? either(EYE) : 0, either(BUBBLE), either(CREEP), either(EYE)]; // prettier-ignore
    const [backX, backY] = [either(0.04), either(0.04)];
    const [scaleX, scaleY, lean] = [either(OFF.axes), either(OFF.axes), either(OFF.axes)];
    const [stepped, dial, phase, seat] = [either(u.step / 2), (c.dial ?? OFF.dial) / 2, 2 * Math.PI * r.uniform(), either(0.05)]; // prettier-ignore
    return Math.max(
      ...corners.map(([a, along]) => {
        const middle = (theta * c.diameter) / 2 + a;
        // What is burned at this corner, from the zero, around on this piece and along it.
        const burned =
          c.drive === 'still'
            ? (own / 2) * Math.asin(Math.min(1, ((c.diameter / 2) * Math.sin(a / (c.diameter / 2)) * (1 + scaleY)) / (own / 2))) + seat + backY + (slant * along) / LENGTH // prettier-ignore
            : c.drive === 'rollers'
              ? middle * gain * turns + stepped + (slant * along) / freshDrive.room
              : (middle * gain * turns * own) / c.diameter + stepped + (slant * along) / freshDrive.room + dial * Math.sin(middle / (c.diameter / 2) + phase); // prettier-ignore
        const wanted = (theta * own) / 2 + a;
        const lies =
          c.drive === 'still'
            ? along * (1 + scaleX) + lean * a
            : along * (1 + scaleX) +
              (c.drive === 'rollers' ? askew * middle : 0) +
              (along - c.at) * (Math.cos(level) - 1);
        return Math.hypot(burned + crest + py - wanted, lies + rim + px + backX - along);
      }),
    );
  }).sort((x, y) => x - y);
};

describe('round work thrown piece by piece', () => {
  it.each(CASES.map((c, i) => [i + 1, c.drive, c.diameter, c.angle, c] as const))(
    '%d: %s, Ø %d mm, at %d°: the promise within 5 %%, the yield within 0.03',
    (_, __, ___, ____, c) => {
      const reckon = (tolerance: number) => reckonBatch(batchOf(c, tolerance), { ...OPTIONS, simulatedPieces: 20_000 });
      const first = reckon(1);
      const source = (id: string): number => first.budget.sources.find((s) => s.id === id)?.u ?? 0;
      const all = thrown(c, { pointer: source('pointer') / Math.SQRT2, step: source('step') * Math.sqrt(12) });
      const true95 = all[Math.ceil(0.95 * TRIES) - 1]!;
      const off = first.budget.predicted / true95 - 1;
      const tolerance = 0.8 * true95;
      const inside = all.filter((v) => v <= tolerance).length / TRIES;
      const missed = reckon(tolerance).budget.yield - inside;
      expect(Math.abs(off)).toBeLessThan(0.05);
      expect(Math.abs(missed)).toBeLessThan(0.03);
    },
  );
});
