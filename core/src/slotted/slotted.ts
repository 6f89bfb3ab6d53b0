import { circle, polyline, type Contour, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';

/** Slots are wider than the board by this while no fit gauge was tried, mm [common practice]. */
export const SLOT_ROOM: Mm = 0.1;
/** Board thicknesses that slotted parts hold together in, mm. */
export const LEAST_SLOTTED: Mm = 1.5;
export const MOST_SLOTTED: Mm = 15;
/** Wider than the board by this, a joint rattles, mm [common practice: 5.08 mm stock is loose at 4.57]. */
const RATTLES: Mm = 0.4;
/** Slots of the fit gauge, wider than the board by, mm. */
export const GAUGE_STEPS: readonly Mm[] = [-0.2, -0.1, 0, 0.1, 0.2, 0.3, 0.4];

/** Board that parts are slotted from, as the caliper found it in several places. */
export interface SlottedStock {
  /** Nominal thickness, counted while no place was measured, mm. */
  readonly thickness: Mm;
  /** Thickness in several places, mm. */
  readonly readings: readonly Mm[];
  /** By how much the slot of the fit gauge that held was wider than the board; null while none was tried. */
  readonly room: Mm | null;
}

export const freshStock: SlottedStock = { thickness: 3, readings: [], room: null };

export interface SlotFit {
  readonly slot: Mm;
  /** Mean thickness, mm. */
  readonly thickness: Mm;
  /** Room of the thickest and of the thinnest place in the slot, mm. */
  readonly tightest: Mm;
  readonly loosest: Mm;
  readonly working: readonly WorkedLine[];
}

/**
 * Width of the slots for a board: its thickest place must go in, its thinnest must still hold.
 *
 * @param thickness as drawn, mm; counts while no place was measured
 * @returns the slot, or a problem for stock that no one slot fits, before anything is cut
 * @example slotFit({ readings: [3.02, 3.05], room: null }, 3) // slot 3.15
 */
export const slotFit = (
  { readings, room }: Pick<SlottedStock, 'readings' | 'room'>,
  thickness: Mm,
): Result<SlotFit> => {
  const measured = readings.length > 0 ? readings : [thickness];
  const [least, most] = [Math.min(...measured), Math.max(...measured)];
  if (least < LEAST_SLOTTED || most > MOST_SLOTTED)
    return fail(
      'board-thickness',
      `A board of ${mm(least < LEAST_SLOTTED ? least : most)} does not hold slotted parts together; ${LEAST_SLOTTED} to ${MOST_SLOTTED} mm do. Measure it with the caliper.`,
      'boardThickness',
    );
  const by = room ?? SLOT_ROOM;
  const slot = most + by;
  if (slot - least > RATTLES)
    return fail(
      'board-varies',
      `This board is ${mm(least)} in one place and ${mm(most)} in another: a slot of ${mm(slot)} that takes the one lets the other rattle by ${mm(slot - least)}, and ${mm(RATTLES)} is the most that holds. Take another board, or sort its parts by thickness.`,
      'hold.stock',
    );
  return ok({
    slot,
    thickness: measured.reduce((s, v) => s + v, 0) / measured.length,
    tightest: slot - most,
    loosest: slot - least,
    working: [
      worked(
        'slot',
        'thickest place + room',
        `${fixed(most)} + ${fixed(by)}`,
        mm(slot),
        room === null ? 'common practice' : 'measured with the fit gauge',
      ),
      worked(
        'loosest place',
        'slot − thinnest place',
        `${fixed(slot)} − ${fixed(least)}`,
        `${mm(slot - least)}, at most ${mm(RATTLES)}`,
        readings.length > 0 ? 'measured with the caliper' : 'typed',
      ),
    ],
  });
};

/** Whether other stock still fits parts that were drawn for a slot; null when it does, else why not. */
export const stockProblem = (slot: Mm, thickness: Mm): string | null =>
  thickness > slot
    ? `Stock of ${mm(thickness)} does not go into slots of ${mm(slot)}: draw the parts again for it.`
    : slot - thickness > RATTLES
      ? `Stock of ${mm(thickness)} rattles in slots of ${mm(slot)}: draw the parts again for it.`
      : null;

/**
 * A gauge for slots: a comb of slots in tenths round the board's thickness, to try with an offcut of
 * that board. Dots count the slots from the narrowest.
 */
export const fitGauge = (thickness: Mm, kerf: Mm): Contour[] => {
  const pitch = thickness + 8;
  const width = GAUGE_STEPS.length * pitch + 8;
  const height = 26;
  const k = kerf / 2;
  const comb: Vec[] = [
    { x: -k, y: -k },
    { x: width + k, y: -k },
    { x: width + k, y: height + k },
  ];
  for (let i = GAUGE_STEPS.length - 1; i >= 0; i -= 1) {
    const centre = 4 + pitch * (i + 0.5);
    const half = (thickness + GAUGE_STEPS[i]!) / 2 - k;
    comb.push(
      { x: centre + half, y: height + k },
      { x: centre + half, y: height - 12 },
      { x: centre - half, y: height - 12 },
      { x: centre - half, y: height + k },
    );
  }
  comb.push({ x: -k, y: height + k });
  return [
    ...GAUGE_STEPS.flatMap((_, i) =>
      Array.from({ length: i + 1 }, (__, n) =>
        circle({ x: 4 + pitch * (i + 0.5) + ((n % 4) - 1.5) * 1.8, y: 9 - Math.floor(n / 4) * 2 }, 0.4),
      ),
    ),
    polyline(comb, true),
  ];
};

/** Room of the slot that held, by its count of dots; null when there is no such slot. */
export const roomFromGauge = (dots: number): Mm | null => GAUGE_STEPS[dots - 1] ?? null;

export interface StandChoice {
  /** Footprint, mm. */
  readonly width: Mm;
  readonly depth: Mm;
  /** How high it lifts the work, mm. */
  readonly height: Mm;
}

export interface Stand {
  readonly contours: readonly Contour[];
  readonly width: Mm;
  readonly height: Mm;
  readonly along: number;
  readonly across: number;
  readonly working: readonly WorkedLine[];
}

/** Farthest that a stand's walls may be apart under thin work, mm [common practice]. */
const WALLS_APART: Mm = 90;

/**
 * A stand that lifts work over the bed: strips on edge, half-lapped into each other like the
 * dividers of a crate, slots half their height, all of the same board.
 */
export const reckonStand = (choice: StandChoice, fit: SlotFit, kerf: Mm): Result<Stand> => {
  const { width, depth, height } = choice;
  const t = fit.thickness;
  if (height < 3 * t)
    return fail(
      'stand-low',
      `Strips of a ${fixed(t, 1)} mm board must be ${fixed(3 * t, 1)} mm high or more for their slots to hold; for ${fixed(height, 1)} mm lay flat boards under the work.`,
      'hold.stand.height',
    );
  if (height > 1.5 * Math.min(width, depth))
    return fail('stand-tall', 'So tall on so small a foot it tips over. Make it wider.', 'hold.stand.height');
  const count = (length: Mm): number => Math.max(2, Math.ceil(length / WALLS_APART) + 1);
  const [along, across] = [count(depth), count(width)];
  const overhang = Math.max(2 * t, 6);
  const k = kerf / 2;
  /** A strip with slots from its upper or lower edge where the others cross it. */
  const strip = (length: Mm, others: number, x0: Mm, y0: Mm, open: 'up' | 'down'): Contour => {
    const at = Array.from({ length: others }, (_, i) => overhang + (i * (length - 2 * overhang)) / (others - 1));
    const half = fit.slot / 2 - k;
    const edge = open === 'up' ? height + k : -k;
    const foot = open === 'up' ? height / 2 - k : height / 2 + k;
    const cuts = (list: readonly Mm[], way: 1 | -1): Vec[] =>
      list.flatMap((x) => [
        { x: x0 + x - way * half, y: y0 + edge },
        { x: x0 + x - way * half, y: y0 + foot },
        { x: x0 + x + way * half, y: y0 + foot },
        { x: x0 + x + way * half, y: y0 + edge },
      ]);
    return polyline(
      [
        { x: x0 - k, y: y0 - k },
        ...(open === 'down' ? cuts(at, 1) : []),
        { x: x0 + length + k, y: y0 - k },
        { x: x0 + length + k, y: y0 + height + k },
        ...(open === 'up' ? cuts([...at].reverse(), -1) : []),
        { x: x0 - k, y: y0 + height + k },
      ],
      true,
    );
  };
  const step = height + 3 + kerf;
  const contours = [
    ...Array.from({ length: along }, (_, i) => strip(width, across, 0, i * step, 'up')),
    ...Array.from({ length: across }, (_, i) => strip(depth, along, 0, (along + i) * step, 'down')),
  ];
  return ok({
    contours,
    width: Math.max(width, depth),
    height: (along + across) * step - 3 - kerf,
    along,
    across,
    working: [
      ...fit.working,
      worked(
        'strips',
        '⌈length / 90⌉ + 1 each way',
        `${fixed(depth, 0)} and ${fixed(width, 0)}`,
        `${along} along, ${across} across`,
        'common practice',
      ),
    ],
  });
};
