import fc from 'fast-check';
import { readTraced } from '../artwork';
import { contoursBox, contourLength, coveredArea, distanceToContour, insidePolygon, polyline, rigid, apply, type Vec } from '../geometry'; // prettier-ignore
import type { Grey } from '../picture';
import { seeded } from '../budget';
import { MOST_TRACED_DOTS, traceArt, type TracedArt } from './art';

/** A picture of what is dark at each place, dots from the lower left corner, y up; by so many looks into each dot a side. */
const picture = (width: number, height: number, dark: (p: Vec) => number, looks = 4): Grey => {
  const pixels = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      let sum = 0;
      for (let i = 0; i < looks; i += 1)
        for (let j = 0; j < looks; j += 1) sum += dark({ x: x + (i + 0.5) / looks, y: height - y - (j + 0.5) / looks });
      pixels[y * width + x] = Math.round(255 * (1 - sum / looks ** 2));
    }
  return { width, height, pixels };
};
const within = (yes: (p: Vec) => boolean) => (p: Vec) => (yes(p) ? 1 : 0);
const from = (c: Vec) => (p: Vec) => Math.hypot(p.x - c.x, p.y - c.y);
const toMiddle = from({ x: 100.3, y: 79.8 });
const ring = within((p) => toMiddle(p) < 60 && toMiddle(p) > 22);
const traced = (grey: Grey): TracedArt => {
  const made = traceArt(grey);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const refused = (grey: Grey): string => {
  const made = traceArt(grey);
  return made.ok ? 'traced' : made.problem.code;
};
const blurredBy = ({ width, height, pixels }: Grey, radius: number): Grey => {
  const out = new Uint8Array(pixels.length);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      let sum = 0;
      for (let k = -radius; k <= radius; k += 1) sum += pixels[y * width + Math.min(width - 1, Math.max(0, x + k))]!;
      out[y * width + x] = sum / (2 * radius + 1);
    }
  return { width, height, pixels: out };
};

describe('a picture in black and white as outlines', () => {
  it.each([
    ['with greys at its edges', 4],
    ['in two tones alone', 1],
  ])('is a ring with its hole, as large as it was drawn, %s [area of a ring: π(R² − r²)]', (_, looks) => {
    const { contours, doubt } = traced(picture(200, 160, ring, looks));
    expect(contours).toHaveLength(2);
    expect(coveredArea(contours) / (Math.PI * (60 ** 2 - 22 ** 2))).toBeCloseTo(1, looks === 1 ? 2 : 2.3);
    const off = contours.flatMap((c) => c.vertices.map((v) => Math.min(Math.abs(toMiddle(v) - 60), Math.abs(toMiddle(v) - 22)))); // prettier-ignore
    // What is said of its doubt holds: none of a few hundred corners is off by more than three times as much.
    expect(Math.max(...off)).toBeLessThan(3 * doubt);
    expect(contours.map((c) => contourLength(c)).sort((a, b) => b - a)[0]! / (2 * Math.PI * 60)).toBeCloseTo(1, 1.7);
  });
  it('lies along the sides of bars at any turn, wherever they are, to its own doubt', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.double({ min: 60, max: 66, noNaN: true }),
        fc.constantFrom(1, 4),
        (turn, x, looks) => {
          const m = rigid(turn, x, 63);
          const corners = [{ x: -45, y: -9 }, { x: 45, y: -9 }, { x: 45, y: 9 }, { x: -45, y: 9 }].map((p) => apply(m, p)); // prettier-ignore
          const { contours, doubt } = traced(picture(130, 130, within((p) => insidePolygon(p, corners)), looks)); // prettier-ignore
          expect(contours).toHaveLength(1);
          // Corners themselves come out rounded; sides do not move.
          const off = contours[0]!.vertices
            .filter((v) => corners.every((c) => Math.hypot(c.x - v.x, c.y - v.y) > 4))
            .map((v) => distanceToContour(v, polyline(corners, true)));
          expect(Math.max(0, ...off)).toBeLessThan(3 * doubt);
          return true;
        },
      ),
      { numRuns: 20 },
    );
  });
  it('takes what is lighter where the ground is dark, and says so', () => {
    const { contours, notes } = traced(picture(200, 160, (p) => 1 - ring(p)));
    expect(coveredArea(contours) / (Math.PI * (60 ** 2 - 22 ** 2))).toBeCloseTo(1, 2);
    expect(notes).toEqual(['Its ground is dark: what is lighter was traced.']);
  });
  it('leaves specks out, and counts them', () => {
    const specks = [{ x: 12, y: 12 }, { x: 180, y: 140 }].map(from); // prettier-ignore
    const { contours, notes } = traced(picture(200, 160, (p) => (specks.some((s) => s(p) < 1.5) ? 1 : ring(p))));
    expect(contours).toHaveLength(2);
    expect(notes).toEqual(['2 specks of a few dots are left out.']);
  });
  it('is refused with the way on where it has shades, is blurred, empty, full of specks or too large', () => {
    const [disc, next] = [within((p) => toMiddle(p) < 60), seeded(5)];
    expect(refused(picture(200, 160, (p) => p.x / 200))).toBe('shades');
    expect(refused(picture(200, 160, (p) => 0.5 + 0.5 * Math.sin(p.x / 9) * Math.cos(p.y / 11), 1))).toBe('shades');
    // A dark plate whose own face is shaded, on white.
    expect(refused(picture(200, 160, (p) => disc(p) * (0.3 + (0.6 * p.y) / 160)))).toBe('shades');
    expect(refused(blurredBy(picture(200, 160, ring), 9))).toBe('shades');
    expect(refused(picture(60, 60, () => 0))).toBe('no-print');
    expect(
      refused(
        picture(
          60,
          60,
          within((p) => from({ x: 30, y: 30 })(p) < 1.5),
        ),
      ),
    ).toBe('only-specks');
    expect(refused({ width: 5_001, height: 5_000, pixels: new Uint8Array(0) })).toBe('too-many-dots');
    expect(5_000 * 5_000).toBe(MOST_TRACED_DOTS);
    expect(refused(picture(300, 300, () => next.uniform(), 1))).toBe('shades');
  });
  it('becomes art of its size at its dots to the inch; without them its size is open', () => {
    const art = traced(picture(200, 160, ring));
    const sized = (perInch: number | null) => {
      const read = readTraced(art, perInch);
      if (!read.ok) throw new Error(read.problem.message);
      return read.value;
    };
    // 120 dots of 1/300 in.
    expect(sized(300)).toMatchObject({ unit: 'in', shapes: [{ rule: 'evenodd', fill: '#000000', stroke: null }] });
    expect(sized(300).width).toBeCloseTo((120 * 25.4) / 300, 1);
    expect(sized(300).doubt).toBeCloseTo((art.doubt * 25.4) / 300, 9);
    expect(contoursBox(sized(300).shapes[0]!.contours)).toMatchObject({ minX: 0, minY: 0 });
    expect(sized(null).unit).toBe('px');
    expect(sized(null).width / sized(300).width).toBeCloseTo(300 / 96, 6);
  });
});
