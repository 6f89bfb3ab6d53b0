import { circle, offsetContours, roundedRectangle, uniteContours, type Contour, type Vec } from '../geometry';
import { chanceBelow } from '../samples';
import type { Mm, Rad, Share } from '../units';
import { degrees, fixed, mm, percent, worked, type WorkedLine } from '../working';
import { blankOutline, clippedRectangle, type Blank, type BlankSizes } from './blank';
import { maxYaw } from './float';
import { linesRoom } from './lines';
import { clearanceTotal, cutFromSheet, laidToLines, type HoldSettings } from './settings';

/** One pocket as it will be, in the blank's axes, with what a piece can do in it. */
export interface Pocket {
  /** Finished opening, mm. */
  readonly length: Mm;
  readonly width: Mm;
  /** Greatest shift of a piece's centre either way, mm. */
  readonly floatX: Mm;
  readonly floatY: Mm;
  /** Greatest yaw either way, radians; null where nothing stops a round piece turning. */
  readonly yaw: Rad | null;
  /** How far a round piece may be turned off its line when it is laid by eye, radians; null when it has no feature to lay by. */
  readonly byEye: Rad | null;
  /** Chance that a piece drops in. */
  readonly fits: Share;
  /** Centre of the opening seen from the centre of a piece in its place, mm. */
  readonly offset: Vec;
  readonly working: readonly WorkedLine[];
}

/** How well a feature is laid to an engraved line by eye, mm either way [common practice]. */
const EYE_TO_LINE: Mm = 0.2;

/** A round piece with a hole is turned until the hole meets the triangle beside the pocket. */
const turnedByEye = (blank: Blank): Rad | null => {
  const hole = blank.holes[0];
  if (blank.shape.kind !== 'disc' || blank.direction.kind !== 'hole' || !hole) return null;
  const reach = Math.hypot(hole.x, hole.y);
  return reach < 1 ? null : EYE_TO_LINE / reach;
};

/** The place of a printed piece: its own size, nothing moves. */
const printedPlace = (sizes: BlankSizes): Pocket => ({
  length: sizes.length.upper,
  width: sizes.width.upper,
  floatX: 0,
  floatY: 0,
  yaw: 0,
  byEye: null,
  fits: 1,
  working: [],
  offset: { x: 0, y: 0 },
});

/**
 * Size of the pocket and what it allows: upper size + clearance (nest), or upper size + room to
 * push with the piece held against the front left corner (fence).
 */
export const reckonPocket = (blank: Blank, sizes: BlankSizes, hold: HoldSettings): Pocket => {
  if (cutFromSheet(hold.method)) return printedPlace(sizes);
  if (laidToLines(hold.method))
    return {
      ...printedPlace(sizes),
      ...(hold.method === 'lines' ? linesRoom(blankOutline(blank, sizes), hold.lines.peg) : {}),
    };
  const fence = hold.method === 'fence';
  const extra = fence ? hold.pushRoom : clearanceTotal(hold.clearance);
  const length = sizes.length.upper + extra;
  const width = sizes.width.upper + extra;
  const round = blank.shape.kind === 'disc';
  const fits = round
    ? chanceBelow(sizes.length, length)
    : chanceBelow(sizes.length, length) * chanceBelow(sizes.width, width);
  const floatX = fence ? 0 : Math.max(0, (length - sizes.length.mean) / 2);
  const floatY = fence ? 0 : Math.max(0, (width - sizes.width.mean) / 2);
  const yaw = round ? null : fence ? 0 : maxYaw(sizes.length.mean, sizes.width.mean, length, width);
  const byEye = turnedByEye(blank);
  const name = fence ? 'room to push' : `clearance, ${hold.clearance.school}`;
  const basis = fence || hold.clearance.school === 'own' ? 'typed' : 'common practice';
  const working: WorkedLine[] = [
    worked(
      'pocket length',
      `upper size + ${name}`,
      `${fixed(sizes.length.upper, 3)} + ${fixed(extra)}`,
      mm(length),
      basis,
    ),
    worked(
      'pocket width',
      `upper size + ${name}`,
      `${fixed(sizes.width.upper, 3)} + ${fixed(extra)}`,
      mm(width),
      basis,
    ),
    worked(
      'a piece drops in',
      'P(length ≤ pocket) × P(width ≤ pocket)',
      `${percent(chanceBelow(sizes.length, length), 2)} × ${percent(chanceBelow(sizes.width, width), 2)}`,
      percent(fits, 2),
      'statistics',
    ),
  ];
  if (!fence) {
    working.push(
      worked(
        'float, length',
        '±(pocket − mean) / 2',
        `(${fixed(length)} − ${fixed(sizes.length.mean)}) / 2`,
        `± ${mm(floatX)}`,
        'geometry',
      ),
    );
    working.push(
      worked(
        'float, width',
        '±(pocket − mean) / 2',
        `(${fixed(width)} − ${fixed(sizes.width.mean)}) / 2`,
        `± ${mm(floatY)}`,
        'geometry',
      ),
    );
    if (yaw !== null) {
      working.push(
        worked(
          'greatest yaw',
          'l·cosψ + w·sinψ = L or l·sinψ + w·cosψ = W, whichever touches first',
          `l ${fixed(sizes.length.mean)}, w ${fixed(sizes.width.mean)}, L ${fixed(length)}, W ${fixed(width)}`,
          `± ${degrees(yaw)}`,
          'geometry',
        ),
      );
    }
  } else {
    working.push(
      worked(
        'centre in the corner',
        'half the piece from each stop',
        `${fixed(sizes.length.mean)} / 2, ${fixed(sizes.width.mean)} / 2`,
        'no float; size error / 2',
        'geometry',
      ),
    );
  }
  if (byEye !== null)
    working.push(
      worked(
        'turned by eye',
        'eye to line / distance of the hole from the middle',
        `${fixed(EYE_TO_LINE)} / ${fixed(Math.hypot(blank.holes[0]!.x, blank.holes[0]!.y), 1)}`,
        `± ${degrees(byEye)}`,
        'common practice',
      ),
    );
  return {
    length,
    width,
    floatX,
    floatY,
    yaw,
    byEye,
    fits,
    working,
    offset: fence ? { x: (length - sizes.length.mean) / 2, y: (width - sizes.width.mean) / 2 } : { x: 0, y: 0 },
  };
};

