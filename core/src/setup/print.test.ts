import fc from 'fast-check';
import { chooseModel, fitModel, MODELS, type MarkPair } from '../marks';
import { loadedPieces } from '../test-batch';
import { exactly, readAt, reckon, saved, waitsOf } from '../test-reckon';
import { inWay } from '../test-held';
import { EXAMPLES } from '../test-ways';
import { rigid } from '../geometry';
import { batchProgram } from '../batch';
import type { BatchInput } from './input';

const SIGMA = 0.05;
/** Marks in the corners of A4 lying along, one in the middle of an edge and one inside. */
const DRAWN = [{ x: 10, y: 10 }, { x: 287, y: 200 }, { x: 287, y: 10 }, { x: 10, y: 200 }, { x: 148.5, y: 200 }, { x: 60, y: 90 }]; // prettier-ignore
const pairs = (count: number, read: (p: { x: number; y: number }) => { x: number; y: number }): MarkPair[] =>
  DRAWN.slice(0, count).map((drawn, i) => ({ id: i + 1, drawn, read: read(drawn) }));

describe('a sheet seen from its back', () => {
  it('is not fitted by any model: four marks of an A4, read at 297 − x', () => {
    const turned = pairs(4, (p) => ({ x: 297 - p.x, y: p.y }));
    for (const model of ['two-scales', 'affine'] as const)
      expect(fitModel(turned, model)).toMatchObject({ ok: false, problem: { code: 'reflection' } });
    expect(chooseModel(turned, SIGMA)!.proposed.agrees).toBe(false);
  });

  it('never is, however it lies and is stretched', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 6 }),
        fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
        fc.double({ min: 0.98, max: 1.02, noNaN: true }),
        fc.double({ min: 0.98, max: 1.02, noNaN: true }),
        (count, angle, sx, sy) => {
          const [c, s] = [Math.cos(angle), Math.sin(angle)];
          const seen = (sign: 1 | -1) => pairs(count, ({ x, y }) => ({ x: 400 + c * sign * sx * x - s * sy * y, y: 300 + s * sign * sx * x + c * sy * y })); // prettier-ignore
          for (const model of MODELS) {
            const [front, back] = [fitModel(seen(1), model), fitModel(seen(-1), model)];
            if (back.ok) {
              const { a, b, c: cc, d } = back.value.transform;
              expect(a * d - b * cc).toBeGreaterThan(0);
            }
            // As it lies right way up it is fitted, and by two scales to the last digit.
            if (model === 'two-scales') expect(front.ok && front.value.squares).toBeLessThan(1e-12);
          }
          expect(chooseModel(seen(-1), SIGMA)!.proposed.agrees).toBe(false);
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('a printed sheet with its marks', () => {
  const sheet = (marks: number): BatchInput => ({ ...saved(inWay(exactly(EXAMPLES.sheet), 'sheet', { marks: marks as 3 })), pieces: loadedPieces([1]) }); // prettier-ignore
  const drawn = (input: BatchInput) => reckon(input).board!.marks;
  /** Its marks read as if it lay at 100, 90, each moved. */
  const read = (input: BatchInput, moved: (p: { x: number; y: number }) => { x: number; y: number }): BatchInput => ({
    ...input,
    readings: readAt(input, rigid(0, 0, 0)).readings.map((one) => {
      const at = moved({ x: one.x, y: 600 - one.y });
      return { ...one, x: 100 + at.x, y: 600 - (90 + at.y) };
    }),
  });
  const file = (input: BatchInput): string => {
    const made = batchProgram(input, reckon(input), 'load');
    return made.ok ? '' : made.problem.code;
  };

  it('lying face down gets no file, and the page says that it does', () => {
    const four = sheet(4);
    const { width } = reckon(four).board!;
    const down = read(four, ({ x, y }) => ({ x: width - x, y }));
    expect(drawn(four)).toHaveLength(4);
    expect(file(down)).toBe('marks-disagree');
    expect(waitsOf(down, 'place')).toMatch(/face down/);
    expect(file(read(four, (p) => p))).toBe('');
  });

  // Two marks 294 mm apart or so: 0.3 % is what paper and printer do [common practice].
  it.each([
    [0.0025, ''],
    [-0.0025, ''],
    [0.0035, 'stretch-or-misread'],
    [-0.0112, 'stretch-or-misread'],
    [0.03, 'stretch-or-misread'],
  ])('two of them %d off their distance: “%s”', (stretch, code) => {
    const [a, b] = drawn(sheet(2)).map((m) => m.at);
    const input = read(sheet(2), (p) => ({ x: a!.x + (p.x - a!.x) * (1 + stretch), y: a!.y + (p.y - a!.y) * (1 + stretch) })); // prettier-ignore
    expect(b!.x - a!.x).toBeGreaterThan(200);
    expect(file(input)).toBe(code);
    const { place } = reckon(input);
    // What is asked about is never called good.
    expect(place.consistency!.verdict).toBe(code === '' ? 'agrees' : 'disagrees');
    if (code !== '') {
      expect(place.question!.message).toContain(`${(100 * Math.abs(stretch)).toFixed(2)} % off its size`);
      expect(waitsOf(input, 'place')).toBe(place.question!.message);
    }
  });

  it('a third mark tells: the same stretch is taken then', () => {
    const [a] = drawn(sheet(3)).map((m) => m.at);
    const input = read(sheet(3), (p) => ({ x: a!.x + (p.x - a!.x) * 1.008, y: a!.y + (p.y - a!.y) * 1.008 }));
    expect(reckon(input).place.question).toBeNull();
    expect(reckon(input).place.placement!.scale).toBeCloseTo(1.008, 6);
    expect(file(input)).toBe('');
  });
});
