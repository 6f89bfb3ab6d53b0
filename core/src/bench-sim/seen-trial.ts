import { seeded } from '../budget';
import { eachSegment, flatten } from '../geometry';
import type { CellLook } from './material';
import type { Effect, LaidTrial, TrialPlan } from '../trial';

/** Red, green, blue; 0 to 255. */
type Colour = readonly [number, number, number];

/** How a material looks bare, done and charred, as an eye sees it under a lamp. */
const LOOKS: readonly (readonly [RegExp, Colour, Colour, Colour])[] = [
  [/glass/i, [70, 84, 88], [226, 232, 230], [168, 170, 166]],
  [/slate|stone/i, [62, 66, 72], [178, 180, 178], [132, 128, 120]],
  [/lacquer|paint|powder|coated flask|anodi/i, [44, 62, 92], [206, 208, 206], [150, 128, 96]],
  [/steel|brass|alumini?um/i, [190, 190, 186], [38, 36, 36], [120, 104, 90]],
  [/film|decal|laminate/i, [198, 60, 48], [236, 234, 228], [140, 92, 60]],
];
const WOOD: readonly [Colour, Colour, Colour] = [
  [222, 196, 152],
  [112, 70, 38],
  [34, 24, 18],
];

const mix = (a: Colour, b: Colour, t: number): Colour => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

/** Dots a millimetre, so that lines of a fill are told apart where an eye would. */
export const seenScale = (laid: Pick<LaidTrial, 'width' | 'height'>): number =>
  Math.min(20, 1500 / Math.max(laid.width, laid.height));

/**
 * The grid as it lies under a lamp after it was burned: colours, stripes of a wide interval, soft rims, grain.
 *
 * @returns three bytes a dot, rows from the top
 */
export const seenTrial = (
  plan: TrialPlan,
  laid: LaidTrial,
  looks: readonly CellLook[],
  seed: number,
): { readonly width: number; readonly height: number; readonly data: Uint8Array } => {
  const r = seeded(seed * 101 + 3);
  const scale = seenScale(laid);
  const [width, height] = [Math.ceil(laid.width * scale), Math.ceil(laid.height * scale)];
  const data = new Uint8Array(width * height * 3);
  const [bare, done, charred] = LOOKS.find(([word]) => word.test(plan.material))?.slice(1) as [Colour, Colour, Colour] ?? WOOD; // prettier-ignore
  const put = (x: number, y: number, colour: Colour): void => {
    if (x < 0 || y < 0 || x >= width || y >= height) return;
    const i = (y * width + x) * 3;
    for (let c = 0; c < 3; c += 1) data[i + c] = Math.max(0, Math.min(255, Math.round(colour[c]!)));
  };
  const grain = (): number => (r.uniform() - 0.5) * 10;
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const g = grain();
      put(x, y, [bare[0] + g, bare[1] + g, bare[2] + g]);
    }
  for (const cell of laid.cells) {
    const look = looks[cell.index]!;
    const soft = (0.05 + 0.45 * look.soft) * scale;
    // A ring reaches over its cell’s box by its own width.
    const over = plan.effect === 'cut' ? soft + 0.06 * plan.cell.width * scale : soft;
    const [w, h] = [plan.cell.width * scale, plan.cell.height * scale];
    const [x0, y0] = [cell.x * scale, (laid.height - cell.y - plan.cell.height) * scale];
    const lines = cell.setting.interval * scale;
    for (let y = Math.floor(y0 - over); y < y0 + h + over; y += 1)
      for (let x = Math.floor(x0 - over); x < x0 + w + over; x += 1) {
        const t = shapeAt(
          plan.effect,
          (x - x0) / w,
          (y - y0) / h,
          soft / w,
          look.cut === 'falls out' || look.cut === 'burned back',
        );
        if (t <= 0) continue;
        const colour = tone(look, plan.effect, [bare, done, charred]);
        const stripe = look.striped * (0.5 + 0.5 * Math.cos((2 * Math.PI * (y - y0)) / Math.max(2, lines)));
        const g = grain();
        const [red, green, blue] = mix(bare, colour, t * (1 - stripe));
        put(x, y, [red + g, green + g, blue + g]);
      }
  }
  const ink = mix(done, charred, 0.5);
  for (const contour of laid.lettering)
    eachSegment(contour, (from, to, bulge) => {
      const points = flatten({ closed: false, vertices: [{ ...from, bulge }, to] }, 0.02);
      for (let i = 1; i < points.length; i += 1) {
        const [p, q] = [points[i - 1]!, points[i]!];
        const steps = Math.max(1, Math.ceil(Math.hypot(q.x - p.x, q.y - p.y) * scale * 1.5));
        for (let k = 0; k <= steps; k += 1) {
          const x = (p.x + ((q.x - p.x) * k) / steps) * scale;
          const y = (laid.height - p.y - ((q.y - p.y) * k) / steps) * scale;
          for (let dy = -1; dy <= 1; dy += 1) for (let dx = -1; dx <= 1; dx += 1) put(Math.round(x + dx * 0.6), Math.round(y + dy * 0.6), ink); // prettier-ignore
        }
      }
    });
  return { width, height, data };
};

/** How far a place of a cell is burned: all of it inside, less over a soft rim; from its upper left corner, shares. */
const shapeAt = (effect: Effect, x: number, y: number, soft: number, gone: boolean): number => {
  const ramp = (inside: number): number => Math.min(1, Math.max(0, (inside + soft) / (2 * soft)));
  if (effect === 'cut') {
    return ramp((gone ? 0.5 : 0) + 0.03 + soft - Math.abs(Math.hypot(x - 0.5, y - 0.5) - (gone ? 0 : 0.5)));
  }
  const rim = Math.min(x, y, 1 - x, 1 - y);
  if (effect === 'score') return Math.max(ramp(0.01 - Math.abs(rim)), ramp(0.01 - Math.abs(x + y - 1)));
  return ramp(rim);
};

const tone = (look: CellLook, effect: Effect, [bare, done, charred]: readonly [Colour, Colour, Colour]): Colour => {
  const there = mix(mix(bare, done, look.done), charred, look.charred);
  // What falls out leaves a dark gap; what must be pushed, a darker line than what is not through.
  if (effect !== 'cut') return there;
  return look.cut === 'falls out' || look.cut === 'burned back' ? [12, 10, 10] : mix(there, charred, look.cut === 'must be pushed' ? 0.6 : 0.2); // prettier-ignore
};
