import fc from 'fast-check';
import { apply, compose, contourLength, type Vec } from '../geometry';
import { arcOver, besideFor, usableHalfWidth } from './flat';
import { checkProfile, diameterAt } from './profile';
import { bodyOf, freshCup, greatestDiameter, outsideVolume, type RoundShape } from './round';
import { capacityCheck, diameterFromTape, tapeCheck } from './cross-check';
import { combineRings, ringFactor, ringIsDoubtful } from './ring';
import {
  composeOrientations,
  correctionWords,
  inverseOrientation,
  LETTER_F,
  letterFAs,
  orientationMap,
  ORIENTATIONS,
  pictureToFile,
  UPRIGHT,
} from './orientation';
import { conePattern, developed, reckonTaper, wrapTemplate } from './taper';
import {
  carriedOver,
  controlNumber,
  nearestInterval,
  ownStepsPerMm,
  reckonTravel,
  stepsForOneUnit,
  wholeStepIntervals,
} from './travel';
import { crestHeight, handleSweep, heightStack, inReach } from './clearance';
import { freshDrive, type Drive, type RollerDrive } from './drives';
import { reckonCradle } from './cradle';
import { reckonSeat } from './seat';
import { restingTraction, throwLimit } from './traction';
import { freshStock, slotFit } from '../slotted';
import { simulateThrow } from './throw-simulation';

const roller = (change: Partial<RollerDrive> = {}): RollerDrive => ({
  ...freshDrive,
  id: 'd',
  name: 'Rollers',
  ...change,
});
const cup = (change: Partial<RoundShape> = {}): RoundShape => ({
  ...freshCup,
  profile: [
    { at: 0, diameter: 75 },
    { at: 200, diameter: 75 },
  ],
  wall: 0.6,
  ...change,
});
const seated = (shape: RoundShape, drive: Drive, at: number | null = null) => {
  const seat = reckonSeat(shape, drive, at);
  if (!seat.ok) throw new Error(seat.problem.message);
  return seat.value;
};
const deg = (rad: number): number => (rad * 180) / Math.PI;

