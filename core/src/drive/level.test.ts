import fc from 'fast-check';
import { freshCup, type RoundShape } from './round';
import { freshDrive, type RollerDrive } from './drives';
import { reckonLevelling } from './level';
import { alongSide, downAxis, layDown } from './side';
import { diameterAt, halfAngle } from './profile';
import { reckonTaper } from './taper';
import { onBlank } from './wrap';

const cup = (rim: number, base: number, length: number): RoundShape => ({
  ...freshCup,
  profile: [
    { at: 0, diameter: rim },
    { at: length, diameter: base },
  ],
});
const rollers: RollerDrive = { ...freshDrive, id: 'd', name: 'Rollers', rollerDiameter: 19.66, centreDistance: 40 };

const levelled = (shape: RoundShape, drive: RollerDrive, from = 0) => {
  const length = shape.profile.at(-1)!.at;
  return reckonLevelling(shape, drive, { from, to: length }, reckonTaper(shape.profile, 0, length), 0);
};

/**
 * By trying: at each end a circle is let down between two rollers until it touches them, then the crest line is turned
 * about the rim until it is level; how high the base end of the axis came.
 */
const byTrying = (rim: number, base: number, length: number, drive: RollerDrive): number => {
  const rest = (diameter: number): number => {
    let [low, high] = [0, 2 * diameter + drive.centreDistance];
    for (let i = 0; i < 60; i += 1) {
      const y = (low + high) / 2;
      const apart = Math.hypot(drive.centreDistance / 2, y);
      if (apart < diameter / 2 + drive.bandThickness + drive.rollerDiameter / 2) low = y;
      else high = y;
    }
    return low;
  };
  // The axis from rim to base, and the crest over it, as it rests.
  const falls = (rest(base) - rest(rim)) / length;
  const [ux, uy] = [Math.sqrt(1 - falls * falls), falls];
  const top = (d: number, along: number) => ({ x: ux * along - (uy * d) / 2, y: uy * along + (ux * d) / 2 });
  const [a, b] = [top(rim, 0), top(base, length)];
  const turn = -Math.atan2(b.y - a.y, b.x - a.x);
  // How far the far end of a piece of that length rises by that turn.
  return length * Math.sin(turn);
};

describe('how far an end is raised', () => {
  it('brings 88 / 72 × 170 level from where it rests: 16.7 mm, not the 8 of its half-angle', () => {
    const { raise, lift } = levelled(cup(88, 72, 170), rollers);
    expect(raise).toBe('base');
    expect(lift).toBeCloseTo(16.7, 1);
    expect(lift).toBeCloseTo(byTrying(88, 72, 170, rollers), 6);
  });
  it('is what letting it down and turning it finds, for any cup on any rollers that hold it', () => {
    fc.assert(
      fc.property(
        fc.record({
          rim: fc.double({ min: 50, max: 120, noNaN: true }),
          taper: fc.double({ min: -0.12, max: 0.12, noNaN: true }),
          length: fc.double({ min: 60, max: 250, noNaN: true }),
          roller: fc.double({ min: 15, max: 40, noNaN: true }),
          gap: fc.double({ min: 2, max: 15, noNaN: true }),
          band: fc.double({ min: 0, max: 3, noNaN: true }),
        }),
        ({ rim, taper, length, roller, gap, band }) => {
          const base = rim - 2 * taper * length;
          // Less counts as level.
          fc.pre(base > 30 && Math.abs(taper) > 0.001);
          const drive = { ...rollers, rollerDiameter: roller, centreDistance: roller + gap, bandThickness: band };
          const { lift, raise } = levelled(cup(rim, base, length), drive);
          const tried = byTrying(rim, base, length, drive);
          expect((raise === 'base' ? 1 : -1) * lift).toBeCloseTo(tried, 6);
        },
      ),
      { numRuns: 200 },
    );
  });
  it('says something finite of a cup that hangs over altogether', () => {
    for (const from of [169.9, 170, 200, 1000]) {
      const { lift, rests } = levelled(cup(88, 72, 170), rollers, from);
      expect([rests, Number.isFinite(lift)]).toEqual([0, true]);
    }
  });
  it('is the half-angle alone in a chuck, and nothing for a straight one', () => {
    const chuck = { ...rollers, kind: 'chuck', jaws: 200 } as never;
    expect(levelled(cup(88, 72, 170), chuck).lift).toBeCloseTo(170 * Math.sin(Math.atan(8 / 170)), 9);
    expect(levelled(cup(80, 80, 170), rollers)).toMatchObject({ raise: null, lift: 0, working: [] });
    expect(levelled(cup(72, 88, 170), rollers).raise).toBe('rim');
  });
  it('counts from what lies on the rollers: a foot that hangs over does not hold it up', () => {
    // A cup of 80 with a rim flared to 100 over its first 20 mm.
    const flared: RoundShape = {
      ...freshCup,
      profile: [
        { at: 0, diameter: 100 },
        { at: 20, diameter: 80 },
        { at: 120, diameter: 80 },
      ],
    };
    const taper = reckonTaper(flared.profile, 40, 100);
    expect(reckonLevelling(flared, rollers, { from: 20, to: 120 }, taper, 20).lift).toBe(0);
    expect(reckonLevelling(flared, rollers, { from: 0, to: 120 }, taper, 0).raise).toBe('base');
  });
});

describe('places along a cone lying with its side level', () => {
  const profile = [
    { at: 0, diameter: 95 },
    { at: 180, diameter: 60 },
  ];
  const side = layDown(profile, halfAngle(profile, 0, 180));
  it('are 0.71 mm further at 150, and the whole side at its end', () => {
    expect(alongSide(150, side) - 150).toBeCloseTo(0.71, 2);
    expect(alongSide(180, side)).toBeCloseTo(Math.hypot(180, 17.5), 9);
  });
  it('come back to the axis, before, on and beyond the blank', () => {
    for (const at of [-10, 0, 33.3, 150, 180, 200]) expect(downAxis(alongSide(at, side), side)).toBeCloseTo(at, 9);
  });
  it('are the same for one that lies as it is', () => {
    const still = layDown(profile, 0);
    expect(alongSide(77, still)).toBe(77);
  });
  it('make art as tall on the side as it is drawn', () => {
    const place = { angle: 0, along: 100 };
    const top = onBlank({ x: 0, y: 15 }, place, side);
    const foot = onBlank({ x: 0, y: -15 }, place, side);
    const rise = (diameterAt(profile, top.along) - diameterAt(profile, foot.along)) / 2;
    expect(Math.hypot(foot.along - top.along, rise)).toBeCloseTo(30, 9);
  });
  it('follow the level line over a body that bows', () => {
    const bowed = [
      { at: 0, diameter: 90 },
      { at: 60, diameter: 86 },
      { at: 120, diameter: 70 },
    ];
    const lean = halfAngle(bowed, 0, 120);
    const laid = layDown(bowed, lean);
    // The crest’s point turned by the lean: its part along the level line.
    for (const [i, p] of bowed.entries()) {
      const turned = p.at * Math.cos(lean) - (p.diameter / 2) * Math.sin(lean) + 45 * Math.sin(lean);
      expect(laid.lying[i]!.at).toBeCloseTo(turned, 9);
    }
  });
});
