import fc from 'fast-check';
import { hideDrive, runOnDrive } from '../../bench-sim';
import { batchProgram } from '../../batch';
import { freeFrom, halfAngle } from '../../drive';
import { apply, invert } from '../../geometry';
import { readGcode } from '../../output';
import type { BatchInput } from '../../setup';
import { loadedPieces } from '../../test-batch';
import { inWay } from '../../test-held';
import { programOf, reckon, stepOf, toldOf } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';

// A mug of 84 × 90 with a handle that stands out 40 mm over a head that passes it with 6: it cannot come to the top.
const rad = (degrees: number): number => (degrees * Math.PI) / 180;
const deg = (radians: number): number => (radians * 180) / Math.PI;
const mug = (zeroAt: number | null, faces: readonly number[], feature: object = {}): BatchInput => {
  const from = inWay(EXAMPLES.drive, 'drive', { overhang: 200, zeroAt: zeroAt === null ? null : rad(zeroAt) }, { letter: { quarters: 0, mirrored: false } }); // prettier-ignore
  const square = [0, 1, 2, 3].map((i) => ({ x: i > 0 && i < 3 ? 20 : 0, y: i > 1 ? 20 : 0 }));
  const made: BatchInput = {
    ...from,
    machine: { ...from.machine, bedLowest: 400 },
    drive: { ...from.drive!, height: 120, axisAcceleration: 20 },
    pieces: loadedPieces([1]),
    blank: {
      ...from.blank,
      samples: { ...from.blank.samples, diameter: [84, 84, 84] },
      shape: { ...from.blank.shape, profile: [{ at: 0, diameter: 84 }, { at: 90, diameter: 84 }], feature: { kind: 'handle', from: 15, to: 75, reach: 40, mass: 0.02, ...feature } } as never, // prettier-ignore
      zones: faces.map((a, i) => ({
        ...from.blank.zones[0]!,
        id: `z${i}`,
        x: 45,
        width: 20,
        height: 20,
        margin: 0,
        angle: rad(a),
      })),
    },
    setup: { ...from.setup, faces: faces.map((_, i) => ({ zoneId: `z${i}`, content: { kind: 'art' as const, name: 'a', contours: [{ closed: true, vertices: square }] }, reads: 'around' as const, repeats: 1, wraps: false })) }, // prettier-ignore
  };
  const numberSet = reckon(made).own.round!.on!.control.value;
  return { ...inWay(made, 'drive', {}, { letter: { quarters: 0, mirrored: false }, numberSet }), pieces: made.pieces };
};
const on = (input: BatchInput) => reckon(input).own.round!.on!;
/** Angles from the handle that come to the top while a file runs, beam on or off, and those that are burned. */
const anglesOf = (input: BatchInput, file: 'load' | 'walk' | 'ring' = 'load') => {
  const { unrolling, control } = on(input);
  const program = readGcode(programOf(input, file), 1000);
  if (!program.ok) throw new Error(program.problem.message);
  const { moves } = program.value;
  const back = invert(unrolling.toFile);
  const all = Array.from({ length: moves.count }, (_, i) => ({ on: moves.power[i]! > 0, at: deg((2 * apply(back, { x: moves.x[i]!, y: moves.y[i]! / control.artScale }).x) / unrolling.contactDiameter + unrolling.zeroAt) })); // prettier-ignore
  return { met: all.map((a) => a.at), burned: all.filter((a) => a.on).map((a) => a.at) };
};
const code = (input: BatchInput, file: 'load' | 'ring' | 'walk' = 'load'): string => {
  const made = batchProgram(input, reckon(input), file);
  return made.ok ? 'out' : (made.problem.reasons ?? [made.problem]).map((p) => p.code).join();
};