describe('round blanks', () => {
  // 1 in = 25.4 mm exactly [international yard and pound agreement, 1959]; the rest is π.
  it.each([
    [69.24, 217.52],
    [4.25 * 25.4, 13.352 * 25.4],
  ])('D %f mm goes %f mm round', (d, c) => expect(Math.abs(Math.PI * d - c)).toBeLessThan(0.01));
  it('reads a tape of 10 7/8 in as D 87.925', () => expect(diameterFromTape(276.225)).toBeCloseTo(87.925, 3));
  it('asks when caliper and tape disagree by more than 1 %, and guesses a radius', () => {
    // A millimetre round and a tenth across: 0.42 mm of diameter between them.
    expect(tapeCheck(75, Math.PI * 75.41).question).toBeNull();
    expect(tapeCheck(75, Math.PI * 75.43).question!.message).toContain('0.43 mm apart, more than a tape (± 1 mm round) and a caliper (± 0.1 mm) are off by. The caliper’s is used'); // prettier-ignore
    // 10 7/8 in round is 87.93 mm across, not 88.4: half a hundredth, and shown.
    expect(tapeCheck(88.4, 276.225).question!.message).toMatch(/^Caliper says 88\.40 mm, the tape 87\.93 mm \(276\.2 mm round\): 0\.47 mm apart/); // prettier-ignore
    expect(tapeCheck(75, Math.PI * 77).question!.message).toContain('Measure both again');
    expect(tapeCheck(37.5, Math.PI * 75).question!.message).toContain('radius');
    expect(tapeCheck(75, null).working).toEqual([]);
  });
  it('knows that 67 US fl oz do not go into 3 × 12 in, and do into 4¼ × 12 in', () => {
    // 1 US fl oz = 29.5735 ml (mem); 3 in × 12 in = 1.390 l, 4¼ in × 12 in = 2.790 l by πr²h.
    const vessel = (inches: number): RoundShape =>
      cup({
        capacity: 67 * 0.0295735,
        profile: [
          { at: 0, diameter: inches * 25.4 },
          { at: 304.8, diameter: inches * 25.4 },
        ],
      });
    expect(outsideVolume(vessel(3).profile) * 1e-6).toBeCloseTo(1.39, 3);
    expect(outsideVolume(vessel(4.25).profile) * 1e-6).toBeCloseTo(2.79, 2);
    expect(capacityCheck(vessel(3))!.message).toContain('A diameter or a length is wrong');
    expect(capacityCheck(vessel(4.25))).toBeNull();
  });
  it('weighs and spins a tapered shell as a sum over thin rings does', () => {
    const shape = cup({
      profile: [
        { at: 0, diameter: 88 },
        { at: 150, diameter: 68 },
      ],
      wall: 1.2,
      feature: { kind: 'handle', reach: 40, from: 20, to: 100, mass: 0.05 },
    });
    let mass = 0;
    let inertia = 0;
    const n = 20_000;
    for (let i = 0; i < n; i += 1) {
      const R = diameterAt(shape.profile, ((i + 0.5) * 150) / n) / 2;
      const r = R - 1.2;
      const dm = Math.PI * (R * R - r * r) * (150 / n) * 7.9e-6;
      mass += dm;
      inertia += (dm * (R * R + r * r)) / 2;
    }
    const floor = Math.PI * 34 * 34 * 1.2 * 7.9e-6;
    const reach = diameterAt(shape.profile, 60) / 2 + 20;
    const body = bodyOf(shape);
    expect(body.mass).toBeCloseTo(mass + floor + 0.05, 6);
    expect(body.inertia).toBeCloseTo(inertia + (floor * 34 * 34) / 2 + 0.05 * reach * reach, 2);
    expect(body.unbalance).toBeCloseTo(0.05 * reach, 9);
    expect(bodyOf({ ...shape, filled: true }).mass).toBeGreaterThan(body.mass + 0.5);
    // Another like it opposite balances it, one at a right angle adds as vectors do; all of them turn.
    const withOne = (angle: number) => bodyOf({ ...shape, feature: { ...shape.feature!, others: [{ ...shape.feature!, angle }] } }); // prettier-ignore
    expect(withOne(Math.PI).unbalance).toBeCloseTo(0, 9);
    expect(withOne(Math.PI / 2).unbalance).toBeCloseTo(Math.SQRT2 * 0.05 * reach, 9);
    expect(withOne(1).inertia - body.inertia).toBeCloseTo(0.05 * reach * reach, 9);
    expect(withOne(1).mass - body.mass).toBeCloseTo(0.05, 9);
  });
  it.each([
    [[{ at: 0, diameter: 60 }], 'rim and at the base'],
    [
      [
        { at: 0, diameter: 60 },
        { at: 0, diameter: 50 },
      ],
      'not beyond line 1',
    ],
    [
      [
        { at: 0, diameter: 60 },
        { at: 50, diameter: 0 },
      ],
      'more than nought',
    ],
  ])('refuses the profile %j', (profile, words) => {
    const checked = checkProfile(profile);
    expect(!checked.ok && checked.problem.message).toContain(words);
  });
});

