import { inWay } from '../../test-held';
import { freshCup, freshDrive, ORIENTATIONS, toTravel, readingTurn, type Drive, type Orientation } from '../../drive';
import { readGcode } from '../../output';
import { LineBuffer } from '../../output/line-buffer';
import type { Grey } from '../../picture';
import { testBatch } from '../../test-batch';
import { reckonBatch } from '../../batch';
import { type BatchInput, type FaceChoice } from '../../setup';
import { turnedGcode } from './output';
import { laidPictures } from './pictures';

const plain = testBatch();
const drive: Drive = { ...freshDrive, id: 'd', name: 'Rollers', centreDistance: 40, axisAcceleration: 50 };
const zone = { ...plain.blank.zones[0]!, x: 60, width: 40, height: 50, margin: 0, angle: 0.6 };
const SIZE = { width: 40, height: 32 };

/** Dark where the test says; every test picture is unlike its mirror images and turns. */
const picture = (dark: (u: number, v: number) => boolean): Grey => ({
  ...SIZE,
  pixels: Uint8Array.from({ length: SIZE.width * SIZE.height }, (_, i) =>
    dark(((i % SIZE.width) + 0.5) / SIZE.width, (Math.floor(i / SIZE.width) + 0.5) / SIZE.height) ? 0 : 255,
  ),
});
const ell = picture((u, v) => u < 0.3 || v > 0.7);

const batch = (face: Partial<FaceChoice>, found: Orientation, rowScaling: boolean): BatchInput => {
  const faces: FaceChoice[] = [
    {
      zoneId: zone.id,
      content: {
        kind: 'picture',
        pictureId: 'p',
        name: 'ell.png',
        ...SIZE,
        darkness: 0.5,
        treatment: { kernel: 'half', densest: 1, gamma: 1, negative: false },
      },
      reads: 'around',
      repeats: 1,
      wraps: false,
      ...face,
    },
  ];
  const input = testBatch({
    drive,
    blank: {
      ...plain.blank,
      holes: [],
      zones: [zone],
      shape: {
        ...freshCup,
        profile: [
          { at: 0, diameter: 92 },
          { at: 130, diameter: 70 },
        ],
        wall: 1.6,
      },
      samples: { length: [], width: [], thickness: [] },
    },
    pieces: [{ id: 'p', ordinal: 1, load: 1, slot: 1, state: 'loaded', cause: null, dx: null, dy: null, yaw: null }],
    setup: { ...plain.setup, faces },
  });
  const held = inWay(input, 'drive', { driveId: drive.id, rowScaling }, { letter: found });
  const numberSet = reckon(held).own.round!.on!.control.value;
  return inWay(held, 'drive', {}, { numberSet });
};
const reckon = (input: BatchInput): ReturnType<typeof reckonBatch> =>
  reckonBatch(input, { now: new Date('2026-11-23T10:00:00Z'), alphabets: {}, labels: 'x', simulatedPieces: 200 });

/** Burned stretches of a file: place along the blank and travel, mm. */
const burnedIn = (text: string, perMm: number): { x0: number; x1: number; y: number }[] => {
  const program = readGcode(text, 1000);
  if (!program.ok) throw new Error(program.problem.message);
  const out: { x0: number; x1: number; y: number }[] = [];
  let x = 0;
  let y = 0;
  const { moves } = program.value;
  for (let i = 0; i < moves.count; i += 1) {
    if (moves.power[i]! > 0) out.push({ x0: Math.min(x, moves.x[i]!), x1: Math.max(x, moves.x[i]!), y: y / perMm });
    x = moves.x[i]!;
    y = moves.y[i]!;
  }
  return out;
};