describe('a blank whose handle cannot come to the top', () => {
  // The head’s foot stands 6 mm over the crest: the handle’s tip, 82 from the axis, is under 48 from acos(48 / 82) = 54.2° on.
  const half = deg(Math.acos(48 / 82));
  it('is refused where the handle is zeroed, and burned where the other side is', () => {
    expect(code(mug(null, [180]))).toContain('collision');
    expect(code(mug(30, [180]))).toContain('collision');
    for (const at of [180, -180, 90, -120]) expect([at, code(mug(at, [180]))]).toEqual([at, 'out']);
    expect(toldOf(mug(180, [180]))).toMatch(/would hit the head at the top: art keeps 54° away from it\.$/m);
    expect(toldOf(mug(0, [180]))).toContain('it cannot be zeroed there. Zero it on the side opposite');
  });
  it('is turned through nothing on its way: every move, beam on or off, keeps the handle away', () => {
    for (const [zero, faces] of [
      [180, [180]],
      [180, [90, -90]],
      [90, [180, -100]],
      [-100, [100, 180]],
    ] as const) {
      const { met, burned } = anglesOf(mug(zero, faces));
      // Where the nozzle is from the handle, a turn on or not.
      for (const a of met) expect(Math.abs(((((a + 180) % 360) + 360) % 360) - 180)).toBeGreaterThan(half - 1e-6);
      expect(Math.max(...met) - Math.min(...met)).toBeLessThan(360 - 2 * half);
      // And every face is burned where it belongs: 20 mm of 84 across are 27.3°.
      for (const f of faces) expect(burned.some((a) => Math.abs(((((a - f + 180) % 360) + 360) % 360) - 180) < 1)).toBe(true); // prettier-ignore
    }
  });
  it('whose art reaches into it is refused', () => {
    // 20 mm are ± 13.6°: 60° less that is 46°, where the handle hits.
    expect(code(mug(180, [60]))).toContain('collision');
    expect(code(mug(180, [75]))).toBe('out');
  });
  it('lands where it is meant on the simulated drive, whichever way the zero lies', () => {
    for (const zero of [180, 100, -140]) {
      const input = mug(zero, [150]);
      const r = reckon(input);
      const { shape } = r.own.round!;
      const quiet = { ...hideDrive(3), slip: 0, rollerScale: 1, spread: 0, headFlipped: false, turnFlipped: false, hands: false }; // prettier-ignore
      const ran = runOnDrive(programOf(input), quiet, input.drive!, shape, { machine: input.machine, panel: { value: on(input).control.value!, acceleration: 5 }, rimFaces: 'right', contactAt: null, lean: halfAngle(shape.profile, 35, 55), piece: 1, zeroAt: rad(zero) }); // prettier-ignore
      if (!ran.ok) throw new Error(ran.problem.message);
      const xs = ran.value.strokes.filter((_, i) => i % 2 === 0).map((x) => deg(x / 42));
      const middle = (Math.min(...xs) + Math.max(...xs)) / 2;
      expect(Math.abs(((((middle - 150 + 180) % 360) + 360) % 360) - 180)).toBeLessThan(0.3);
    }
  });
  it('has a ring over a part of a turn, whichever way the drive turns it', () => {
    const { ring, reach, circumference } = on(mug(180, [180]));
    expect([deg(reach!.from), deg(reach!.to)]).toEqual([expect.closeTo(half, 6), expect.closeTo(360 - half, 6)]);
    expect(360 * ring.part).toBeCloseTo(180 - half - deg(0.05), 6);
    const { met } = anglesOf(mug(180, [180]), 'ring');
    expect(Math.max(...met) - Math.min(...met)).toBeCloseTo(360 * ring.part, 3);
    expect(ring.part * circumference).toBeLessThan(circumference / 2);
    expect(code(mug(180, [180]), 'ring')).toBe('out');
    // From 60° only 5.8° are free on one side.
    expect(code(mug(60, [180]), 'ring')).toContain('turn');
    expect(stepOf(mug(180, [180]), 'drive.ring')!.title).toBe('Burn 123° of a ring on masking tape');
    expect(stepOf(EXAMPLES.drive, 'drive.ring')!.title).toBe('Burn one ring on masking tape');
  });
  it('is told where it is zeroed', () => {
    const title = (zero: number | null) => stepOf(mug(zero, [180]), 'drive.zero')!.title;
    expect(title(null)).toBe('Zero at the rim, on the crest, handle up');
    expect(title(180)).toBe('Zero at the rim, on the crest, with what lies opposite the handle up');
    expect(title(-90)).toBe('Zero at the rim, on the crest, with what lies 90° left of the handle up');
  });
});