describe('travel and steps', () => {
  it.each([
    // Rollers by π × D: found by trial at the bench as "about 61" and "about 52" [common practice].
    [19.66, 61.764],
    [16.399, 51.519],
    [63, 197.92],
    [23.5, 73.827],
  ])('a roller of %f mm travels %f mm a turn, whatever the blank', (d, travel) => {
    for (const contact of [40, 75, 120])
      expect(reckonTravel(roller({ rollerDiameter: d }), contact).perTurn).toBeCloseTo(travel, 2);
  });
  it('divides steps by travel: 8000 / 73.827 = 108.36', () =>
    expect(reckonTravel(roller({ rollerDiameter: 23.5, stepsPerTurn: 8000 }), 75).stepsPerMm).toBeCloseTo(108.36, 2));
  it('turns a chucked blank by its own diameter', () => {
    const { rollerDiameter: _d, centreDistance: _c, driven: _n, friction: _f, bandThickness: _b, ...common } = roller();
    const chuck: Drive = { ...common, kind: 'chuck', jaws: 120 };
    expect(reckonTravel(chuck, 80).perTurn).toBeCloseTo(Math.PI * 80, 9);
    expect(reckonTravel(chuck, 80).stepsPerBlankTurn).toBeCloseTo(3200, 9);
  });
  it.each([
    ['travel-per-turn', { kind: 'travel-per-turn', was: 100 }],
    ['steps-per-turn', { kind: 'steps-per-turn', was: 3200 }],
    ['steps-per-blank-turn', { kind: 'steps-per-blank-turn', was: 10_000 }],
    ['axis-steps', { kind: 'axis-steps', was: 80 }],
    ['scale-art', { kind: 'scale-art', stepsPerMm: 80 }],
  ] as const)(
    'gives the chain “%s” the number after which one commanded millimetre is one of surface',
    (_, control) => {
      fc.assert(
        fc.property(
          fc.double({ min: 10, max: 80, noNaN: true }),
          fc.double({ min: 40, max: 120, noNaN: true }),
          fc.double({ min: 0.97, max: 1.03, noNaN: true }),
          (rollerDiameter, contact, correction) => {
            const drive = roller({ rollerDiameter, control, stepsPerTurn: 12_800 });
            const travel = reckonTravel(drive, contact, correction);
            const number = controlNumber(drive, travel);
            // Steps sent for one millimetre of art, against steps that one millimetre of surface takes.
            const sent = stepsForOneUnit(drive, number.value ?? 0, contact) * number.artScale;
            expect(sent / travel.stepsPerMm).toBeCloseTo(1, 3);
          },
        ),
        { numRuns: 200 },
      );
    },
  );
  it('names the diameter that is typed beside it: whichever the machine then divides by, a millimetre stays one', () => {
    const asks = (drive: Drive) => controlNumber(drive, reckonTravel(drive, 87.93)).diameter;
    expect(asks(roller({ control: { kind: 'steps-per-blank-turn', was: 0 } }))).toEqual({ value: 87.93, words: 'the blank’s, where it bears on the drive' }); // prettier-ignore
    expect(asks(roller({ control: { kind: 'steps-per-turn', was: 0 }, rollerDiameter: 19.66 }))).toEqual({ value: 19.66, words: 'the roller’s own' }); // prettier-ignore
    for (const kind of ['travel-per-turn', 'axis-steps'] as const) expect(asks(roller({ control: { kind, was: 0 } }))).toBeNull(); // prettier-ignore
    // A machine that is told so many steps for a turn of a workpiece so wide sends steps / (π × width) for a millimetre.
    const drive = roller({ control: { kind: 'steps-per-blank-turn', was: 0 }, stepsPerTurn: 12_800 });
    const travel = reckonTravel(drive, 71.2, 0.99);
    const { value, diameter } = controlNumber(drive, travel);
    expect(value! / (Math.PI * diameter!.value) / travel.stepsPerMm).toBeCloseTo(1, 4);
  });
  it('gives a degree axis degrees, and types nothing', () => {
    const drive = roller({ axis: { letter: 'A', unit: 'degrees' }, stepsPerTurn: 6400 });
    const travel = reckonTravel(drive, 80, 1.004);
    const number = controlNumber(drive, travel);
    expect(number.value).toBeNull();
    expect((stepsForOneUnit(drive, 0, 80) * number.artScale) / travel.stepsPerMm).toBeCloseTo(1, 9);
  });
  it('offers intervals of whole steps: 0.085 mm is 4.404 steps of 0.019301 mm', () => {
    const step = (Math.PI * 19.66) / 3200;
    const { steps, offered } = wholeStepIntervals(0.085, step);
    expect(steps).toBeCloseTo(4.404, 3);
    expect(offered.map((o) => Number(o.interval.toFixed(5)))).toEqual([0.0772, 0.09651]);
    expect(wholeStepIntervals(5 * step, step).offered).toHaveLength(1);
    expect(nearestInterval(0.001, step).steps).toBe(1);
  });
});

