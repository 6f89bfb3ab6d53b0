import { circle, convexHull, distanceToSegment, insidePolygon, polyline, type Contour, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import { LEAST_AIR, type HeadClearance, type TallThing } from './tall';

/** Flat pins with a hooked head that hold work down on a honeycomb or slatted bed. */
export interface PinSettings {
  /** Across a cell, or between slats, mm. */
  readonly cell: Mm;
  /** Depth of the bed, mm. */
  readonly depth: Mm;
  /** Width of the gauge’s shank that goes in by hand and stays, mm; null while none was tried. */
  readonly shank: Mm | null;
  /** How high the head stands over the work, mm. */
  readonly head: Mm;
  /** Board that pins are cut from, mm. */
  readonly stock: Mm;
  /** Scrap that they are laid on, mm. */
  readonly scrap: { readonly width: Mm; readonly height: Mm };
}

export const freshPins: PinSettings = {
  cell: 7,
  depth: 22,
  shank: null,
  head: 3,
  stock: 3,
  scrap: { width: 150, height: 100 },
};

/** A shank goes in by hand when it is this much narrower than its cell, mm [common practice: just under 7 in 7]. */
const SHANK_ROOM: Mm = 0.2;
/** A pin ends this far above the bed’s underside, mm [common practice: 18 in 22]. */
const UNDER: Mm = 4;
/** How far the head reaches over the work, mm. */
const GRIP: Mm = 4;
/** Between pins on the scrap, mm. */
const APART: Mm = 2;
/** Gauge shanks, wider than the cell by, mm. */
export const SHANK_STEPS: readonly Mm[] = [-0.8, -0.6, -0.4, -0.3, -0.2, -0.1, 0, 0.1];
const DOZEN = 12;

export interface PlacedPin {
  /** Middle of the shank, work’s frame, mm. */
  readonly at: Vec;
  /** Towards the work. */
  readonly way: Vec;
  /** Moved along the edge, out of the head’s path, by so much; mm. */
  readonly moved: Mm;
}

export interface Pins {
  readonly shank: Mm;
  /** Under the head, mm. */
  readonly length: Mm;
  /** Top of the head over the bed, mm. */
  readonly top: Mm;
  readonly places: readonly PlacedPin[];
  /** Wanted, but nowhere free of the head’s path. */
  readonly blocked: number;
  /** Greatest distance between neighbours along an edge, mm. */
  readonly spacing: Mm;
  /** Pins that the scrap takes. */
  readonly onScrap: number;
  readonly working: readonly WorkedLine[];
}

/** One pin lying on its side, its head up at the right; kerf outwards. */
const pinOutline = (shank: Mm, length: Mm, head: Mm, at: Vec, kerf: Mm): Contour => {
  const k = kerf / 2;
  const taper = Math.min(3, shank / 3);
  const { x, y } = at;
  return polyline(
    [
      { x: x - k, y: y + taper },
      { x: x + taper - k, y: y - k },
      { x: x + shank - taper + k, y: y - k },
      { x: x + shank + k, y: y + taper },
      { x: x + shank + k, y: y + length - k },
      { x: x + shank + GRIP + k, y: y + length - k },
      { x: x + shank + GRIP + k, y: y + length + head + k },
      { x: x - k, y: y + length + head + k },
    ],
    true,
  );
};

const pitchOf = (shank: Mm, length: Mm, head: Mm): { x: Mm; y: Mm } => ({
  x: shank + GRIP + APART,
  y: length + head + APART,
});

/** Pins laid on scrap in rows, up to `most`. */
export const pinsOnScrap = (
  pins: Pick<Pins, 'shank' | 'length'>,
  { head, scrap }: Pick<PinSettings, 'head' | 'scrap'>,
  kerf: Mm,
  most = DOZEN,
): Contour[] => {
  const pitch = pitchOf(pins.shank, pins.length, head);
  const columns = Math.floor((scrap.width - APART) / pitch.x);
  const rows = Math.floor((scrap.height - APART) / pitch.y);
  return Array.from({ length: Math.min(most, columns * rows) }, (_, i) =>
    pinOutline(
      pins.shank,
      pins.length,
      head,
      { x: APART + (i % columns) * pitch.x, y: APART + Math.floor(i / columns) * pitch.y },
      kerf,
    ),
  );
};

/** A strip of shanks in steps round the cell, to try which goes in by hand; dots count them from the narrowest. */
export const pinGauge = (cell: Mm, kerf: Mm): Contour[] => {
  const k = kerf / 2;
  const pitch = cell + 6;
  const width = SHANK_STEPS.length * pitch + 6;
  const comb: Vec[] = [
    { x: -k, y: 16 + k },
    { x: -k, y: -k },
    { x: width + k, y: -k },
    { x: width + k, y: 16 + k },
  ];
  for (let i = SHANK_STEPS.length - 1; i >= 0; i -= 1) {
    const middle = 3 + pitch * (i + 0.5);
    const half = (cell + SHANK_STEPS[i]!) / 2 + k;
    comb.push(
      { x: middle + half, y: 16 + k },
      { x: middle + half, y: 30 + k },
      { x: middle - half, y: 30 + k },
      { x: middle - half, y: 16 + k },
    );
  }
  return [
    ...SHANK_STEPS.flatMap((_, i) =>
      Array.from({ length: i + 1 }, (__, n) =>
        circle({ x: 3 + pitch * (i + 0.5) + ((n % 4) - 1.5) * 1.8, y: 9 - Math.floor(n / 4) * 2.4 }, 0.4),
      ),
    ),
    polyline(comb, true),
  ];
};

/** Width of the gauge’s shank by its count of dots, mm; null when there is no such one. */
export const shankFromGauge = (cell: Mm, dots: number): Mm | null => {
  const by = SHANK_STEPS[dots - 1];
  return by === undefined ? null : cell + by;
};

/** Distance from the area the head passes over, mm; 0 inside it. */
const offPath = (p: Vec, hull: readonly Vec[]): Mm =>
  hull.length === 0
    ? Infinity
    : hull.length > 2 && insidePolygon(p, hull)
      ? 0
      : hull.reduce((least, a, i) => Math.min(least, distanceToSegment(p, a, hull[(i + 1) % hull.length]!)), Infinity);

/**
 * Pins for work on a honeycomb: their size from cell and depth, how near together the warp wants them,
 * and where round the work they stand clear of the head.
 *
 * @param work width and height of the board or sheet, mm; @param top of the work over the bed, mm
 * @param surface that is engraved, over the bed, mm
 * @param path points the head passes over, work’s frame
 * @param marks that must stay in sight, work’s frame
 */
export const reckonPins = (
  settings: PinSettings,
  work: { readonly width: Mm; readonly height: Mm; readonly top: Mm; readonly surface: Mm; readonly warp: Mm },
  head: HeadClearance,
  path: readonly Vec[],
  marks: readonly Vec[],
): Result<Pins> => {
  const shank = settings.shank ?? settings.cell - SHANK_ROOM;
  if (shank < 2)
    return fail(
      'pin-thin',
      `A shank of ${mm(shank)} breaks. For cells so small, tape the work down.`,
      'hold.pins.cell',
    );
  const into = settings.depth - UNDER;
  if (into < 6)
    return fail(
      'bed-shallow',
      `A bed ${mm(settings.depth)} deep holds a pin by ${mm(Math.max(0, into))} only; 6 mm is the least.`,
      'hold.pins.depth',
    );
  const length = into + work.top;
  const top = work.top + settings.head;
  const long = Math.max(work.width, work.height);
  // A bow of h over L leaves h(s/L)² between pins s apart.
  const allowed = head.focusRange / 2;
  const spacing = work.warp > allowed ? long * Math.sqrt(allowed / work.warp) : long;
  const nozzle = work.surface + head.nozzleGap - (head.lowered ?? 0);
  const clear = top + LEAST_AIR <= nozzle;
  const hull = convexHull(path);
  const around = head.headRadius + shank / 2 + GRIP;
  const free = (at: Vec, way: Vec): boolean =>
    marks.every((m) => Math.hypot(m.x - at.x - way.x * GRIP, m.y - at.y - way.y * GRIP) > 10) &&
    (clear || offPath(at, hull) > around);
  const edges: readonly { from: Vec; to: Vec; way: Vec }[] = [
    { from: { x: 0, y: -shank / 2 }, to: { x: work.width, y: -shank / 2 }, way: { x: 0, y: 1 } },
    {
      from: { x: 0, y: work.height + shank / 2 },
      to: { x: work.width, y: work.height + shank / 2 },
      way: { x: 0, y: -1 },
    },
    ...(work.warp > allowed
      ? [
          { from: { x: -shank / 2, y: 0 }, to: { x: -shank / 2, y: work.height }, way: { x: 1, y: 0 } },
          {
            from: { x: work.width + shank / 2, y: 0 },
            to: { x: work.width + shank / 2, y: work.height },
            way: { x: -1, y: 0 },
          },
        ]
      : []),
  ];
  const places: PlacedPin[] = [];
  let blocked = 0;
  for (const { from, to, way } of edges) {
    const reach = Math.hypot(to.x - from.x, to.y - from.y);
    const room = reach - 2 * Math.min(20, reach / 6);
    const n = Math.max(2, Math.ceil(room / spacing) + 1);
    for (let i = 0; i < n; i += 1) {
      const wanted = Math.min(20, reach / 6) + (i * room) / (n - 1);
      let found: PlacedPin | null = null;
      // Outwards from where it is wanted, a cell at a time, at most half way to its neighbour.
      for (let step = 0; !found && step * settings.cell <= Math.max(settings.cell, room / (n - 1) / 2); step += 1)
        for (const side of step === 0 ? [0] : [1, -1]) {
          const s = wanted + side * step * settings.cell;
          if (s < 2 || s > reach - 2) continue;
          const at = { x: from.x + ((to.x - from.x) * s) / reach, y: from.y + ((to.y - from.y) * s) / reach };
          if (free(at, way)) {
            found = { at, way, moved: step * settings.cell };
            break;
          }
        }
      if (found) places.push(found);
      else blocked += 1;
    }
  }
  const pitch = pitchOf(shank, length, settings.head);
  const onScrap =
    Math.max(0, Math.floor((settings.scrap.width - APART) / pitch.x)) *
    Math.max(0, Math.floor((settings.scrap.height - APART) / pitch.y));
  return ok({
    shank,
    length,
    top,
    places,
    blocked,
    spacing,
    onScrap,
    working: [
      worked(
        'shank',
        settings.shank === null ? 'cell − room' : 'the gauge’s shank that went in',
        settings.shank === null ? `${fixed(settings.cell)} − ${fixed(SHANK_ROOM)}` : fixed(settings.shank),
        mm(shank),
        settings.shank === null ? 'common practice' : 'measured with the pin gauge',
      ),
      worked(
        'pin under its head',
        'bed’s depth − room below + top of the work',
        `${fixed(settings.depth)} − ${fixed(UNDER)} + ${fixed(work.top)}`,
        mm(length),
        'common practice',
      ),
      worked(
        'pins apart, at most',
        work.warp > allowed
          ? 'L √(focus range / 2 / warp): a bow of h over L leaves h(s/L)² between pins'
          : 'the warp lies inside the focus',
        work.warp > allowed
          ? `${fixed(long, 0)} × √(${fixed(allowed)} / ${fixed(work.warp)})`
          : `${fixed(work.warp)} ≤ ${fixed(allowed)}`,
        mm(spacing),
        'geometry',
      ),
      worked(
        'air over a pin',
        'nozzle − (top of the work + head)',
        `${fixed(nozzle)} − ${fixed(top)}`,
        clear ? mm(nozzle - top) : `${mm(nozzle - top)}: pins stay ${mm(around)} off the path`,
        'geometry',
      ),
    ],
  });
};

/** Pins as things that stand on the bed, for the clearance check. */
export const pinsAsThings = ({ places, shank, top }: Pins): TallThing[] =>
  places.map(({ at }, i) => ({ label: `pin ${i + 1}`, x: at.x, y: at.y, radius: shank / 2 + GRIP, height: top }));