describe('a blank with several things on it', () => {
  const handle = { kind: 'handle', from: 15, to: 75, reach: 40, mass: 0.02 };
  const half = deg(Math.acos(48 / 82));
  it('is turned between its two handles, and through neither', () => {
    const cup = (zero: number, face: number) => mug(zero, [face], { others: [{ ...handle, angle: Math.PI }] });
    for (const [zero, face] of [
      [90, 80],
      [-90, -90],
      [100, 105],
    ] as const) {
      expect([zero, face, code(cup(zero, face))]).toEqual([zero, face, 'out']);
      const { met } = anglesOf(cup(zero, face));
      for (const a of met)
        for (const at of [0, 180]) expect(Math.abs(((((a - at + 180) % 360) + 360) % 360) - 180)).toBeGreaterThan(half - 1e-6); // prettier-ignore
    }
    // Neither opposite the first, where the other one is, nor at the other side of either.
    expect(code(cup(180, 180))).toContain('collision');
    expect(code(cup(90, -90))).toContain('collision');
    expect(toldOf(cup(180, 180))).toMatch(/The handle at 180° would hit the head/);
    expect(toldOf(cup(90, 180))).toMatch(/the handle and the handle at 180° are in the way/);
    // A ring goes as far as the nearer of them lets it: 90° less what a handle takes.
    expect(360 * on(cup(90, 90)).ring.part).toBeCloseTo(90 - half - deg(0.05), 6);
  });
  it('keeps its art off a logo, says where it crosses a weld, and lets it lie beside both', () => {
    const flask = (face: number) => mug(null, [face], { kind: 'seam weld', reach: 0, mass: 0, others: [{ ...handle, kind: 'existing logo', reach: 0, mass: 0, angle: rad(120), width: 30, to: 40 }] }); // prettier-ignore
    // 30 mm of 84 across are ± 20.5°, the art's 20 mm ± 13.6°.
    const edge = deg(30 / 84 + 20 / 84);
    for (const face of [120, 120 - edge + 1, 120 + edge - 1]) {
      expect([face, code(flask(face))]).toEqual([face, 'zone']);
      expect(toldOf(flask(face))).toMatch(/z0 runs over the existing logo at 120°|runs over the existing logo at 120°/);
    }
    for (const face of [120 - edge - 1, 120 + edge + 1, -60]) expect([face, code(flask(face))]).toEqual([face, 'out']);
    expect(code(flask(10))).toBe('out');
    expect(toldOf(flask(10))).toMatch(/crosses the seam weld, which takes the beam otherwise/);
    expect(toldOf(flask(15))).not.toContain('seam weld, which');
  });
  it('is in the way as wide as it is', () => {
    // 12 mm of 84 across: ± 8.2° more, either way.
    const { reach } = on(mug(180, [180], { width: 12 }));
    expect([deg(reach!.from), deg(reach!.to)]).toEqual([expect.closeTo(half + deg(6 / 42), 6), expect.closeTo(360 - half - deg(6 / 42), 6)]); // prettier-ignore
  });
});

describe('a turn for a pen dot', () => {
  it('goes once round slowly with the beam off, waits there, and goes back', () => {
    const text = programOf(EXAMPLES.drive, 'turn');
    expect(text).not.toMatch(/^M[34]/m);
    const lines = text.split('\n');
    const program = readGcode(text, 1000);
    if (!program.ok) throw new Error(program.problem.message);
    const { moves } = program.value;
    expect(Array.from(moves.power.slice(0, moves.count)).every((p) => p === 0)).toBe(true);
    // π × 92 where the rollers bear.
    const ys = Array.from(moves.y.slice(0, moves.count));
    expect(Math.max(...ys.map(Math.abs))).toBeCloseTo(Math.PI * 92, 2);
    expect(ys.at(-1)).toBeCloseTo(0, 9);
    // It waits at the far end: the turn before it, the way back after it.
    const wait = lines.indexOf('M0');
    expect(wait).toBeGreaterThan(0);
    expect(lines.slice(0, wait).some((l) => /Y2\d\d/.test(l))).toBe(true);
    expect(lines.slice(wait).some((l) => /Y0/.test(l))).toBe(true);
    // 20 mm/s and no faster on the way.
    const feeds = [
      ...lines
        .slice(0, wait)
        .join('\n')
        .matchAll(/F([\d.]+)/g),
    ].map((m) => Number(m[1]) / 60);
    expect(Math.max(...feeds)).toBeLessThanOrEqual(20);
    expect(batchProgram(mug(180, [180]), reckon(mug(180, [180])), 'turn')).toMatchObject({ ok: false, problem: { code: 'turn' } }); // prettier-ignore
  });
});

describe('how far a blank may be turned', () => {
  it('is the free stretch about its zero, as going round degree by degree shows', () => {
    const arc = fc.record({ from: fc.integer({ min: 0, max: 359 }), long: fc.integer({ min: 5, max: 100 }) });
    fc.assert(
      fc.property(fc.array(arc, { minLength: 1, maxLength: 2 }), fc.integer({ min: -180, max: 180 }), (arcs, zero) => {
        const blocked = (a: number): boolean => arcs.some((b) => (((a - b.from) % 360) + 360) % 360 < b.long);
        const free: { from: number; to: number }[] = [];
        for (let a = 0; a < 360; a += 1) {
          if (blocked(a)) continue;
          const last = free.at(-1);
          if (last && Math.abs(last.to - rad(a)) < 1e-9) last.to = rad(a + 1);
          else free.push({ from: rad(a), to: rad(a + 1) });
        }
        const reach = freeFrom({ free }, rad(zero + 0.5));
        if (blocked(((zero % 360) + 360) % 360)) return reach === null;
        let [low, high] = [zero, zero + 1];
        while (!blocked(low - 1) && zero - low < 360) low -= 1;
        while (!blocked(high) && high - zero < 360) high += 1;
        expect([deg(reach!.from), deg(reach!.to)]).toEqual([expect.closeTo(low, 6), expect.closeTo(high, 6)]);
        return true;
      }),
    );
  });
});