describe('witness rings', () => {
  it.each([
    [2, 0.99211],
    [-3.2, 1.0129],
  ])('C 251.33 with %f gives %f', (overlap, factor) => expect(ringFactor(251.33, overlap)).toBeCloseTo(factor, 4));
  it('finds the true gain from rings burned with different corrections, better with more', () => {
    const C = 250;
    const gain = 1.0123;
    const ring = (correction: number) => ({
      circumference: C,
      correction,
      overlap: C * gain * correction - C,
      readingError: 0.15,
    });
    const one = combineRings([ring(1)], C);
    const two = combineRings([ring(1), ring(one.correction)], C);
    expect(one.correction).toBeCloseTo(1 / gain, 9);
    expect(two.correction).toBeCloseTo(1 / gain, 9);
    expect(two.uncertainty).toBeCloseTo(one.uncertainty / Math.SQRT2, 9);
    expect(two.remaining).toBeLessThan(one.remaining);
    expect(combineRings([], C).correction).toBe(1);
  });
  it('weights a careful reading more', () => {
    const rings = [
      { circumference: 200, correction: 1, overlap: 2, readingError: 0.1 },
      { circumference: 200, correction: 1, overlap: 3, readingError: 1 },
    ];
    expect(combineRings(rings, 200, 0).correction).toBeCloseTo(200 / (200 + 2 + 1 / 101), 5);
  });
  it('doubts a reading beyond a quarter turn', () => {
    expect(ringIsDoubtful(200, 51)).toBe(true);
    expect(ringIsDoubtful(200, -49)).toBe(false);
  });
});

describe('a drive that is measured anew', () => {
  const rollers: Drive = { ...freshDrive, id: 'd', name: 'Rollers', rollerDiameter: 20 };

  it('keeps the steps to a millimetre that a ring found, whatever its rollers are said to be', () => {
    const then = ownStepsPerMm(rollers)!;
    // A ring of 1.012 on rollers said to be 20 mm is one of 1.012 × 20.4/20 on the same rollers said to be 20.4.
    const anew: Drive = { ...rollers, rollerDiameter: 20.4 };
    expect(1.012 * carriedOver(anew, then)).toBeCloseTo((1.012 * 20.4) / 20, 12);
    // Independent of the blank: the true steps to a millimetre are the same before and after, for any contact.
    for (const contact of [31, 75, 92.5])
      expect(reckonTravel(anew, contact, 1.012 * carriedOver(anew, then)).stepsPerMm).toBeCloseTo(
        reckonTravel(rollers, contact, 1.012).stepsPerMm,
        9,
      );
  });

  it('has no number of its own where a chuck turns the blank itself', () => {
    const chuck = { ...rollers, kind: 'chuck' } as unknown as Drive;
    expect(ownStepsPerMm(chuck)).toBeNull();
    expect(carriedOver(chuck, 123)).toBe(1);
  });
});

