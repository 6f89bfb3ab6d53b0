import fc from 'fast-check';
import { inTurn, metWithin, turnBegins, type Stretch } from './one-turn';

const rad = (degrees: number): number => (degrees * Math.PI) / 180;
const stretch = (angle: number, half: number): Stretch => ({ angle: rad(angle), half: rad(half) });
const TURN = 2 * Math.PI;

describe('where a turn is begun', () => {
  it('is as things stand where they take one turn at most', () => {
    expect(turnBegins([])).toBeNull();
    expect(turnBegins([stretch(180, 30)])).toBeNull();
    expect(turnBegins([stretch(170, 30), stretch(-140, 20)])).toBeNull();
    expect(turnBegins([stretch(0, 180)])).toBeNull();
  });
  it('is the middle of what is free where they take more', () => {
    // 140 … 200 and, a turn on, 190 … 230: free from −130 to 140, so 5.
    expect(turnBegins([stretch(170, 30), stretch(-150, 20)])).toBeCloseTo(rad(5), 12);
  });
  it('is not where something reaches to over the end of the turn', () => {
    // −158 … −156, −83 … 39 and 61 … 241, which is −119: free from −119 to −83, 39 to 61, and no more.
    expect(turnBegins([stretch(-22, 61), stretch(-157, 1), stretch(151, 90)])).toBeCloseTo(rad(-101), 12);
  });
  it('is nowhere where nothing is free', () => {
    expect(turnBegins([stretch(0, 180), stretch(170, 30)])).toBeNull();
  });

  const some = fc.array(fc.record({ angle: fc.integer({ min: -180, max: 180 }), half: fc.integer({ min: 1, max: 90 }) }).map((s) => stretch(s.angle, s.half)), { minLength: 1, maxLength: 5 }); // prettier-ignore
  it('cuts nothing: turned so, all of it lies whole within one turn, as going round degree by degree shows', () => {
    fc.assert(
      fc.property(some, (all) => {
        const begin = turnBegins(all);
        const covers = (at: number): boolean => all.some((s) => Math.cos(at - s.angle) > Math.cos(s.half) + 1e-9);
        if (begin === null) {
          const span = Math.max(...all.map((s) => s.angle + s.half)) - Math.min(...all.map((s) => s.angle - s.half));
          const free = Array.from({ length: 720 }, (_, i) => rad(i / 2 + 0.25)).filter((at) => !covers(at));
          return span <= TURN + 1e-9 || free.length === 0;
        }
        expect(covers(begin)).toBe(false);
        return all.every((s) => {
          const middle = inTurn(s.angle, begin);
          return middle - s.half >= begin - 1e-9 && middle + s.half <= begin + TURN + 1e-9;
        });
      }),
      { numRuns: 1_000 },
    );
  });
});

describe('what reaches over the end of a turn', () => {
  it('is met at both of its ends, everything else once', () => {
    expect(metWithin(stretch(170, 30), -Math.PI)).toEqual([expect.closeTo(rad(170), 12), expect.closeTo(rad(-190), 12)]); // prettier-ignore
    expect(metWithin(stretch(-170, 30), -Math.PI)).toEqual([expect.closeTo(rad(-170), 12), expect.closeTo(rad(190), 12)]); // prettier-ignore
    expect(metWithin(stretch(140, 30), -Math.PI)).toEqual([expect.closeTo(rad(140), 12)]);
    expect(metWithin(stretch(0, 180), -Math.PI)).toEqual([0]);
  });
  it('is met as wide as it is: what lies within the turn adds up to all of it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -720, max: 720 }),
        fc.integer({ min: 1, max: 180 }),
        fc.integer({ min: -360, max: 360 }),
        (angle, half, begin) => {
          // prettier-ignore
          const from = rad(begin);
          const within = metWithin(stretch(angle, half), from).map((m) => Math.min(m + rad(half), from + TURN) - Math.max(m - rad(half), from)); // prettier-ignore
          expect(within.reduce((a, b) => a + b, 0)).toBeCloseTo(2 * rad(half), 9);
        },
      ),
    );
  });
});