describe('a picture on a cone', () => {
  it.each(
    ORIENTATIONS.flatMap((found) =>
      (['around', 'down', 'up'] as const).flatMap((reads) =>
        [true, false].map((scaled) => [found, reads, scaled] as const),
      ),
    ),
  )('is burned where its own points are unrolled to: %j, reading %s, row scaling %s', (found, reads, rowScaling) => {
    const input = batch({ reads }, found, rowScaling);
    const r = reckon(input);
    const made = turnedGcode(input, r, 'cup', new Map([['p', ell]]));
    if (!made.ok) throw new Error(made.problem.message);
    const on = r.own.round!.on!;
    const burned = burnedIn([...made.value].join(''), on.control.artScale);
    const face = r.own.round!.faces[0]!;
    const { width, height } = face.picture!;
    // The other way round: points of the picture, forward to the machine, and asked there.
    const { interval } = { interval: on.interval!.used };
    const isBurned = (p: { x: number; y: number }): boolean => {
      const row = Math.round(p.y / interval) * interval;
      return burned.some((b) => Math.abs(b.y - row) < interval / 4 && b.x0 - 1e-3 <= p.x && p.x <= b.x1 + 1e-3);
    };
    for (let i = 0; i < 20; i += 1)
      for (let j = 0; j < 16; j += 1) {
        const [u, v] = [(i + 0.5) / 20, (j + 0.5) / 16];
        // Near an edge of the picture's parts a dot may fall on either side.
        if (Math.abs(u - 0.3) < 0.03 || Math.abs(v - 0.7) < 0.035) continue;
        const p = readingTurn({ x: (u - 0.5) * width, y: (0.5 - v) * height }, reads);
        const at = toTravel(p, face.places[0]!, on.unrolling);
        expect([i, j, isBurned(at)]).toEqual([i, j, u < 0.3 || v > 0.7]);
      }
  });
});

it('that is wholly dark is burned from its first dot to its last', () => {
  const input = batch({}, { quarters: 0, mirrored: false }, true);
  const r = reckon(input);
  const made = turnedGcode(input, r, 'cup', new Map([['p', picture(() => true)]]));
  if (!made.ok) throw new Error(made.problem.message);
  const on = r.own.round!.on!;
  const [laid] = laidPictures(r.own.round!.faces, on.unrolling, on.interval!.used);
  const burned = burnedIn([...made.value].join(''), on.control.artScale);
  const dots = laid!.dots[1] - laid!.dots[0] + 1;
  expect(Math.max(...burned.map((b) => b.x1 - b.x0))).toBeCloseTo(dots * on.interval!.used, 3);
  expect(new Set(burned.map((b) => b.y.toFixed(4))).size).toBe(laid!.lines[1] - laid!.lines[0] + 1);
});

it.each([
  ['another picture', { kind: 'picture' }],
  ['outlines', { kind: 'art' }],
] as const)('that shares its lines with %s is burned once where they overlap', (_, { kind }) => {
  // The second lies 20 mm along from the first, in the same lines: half of one on half of the other.
  const one = batch({}, { quarters: 0, mirrored: false }, false);
  const [face] = one.setup.faces;
  const square = [0, 1, 2, 3].map((i) => ({ x: i > 0 && i < 3 ? 40 : 0, y: i > 1 ? 32 : 0 }));
  const second = { ...zone, id: 'second', x: zone.x + 20 };
  const content: FaceChoice['content'] = kind === 'art' ? { kind, name: 'plate', contours: [{ closed: true, vertices: square }] } : face!.content; // prettier-ignore
  const input = {
    ...one,
    blank: { ...one.blank, zones: [zone, second] },
    setup: { ...one.setup, faces: [face!, { ...face!, zoneId: 'second', content }] },
  };
  const stretches = (of: BatchInput): { lines: Map<string, [number, number][]>; burned: number } => {
    const r = reckon(of);
    const made = turnedGcode(of, r, 'cup', new Map([['p', picture(() => true)]]));
    if (!made.ok) throw new Error(made.problem.message);
    const lines = new Map<string, [number, number][]>();
    for (const { x0, x1, y } of burnedIn([...made.value].join(''), r.own.round!.on!.control.artScale))
      lines.set(y.toFixed(4), [...(lines.get(y.toFixed(4)) ?? []), [x0, x1]]);
    return { lines, burned: [...lines.values()].flat().reduce((sum, [x0, x1]) => sum + x1 - x0, 0) };
  };
  const alone = (faces: readonly FaceChoice[]) => stretches({ ...input, setup: { ...input.setup, faces } });
  const both = stretches(input);
  for (const spans of both.lines.values()) {
    const inOrder = [...spans].sort((a, b) => a[0] - b[0]);
    inOrder.slice(1).forEach(([x0], i) => expect(x0).toBeGreaterThan(inOrder[i]![1]));
  }
  const [first, other] = input.setup.faces.map((one) => alone([one]));
  // What both would burn, less the overlap: where one begins until where the other ends, line by line.
  let union = 0;
  for (const y of new Set([...first!.lines.keys(), ...other!.lines.keys()])) {
    const spans = [...(first!.lines.get(y) ?? []), ...(other!.lines.get(y) ?? [])].sort((a, b) => a[0] - b[0]);
    let reached = -Infinity;
    for (const [x0, x1] of spans) {
      union += Math.max(0, x1 - Math.max(x0, reached));
      reached = Math.max(reached, x1);
    }
  }
  expect(union).toBeLessThan(0.9 * (first!.burned + other!.burned));
  expect(both.burned).toBeCloseTo(union, 1);
});