describe('lying on rollers', () => {
  it('has the contacts where two circles touch', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 60, noNaN: true }),
        fc.double({ min: 40, max: 120, noNaN: true }),
        fc.double({ min: 1.05, max: 1.6, noNaN: true }),
        (D, d, k) => {
          const g = D * k;
          const drive = roller({ rollerDiameter: D, centreDistance: g });
          const shape = cup({
            profile: [
              { at: 0, diameter: d },
              { at: 100, diameter: d },
            ],
          });
          const seat = reckonSeat(shape, drive, null);
          if (!seat.ok) return;
          // The blank's axis lies R + r from both roller axes.
          const h = seat.value.axisHeight - drive.height;
          expect(Math.hypot(g / 2, h)).toBeCloseTo(D / 2 + d / 2, 9);
        },
      ),
    );
  });
  it.each([
    [roller({ centreDistance: 120 }), 'falls between'],
    [roller({ centreDistance: 18 }), 'run into each other'],
    [roller({ room: 150 }), 'takes 150 mm'],
  ])('says what does not go', (drive, words) => {
    const seat = reckonSeat(cup(), drive, null);
    expect(!seat.ok && seat.problem.message).toContain(words);
  });
  it('measures over the band, and lies on it', () => {
    const seat = seated(cup(), roller({ bandThickness: 1.5 }), 180);
    expect([seat.contactAt, seat.contactDiameter]).toEqual([180, 78]);
  });
});