/** A rounded rectangle or circle does not need the clipper; other outlines and notches do. */
const plainOutline = (blank: Blank, sizes: BlankSizes, pocket: Pocket, hold: HoldSettings, kerf: Mm): Contour[] => {
  const grow = (pocket.length - sizes.length.upper) / 2;
  const { x, y } = pocket.offset;
  switch (blank.shape.kind) {
    case 'rectangle':
      if (blank.direction.kind === 'clipped-corner' && hold.method === 'nest') {
        return [
          clippedRectangle({ x, y }, pocket.length - kerf, pocket.width - kerf, blank.direction.size, grow - kerf / 2),
        ];
      }
      return [
        roundedRectangle(
          { x, y },
          pocket.length - kerf,
          pocket.width - kerf,
          Math.max(0, blank.shape.cornerRadius + grow - kerf / 2),
        ),
      ];
    case 'disc':
      return [circle({ x, y }, (pocket.length - kerf) / 2)];
    case 'outline': {
      const outer = blank.shape.contours.slice(0, 1);
      const byHalf = (pocket.length - kerf) / 2 - sizes.length.mean / 2;
      return offsetContours(outer, byHalf);
    }
    case 'round':
      return [];
  }
};

/**
 * The line the beam follows to cut a pocket, in the blank's frame: inwards by half the kerf, with
 * finger notches at mid-side.
 * @param kerf full width of the cut, mm
 */
export const pocketOutline = (
  blank: Blank,
  sizes: BlankSizes,
  pocket: Pocket,
  hold: HoldSettings,
  kerf: Mm,
): Contour[] => {
  const plain = plainOutline(blank, sizes, pocket, hold, kerf);
  if (hold.notches === 'none') return plain;
  const r = hold.notchRadius - kerf / 2;
  const at = (side: 1 | -1): Vec => ({ x: pocket.offset.x, y: pocket.offset.y + (side * pocket.width) / 2 });
  const sides: (1 | -1)[] = hold.notches === 'both' ? [-1, 1] : [-1];
  if (
    blank.shape.kind === 'rectangle' &&
    !(blank.direction.kind === 'clipped-corner') &&
    2 * r < pocket.length - 2 * blank.shape.cornerRadius - 4
  ) {
    return plain.map((contour) => notched(contour, sides.map(at), r));
  }
  return uniteContours([...plain, ...sides.map((side) => circle(at(side), r))]);
};

/** Puts half circles into the straight horizontal sides that pass through the given points. */
const notched = (contour: Contour, centres: readonly Vec[], r: Mm): Contour => {
  const vertices = contour.vertices.flatMap((v, i) => {
    const next = contour.vertices[(i + 1) % contour.vertices.length]!;
    const centre = centres.find(
      (c) =>
        !v.bulge &&
        Math.abs(v.y - next.y) < 1e-9 &&
        Math.abs(v.y - c.y) < r / 2 &&
        Math.min(v.x, next.x) < c.x - r &&
        Math.max(v.x, next.x) > c.x + r,
    );
    if (!centre) return [v];
    const half = Math.sqrt(r * r - (v.y - centre.y) ** 2);
    const way = Math.sign(next.x - v.x);
    const from = { x: centre.x - way * half, y: v.y };
    const to = { x: centre.x + way * half, y: v.y };
    // The contour runs counter-clockwise, so outwards is to the right of its direction.
    const outside = { x: centre.x, y: centre.y - way * r };
    const depth = Math.abs(outside.y - v.y);
    return [v, { ...from, bulge: depth / half }, to];
  });
  return { closed: true, vertices };
};