describe.each(['picture', 'art'] as const)('a %s that goes all the way round and meets itself', (kind) => {
  // 14,720 steps are a turn; at 11 and 13 steps a line is left over at the seam, a fifth and a third of one wide.
  it.each([0.085, 0.216, 0.255, 0.37])(
    'is burned with each line once, also at its seam: lines asked %d mm apart',
    (wanted) => {
      const one = batch({ wraps: true }, { quarters: 0, mirrored: false }, false);
      const square = [0, 1, 2, 3].map((i) => ({ x: i > 0 && i < 3 ? 40 : 0, y: i > 1 ? 10 : 0 }));
      const [face] = one.setup.faces;
      const content: FaceChoice['content'] = kind === 'art' ? { kind, name: 'band', contours: [{ closed: true, vertices: square }] } : face!.content; // prettier-ignore
      const recipe = { ...one.recipe!, engrave: { ...one.recipe!.engrave, interval: wanted } };
      const held = inWay({ ...one, recipe, setup: { ...one.setup, faces: [{ ...face!, content }] } }, 'drive', { seam: { kind: 'seamless', gap: 0 } as never }); // prettier-ignore
      const input = inWay(held, 'drive', {}, { numberSet: reckon(held).own.round!.on!.control.value });
      const r = reckon(input);
      const on = r.own.round!.on!;
      const made = turnedGcode(input, r, 'cup', new Map([['p', picture(() => true)]]));
      if (!made.ok) throw new Error(made.problem.message);
      const rows = [...new Set(burnedIn([...made.value].join(''), on.control.artScale).map((b) => Math.round(b.y / on.interval!.used)))]; // prettier-ignore
      const [low, high] = [Math.min(...rows), Math.max(...rows)];
      // Every line there is, and from the last one on to the first, a turn on, no less than half a line and no more than one and a half.
      expect(rows).toHaveLength(high - low + 1);
      const seam = on.circumference / on.interval!.used - (high - low);
      expect(seam).toBeGreaterThanOrEqual(0.5 - 1e-6);
      expect(seam).toBeLessThan(1.5 + 1e-6);
    },
  );
});

it('is refused without its dots', () => {
  const input = batch({}, { quarters: 0, mirrored: false }, true);
  const missing = turnedGcode(input, reckon(input), 'cup');
  expect(missing).toMatchObject({ ok: false, problem: { code: 'no-picture' } });
});

it('writes numbers as their shortest fixed form', () => {
  const out = new LineBuffer();
  const wanted: string[] = [];
  for (const [units, decimals] of [
    ...[0, 1, -1, 9, 10, 999, 1000, 12_500, -123_456, 9_999_999, 10_000_000, 99_999_999, 123_456_789].flatMap((u) =>
      [0, 2, 3, 4].map((d) => [u, d] as const),
    ),
    [1_234_567_891, 6] as const,
  ]) {
    out.word(88, units, decimals);
    out.end();
    wanted.push(`X${Number((units / 10 ** decimals).toFixed(decimals))}`);
  }
  expect(out.take().trimEnd().split('\n')).toEqual(wanted);
});