describe('the throw limit', () => {
  const drive = roller({ rollerDiameter: 19.66, centreDistance: 40, friction: 0.5, driven: 1, axisAcceleration: 1e9 });
  const shape = cup({ wall: 0.05 });
  const seat = seated(shape, drive);
  it('knows the trade’s rule: D 75 on 19.66, g 40, μ 0.5 gives θ 25.0° and 2.705 m/s²', () => {
    expect(deg(seat.theta)).toBeCloseTo(25.0, 1);
    expect(restingTraction(0.5, 1, seat.theta) / 1000).toBeCloseTo(2.705, 3);
  });
  it('lies below that rule, because driving shifts the load off the driven roller', () => {
    const { limit, cause, recommended } = throwLimit(drive, seat, bodyOf(shape), 37.5);
    expect(limit).toBeLessThan(restingTraction(0.5, 1, seat.theta));
    expect(cause).toBe('slips on its rollers');
    expect(recommended).toBeCloseTo(limit / 2, 6);
  });
  it('is where bodies stepped through time stop following', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 110, noNaN: true }),
        fc.double({ min: 16, max: 30, noNaN: true }),
        fc.double({ min: 0.2, max: 0.7, noNaN: true }),
        fc.constantFrom(1 as const, 2 as const),
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        (d, D, friction, driven, wall) => {
          const it = cup({
            wall,
            profile: [
              { at: 0, diameter: d },
              { at: 150, diameter: d },
            ],
          });
          const on = roller({ rollerDiameter: D, centreDistance: D + 16, friction, driven, axisAcceleration: 1e9 });
          const lies = seated(it, on);
          const body = bodyOf(it);
          const { limit } = throwLimit(on, lies, body, d / 2);
          const run = (a: number, direction: 1 | -1): boolean =>
            simulateThrow({ body, radius: d / 2, theta: lies.theta, friction, driven, acceleration: a, direction });
          const thrown = (a: number): boolean => run(a, 1) || run(a, -1);
          expect(thrown(0.93 * limit)).toBe(false);
          expect(thrown(1.07 * limit)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('falls with a handle, and is nought when the handle alone turns the cup over', () => {
    const light = { kind: 'handle', reach: 35, from: 40, to: 120, mass: 0.02 } as const;
    const plain = throwLimit(drive, seat, bodyOf(cup()), 37.5);
    const handled = throwLimit(drive, seat, bodyOf(cup({ feature: light })), 37.5);
    expect(handled.limit).toBeLessThan(plain.limit);
    expect(handled.idleSpeed).toBeLessThanOrEqual(plain.idleSpeed);
    const heavy = throwLimit(drive, seat, bodyOf(cup({ feature: { ...light, mass: 0.8 } })), 37.5);
    expect([heavy.limit, heavy.cause]).toEqual([0, 'handle falls']);
  });
});

describe('taper', () => {
  it('is that of the worked cone: 88/68 over 150', () => {
    const cone = conePattern(88, 68, 150)!;
    expect(deg(cone.halfAngle)).toBeCloseTo(3.814, 3);
    expect(cone.slant).toBeCloseTo(150.333, 3);
    expect(cone.outerRadius).toBeCloseTo(661.465, 2);
    expect(cone.innerRadius).toBeCloseTo(511.132, 2);
    expect(deg(cone.sector)).toBeCloseTo(23.947, 3);
    expect(conePattern(70, 70, 100)).toBeNull();
  });
  it('unrolls without stretching: lengths on the pattern are lengths on the cone, integrated', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 120, noNaN: true }),
        fc.double({ min: 0.5, max: 12, noNaN: true }),
        fc.double({ min: 40, max: 250, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (D, lean, h, slope) => {
          const d = D - lean;
          const cone = conePattern(D, d, h)!;
          // A line on the pattern from the outer rim inwards, and its image on the cone in space.
          const n = 4000;
          let onCone = 0;
          let onPattern = 0;
          let before: readonly number[] | null = null;
          let flat: Vec | null = null;
          for (let i = 0; i <= n; i += 1) {
            const s = (cone.slant * i) / n;
            const phi = (slope * cone.sector * i) / n / 3;
            const rho = cone.outerRadius - s;
            const turn = (phi / cone.sector) * 2 * Math.PI;
            const r = rho * Math.sin(cone.halfAngle);
            const point = [r * Math.cos(turn), r * Math.sin(turn), s * Math.cos(cone.halfAngle)];
            const q = { x: rho * Math.sin(phi), y: rho * Math.cos(phi) };
            if (before && flat) {
              onCone += Math.hypot(point[0]! - before[0]!, point[1]! - before[1]!, point[2]! - before[2]!);
              onPattern += Math.hypot(q.x - flat.x, q.y - flat.y);
            }
            before = point;
            flat = q;
          }
          expect(onCone / onPattern).toBeCloseTo(1, 4);
        },
      ),
      { numRuns: 40 },
    );
  });
  it.each([
    [88, 68],
    [68, 88],
    [80, 80],
  ])('draws a template whose edges are as long as the rims %d and %d', (top, base) => {
    const template = wrapTemplate(
      [
        { at: 0, diameter: top },
        { at: 150, diameter: base },
      ],
      0,
      150,
    );
    const [a, b, c, d] = template.vertices;
    const edge = (from: Vec & { bulge?: number | undefined }, to: Vec): number =>
      contourLength({ closed: false, vertices: [from, to] });
    expect(edge(a!, b!)).toBeCloseTo(Math.PI * top, 3);
    expect(edge(c!, d!)).toBeCloseTo(Math.PI * base, 3);
    expect(edge({ ...b!, bulge: 0 }, c!)).toBeCloseTo(Math.hypot(150, (top - base) / 2), 6);
    expect(a!.y).toBeLessThanOrEqual(b!.y + 1e-9);
  });
  it('lays a cone flat without stretching: distances between near points are those in space', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 110, noNaN: true }),
        fc.double({ min: -14, max: 14, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 5, max: 95, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (d, lean, angle, along, way) => {
          const profile = [
            { at: 0, diameter: d },
            { at: 100, diameter: d - lean },
          ];
          const flat = developed(profile, 20, 80);
          const inSpace = (a: number, u: number): readonly [number, number, number] => {
            const r = diameterAt(profile, u) / 2;
            return [r * Math.cos(a), r * Math.sin(a), u];
          };
          const step = 1e-3;
          const [a2, u2] = [angle + (step * way) / 40, along + step * Math.sqrt(1 - way * way)];
          const [p, q] = [inSpace(angle, along), inSpace(a2, u2)];
          const [f, g] = [flat(angle, along), flat(a2, u2)];
          const space = Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
          // A cylinder laid flat is exact; below the level limit a faint lean is taken as none.
          expect(Math.hypot(f.x - g.x, f.y - g.y) / space).toBeCloseTo(1, 2);
          expect(flat(0, 0)).toMatchObject({ x: expect.closeTo(0, 9) as number });
        },
      ),
    );
  });
  it('tilts the narrow end up until the engraved line is level', () => {
    const t = reckonTaper(
      [
        { at: 0, diameter: 88 },
        { at: 150, diameter: 68 },
      ],
      30,
      120,
    );
    expect(t.raise).toBe('base');
    expect(deg(t.tilt)).toBeCloseTo(3.814, 3);
    expect(t.residual).toBeCloseTo(6 / 78, 6);
    const stepped = reckonTaper(
      [
        { at: 0, diameter: 80 },
        { at: 50, diameter: 76 },
        { at: 100, diameter: 80 },
      ],
      0,
      100,
    );
    expect([stepped.raise, stepped.bow]).toEqual([null, 2]);
  });
});

