import { polyline, type Contour, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { SlotFit } from '../slotted';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';

export interface CradleChoice {
  /** Diameter of the round stock, mm. */
  readonly diameter: Mm;
  readonly length: Mm;
  /** Slots for the board that it is cut from. */
  readonly fit: SlotFit;
  /** Height of the crest over the bed that is in focus, mm; null for the least that stands. */
  readonly crestHeight: Mm | null;
  readonly pieces: number;
  readonly kerf: Mm;
}

export interface Cradle {
  /** Two saddles and two rails, laid out to be cut; origin front left, mm. */
  readonly contours: readonly Contour[];
  readonly width: Mm;
  readonly height: Mm;
  readonly pitch: Mm;
  readonly slot: Mm;
  readonly crest: Mm;
  readonly working: readonly WorkedLine[];
}

/** Room between stock and saddle, in the radius, mm [common practice]. */
const SADDLE_ROOM: Mm = 0.3;

/**
 * A cradle for round stock: two saddle boards cut to the stock's radius, held by two rails with
 * slots for the measured board, its height chosen so that the crest lies in
 * focus.
 */
export const reckonCradle = (choice: CradleChoice): Result<Cradle> => {
  const { diameter, length, fit, pieces, kerf } = choice;
  const { thickness: t, slot } = fit;
  if (!(diameter > 0) || !(length > 0))
    return fail('no-stock', 'Type the stock’s diameter and length first.', 'diameter');
  const r = diameter / 2 + SADDLE_ROOM;
  const floor = Math.max(2 * t, 6);
  const least = floor + diameter;
  const crest = choice.crestHeight ?? least;
  if (crest < least)
    return fail(
      'crest-too-low',
      `With ${mm(floor)} of board under it the crest lies at ${mm(least)} at least; ${mm(crest)} was asked for.`,
      'crestHeight',
    );
  // The stock sinks to the bottom of a saddle that is wider than itself: that is where it stands, not in the middle.
  const bottom = crest - diameter;
  const centre = bottom + r;
  // The saddle takes the lower third, so that the stock rolls neither out nor into the head’s path.
  const top = bottom + 0.66 * r;
  const pitch = diameter + Math.max(2 * t, 4);
  const width = pieces * pitch + 4 * t;
  const k = kerf / 2;
  // The beam's middle goes half a kerf inside the saddle, about the same point.
  const lip = Math.acos((centre - top - k) / (r - k));
  const half = (r - k) * Math.sin(lip);
  const bulge = -Math.tan(lip / 2);
  const slotPlaces = [t * 2, width - t * 2];
  /** A saddle board from above its lower edge at y0; slots open downwards, half its height. */
  const saddle = (y0: Mm): Contour => {
    const points: (Vec & { bulge?: number })[] = [{ x: -k, y: y0 - k }];
    for (const at of slotPlaces)
      points.push(
        { x: at - slot / 2 + k, y: y0 - k },
        { x: at - slot / 2 + k, y: y0 + top / 2 + k },
        { x: at + slot / 2 - k, y: y0 + top / 2 + k },
        { x: at + slot / 2 - k, y: y0 - k },
      );
    points.push({ x: width + k, y: y0 - k }, { x: width + k, y: y0 + top + k });
    for (let i = pieces - 1; i >= 0; i -= 1) {
      const cx = width / 2 + (i - (pieces - 1) / 2) * pitch;
      points.push({ x: cx + half, y: y0 + top + k, bulge }, { x: cx - half, y: y0 + top + k });
    }
    points.push({ x: -k, y: y0 + top + k });
    return { closed: true, vertices: points };
  };
  /** A rail: slots open upwards where the two saddles stand. */
  const railLength = Math.max(length * 0.7, 6 * t);
  const rail = (y0: Mm): Contour => {
    const points: Vec[] = [
      { x: -k, y: y0 - k },
      { x: railLength + k, y: y0 - k },
      { x: railLength + k, y: y0 + top + k },
    ];
    for (const at of [railLength - 2 * t, 2 * t])
      points.push(
        { x: at + slot / 2 - k, y: y0 + top + k },
        { x: at + slot / 2 - k, y: y0 + top / 2 - k },
        { x: at - slot / 2 + k, y: y0 + top / 2 - k },
        { x: at - slot / 2 + k, y: y0 + top + k },
      );
    points.push({ x: -k, y: y0 + top + k });
    return polyline(points, true);
  };
  const gap = 3 + kerf;
  const step = top + gap;
  const contours = [saddle(0), saddle(step), rail(2 * step), rail(3 * step)];
  return ok({
    contours,
    width: Math.max(width, railLength),
    height: 4 * step - gap,
    pitch,
    slot,
    crest,
    working: [
      worked(
        'saddle radius',
        'stock / 2 + room',
        `${fixed(diameter / 2)} + ${fixed(SADDLE_ROOM)}`,
        mm(r),
        'common practice',
      ),
      ...fit.working,
      worked(
        'crest over the bed',
        'bottom of the saddle + diameter',
        `${fixed(bottom)} + ${fixed(diameter)}`,
        mm(crest),
        'geometry',
      ),
    ],
  });
};