describe('which way round', () => {
  it('is the group of the square: composing and undoing agree with the matrices', () => {
    for (const a of ORIENTATIONS) {
      expect(composeOrientations(a, inverseOrientation(a))).toEqual(UPRIGHT);
      for (const b of ORIENTATIONS)
        // Written out, so that 0 and −0 are one.
        expect(JSON.stringify(orientationMap(composeOrientations(a, b)))).toBe(
          JSON.stringify(compose(orientationMap(a), orientationMap(b))),
        );
    }
    expect(new Set(ORIENTATIONS.map((o) => JSON.stringify(letterFAs(o)))).size).toBe(8);
  });
  it('is put right by one F whatever is wrong', () => {
    for (const wrong of ORIENTATIONS)
      for (const rimFaces of ['left', 'right'] as const)
        for (const topMoves of ['toward', 'away'] as const) {
          // The chain really turns what it is given by `wrong`.
          const truth = compose(pictureToFile(rimFaces, topMoves, UPRIGHT), orientationMap(inverseOrientation(wrong)));
          const seenThrough = (file: Vec): Vec => apply(inverse(truth), file);
          const first = LETTER_F.flat().map((p) => seenThrough(apply(pictureToFile(rimFaces, topMoves, UPRIGHT), p)));
          const seen = ORIENTATIONS.find((o) =>
            LETTER_F.flat().every((p, i) => near(apply(orientationMap(o), p), first[i]!)),
          )!;
          expect(seen).toEqual(wrong);
          const second = LETTER_F.flat().map((p) => seenThrough(apply(pictureToFile(rimFaces, topMoves, seen), p)));
          LETTER_F.flat().forEach((p, i) => expect(near(p, second[i]!)).toBe(true));
        }
    expect(new Set(ORIENTATIONS.map(correctionWords)).size).toBeGreaterThan(4);
  });
  it('lays the rim to the left by a quarter turn to the left', () => {
    // Top of the picture is the rim; it must come out at smaller x.
    const m = pictureToFile('left', 'toward', UPRIGHT);
    expect(apply(m, { x: 0, y: -100 }).x).toBe(100);
    expect(apply(m, { x: 10, y: 0 }).y).toBe(10);
    expect(apply(pictureToFile('left', 'away', UPRIGHT), { x: 10, y: 0 }).y).toBe(-10);
  });
});
const near = (a: Vec, b: Vec): boolean => Math.hypot(a.x - b.x, a.y - b.y) < 1e-9;
const inverse = (m: Parameters<typeof apply>[0]): Parameters<typeof apply>[0] => {
  // Of a map without shift, by its determinant of ±1.
  const det = m.a * m.d - m.b * m.c;
  return { a: m.d / det, b: -m.b / det, c: -m.c / det, d: m.a / det, e: 0, f: 0 };
};

describe('room', () => {
  const head = { bedLowest: 160, withoutBed: 230, nozzleGap: 6 };
  it('adds drive, blank and focus gap, and offers what makes it fit', () => {
    const drive = roller({ risers: [{ name: '20 mm blocks', height: 20 }] });
    const stack = heightStack(cup(), drive, seated(cup(), drive), { tilt: 0, raise: null }, head);
    expect(stack.crest).toBeCloseTo(seated(cup(), drive).axisHeight + 37.5, 9);
    expect(stack.options.map((o) => o.name)).toEqual([
      'on the bed',
      'on the bed, on 20 mm blocks',
      'bed taken out',
      'bed taken out, on 20 mm blocks',
    ]);
    expect(stack.options[0]!.left).toBeCloseTo(160 - stack.crest - 6, 9);
    const tall = cup({
      profile: [
        { at: 0, diameter: 140 },
        { at: 100, diameter: 140 },
      ],
    });
    expect(
      heightStack(tall, drive, seated(tall, drive), { tilt: 0, raise: null }, head).options.map((o) => o.fits),
    ).toEqual([false, false, true, true]);
  });
  it('levels the top of a cone by its half-angle: crest the same at both ends', () => {
    const shape = cup({
      profile: [
        { at: 0, diameter: 88 },
        { at: 150, diameter: 68 },
      ],
    });
    const seat = seated(shape, roller());
    const lean = reckonTaper(shape.profile, 0, 150);
    const ends = [0, 150].map(
      (at) => (diameterAt(shape.profile, at) / 2) * Math.cos(lean.tilt) + (at - seat.contactAt) * Math.sin(lean.tilt),
    );
    expect(ends[0]).toBeCloseTo(ends[1]!, 9);
    expect(crestHeight(shape, seat, lean)).toBeCloseTo(seat.axisHeight + ends[0]!, 9);
  });
  it('keeps art away from where a handle meets rollers, ground or head', () => {
    const mug = cup({ feature: { kind: 'handle', reach: 40, from: 30, to: 90, mass: 0.05 } });
    const seat = seated(mug, roller());
    const sweep = handleSweep(mug, roller(), seat, 0, { from: 0, to: 200 }, { from: 20, to: 120 }, 6);
    expect(sweep.findings.map((f) => f.at)).toEqual(['ground', 'rollers', 'head']);
    expect(inReach(sweep, Math.PI / 2, 0.2)).toBe(true);
    expect(inReach(sweep, Math.PI, 0.2)).toBe(false);
    expect(inReach(sweep, 0, 0.2)).toBe(false);
    const over = handleSweep(mug, roller(), seat, 40, { from: 100, to: 200 }, { from: 100, to: 180 }, 6);
    expect(over.findings).toEqual([]);
    expect(inReach(over, 0, Math.PI)).toBe(true);
    expect(handleSweep(cup(), roller(), seat, 0, { from: 0, to: 200 }, { from: 0, to: 200 }, 6).radius).toBe(0);
  });
});

describe('round stock lying still', () => {
  it.each([
    [3.81, 0.5, 1.887],
    [22.5, 0.5, 4.717],
  ])('r %f stays in focus to 0.5 mm over ± %f', (r, s, w) => {
    expect(usableHalfWidth(r, s)).toBeCloseTo(w, 3);
    expect(besideFor(r, arcOver(r, w))).toBeCloseTo(w, 9);
  });
  it('cuts a cradle whose slots are a tenth wider than the measured board, and refuses stock out of range', () => {
    const fit = slotFit(freshStock, 3.05);
    if (!fit.ok) throw new Error(fit.problem.message);
    const choice = { diameter: 32, length: 120, fit: fit.value, crestHeight: null, pieces: 4, kerf: 0.15 };
    const made = reckonCradle(choice);
    expect(made.ok && made.value.slot).toBeCloseTo(3.15, 9);
    expect(made.ok && made.value.contours).toHaveLength(4);
    const low = reckonCradle({ ...choice, crestHeight: 20 });
    expect(!low.ok && low.problem.message).toContain('38.10');
    expect(slotFit(freshStock, 0.8).ok).toBe(false);
    expect(slotFit(freshStock, 18).ok).toBe(false);
  });
});

it('knows the widest place', () =>
  expect(
    greatestDiameter(
      cup({
        profile: [
          { at: 0, diameter: 60 },
          { at: 9, diameter: 71 },
          { at: 20, diameter: 40 },
        ],
      }),
    ),
  ).toBe(71));
