import { circle, offsetContours, roundedRectangle, type Contour, type Vec } from '../geometry';
import { chanceBelow } from '../samples';
import type { Mm, Rad, Share } from '../units';
import { degrees, fixed, mm, percent, worked, type WorkedLine } from '../working';
import { clippedRectangle, type Blank, type BlankSizes } from './blank';
import { maxYaw } from './float';
import { notchOutline, notchRadius, type Notches } from './notches';
import { clearanceTotal, type Clearance } from './settings';

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
  /** Radius of a piece's own corners, mm: round ones let it turn further. */
  readonly corner: Mm;
  /** How far a round piece may be turned off its line when it is laid by eye, radians; null when it has no feature to lay by. */
  readonly byEye: Rad | null;
  /** Whether its form keys the piece: a clipped corner goes in one way only. */
  readonly keyed: boolean;
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

/** A place without a pocket: the piece's own size, nothing moves. */
export const plainPlace = (sizes: BlankSizes): Pocket => ({
  length: sizes.length.upper,
  width: sizes.width.upper,
  floatX: 0,
  floatY: 0,
  yaw: 0,
  corner: 0,
  byEye: null,
  fits: 1,
  keyed: false,
  working: [],
  offset: { x: 0, y: 0 },
});

const lines = (sizes: BlankSizes, extra: Mm, name: string, basis: WorkedLine['basis'], fits: Share): WorkedLine[] => [
  ...(['length', 'width'] as const).map((side) =>
    worked(
      `pocket ${side}`,
      `upper size + ${name}`,
      `${fixed(sizes[side].upper, 3)} + ${fixed(extra)}`,
      mm(sizes[side].upper + extra),
      basis,
    ),
  ),
  worked(
    'a piece drops in',
    'P(length ≤ pocket) × P(width ≤ pocket)',
    `${percent(chanceBelow(sizes.length, sizes.length.upper + extra), 2)} × ${percent(chanceBelow(sizes.width, sizes.width.upper + extra), 2)}`,
    percent(fits, 2),
    'statistics',
  ),
];

/** What an opening larger than the size allowed for has in common, whichever way a piece lies in it. */
const opening = (
  blank: Blank,
  sizes: BlankSizes,
  extra: Mm,
): Pick<Pocket, 'length' | 'width' | 'fits' | 'byEye' | 'corner'> & { readonly eye: WorkedLine[] } => {
  const length = sizes.length.upper + extra;
  const width = sizes.width.upper + extra;
  const byEye = turnedByEye(blank);
  return {
    length,
    width,
    corner: blank.shape.kind === 'rectangle' ? blank.shape.cornerRadius : 0,
    byEye,
    fits:
      blank.shape.kind === 'disc'
        ? chanceBelow(sizes.length, length)
        : chanceBelow(sizes.length, length) * chanceBelow(sizes.width, width),
    eye:
      byEye === null
        ? []
        : [
            worked(
              'turned by eye',
              'eye to line / distance of the hole from the middle',
              `${fixed(EYE_TO_LINE)} / ${fixed(Math.hypot(blank.holes[0]!.x, blank.holes[0]!.y), 1)}`,
              `± ${degrees(byEye)}`,
              'common practice',
            ),
          ],
  };
};

/** A pocket in which a piece floats: upper size + clearance. */
export const loosePocket = (blank: Blank, sizes: BlankSizes, clearance: Clearance): Pocket => {
  const extra = clearanceTotal(clearance);
  const { eye, ...open } = opening(blank, sizes, extra);
  const { length, width, corner } = open;
  const floatX = Math.max(0, (length - sizes.length.mean) / 2);
  const floatY = Math.max(0, (width - sizes.width.mean) / 2);
  const yaw = blank.shape.kind === 'disc' ? null : maxYaw(sizes.length.mean, sizes.width.mean, length, width, corner);
  const basis = clearance.school === 'own' ? 'typed' : 'common practice';
  return {
    ...open,
    floatX,
    floatY,
    yaw,
    keyed: true,
    offset: { x: 0, y: 0 },
    working: [
      ...lines(sizes, extra, `clearance, ${clearance.school}`, basis, open.fits),
      worked(
        'float, length',
        '±(pocket − mean) / 2',
        `(${fixed(length)} − ${fixed(sizes.length.mean)}) / 2`,
        `± ${mm(floatX)}`,
        'geometry',
      ),
      worked(
        'float, width',
        '±(pocket − mean) / 2',
        `(${fixed(width)} − ${fixed(sizes.width.mean)}) / 2`,
        `± ${mm(floatY)}`,
        'geometry',
      ),
      ...(yaw === null
        ? []
        : [
            worked(
              'greatest yaw',
              corner > 0
                ? '(l−2r)·cosψ + (w−2r)·sinψ + 2r = L or (l−2r)·sinψ + (w−2r)·cosψ + 2r = W, whichever touches first'
                : 'l·cosψ + w·sinψ = L or l·sinψ + w·cosψ = W, whichever touches first',
              `l ${fixed(sizes.length.mean)}, w ${fixed(sizes.width.mean)}, L ${fixed(length)}, W ${fixed(width)}${corner > 0 ? `, r ${fixed(corner)}` : ''}`,
              `± ${degrees(yaw)}`,
              'geometry',
            ),
          ]),
      ...eye,
    ],
  };
};

/** A roomy pocket whose front left corner every piece is pushed to: upper size + room to push. */
export const cornerPocket = (blank: Blank, sizes: BlankSizes, room: Mm): Pocket => {
  const { eye, ...open } = opening(blank, sizes, room);
  return {
    ...open,
    floatX: 0,
    floatY: 0,
    yaw: blank.shape.kind === 'disc' ? null : 0,
    keyed: false,
    offset: { x: (open.length - sizes.length.mean) / 2, y: (open.width - sizes.width.mean) / 2 },
    working: [
      ...lines(sizes, room, 'room to push', 'typed', open.fits),
      worked(
        'centre in the corner',
        'half the piece from each stop',
        `${fixed(sizes.length.mean)} / 2, ${fixed(sizes.width.mean)} / 2`,
        'no float; size error / 2',
        'geometry',
      ),
      ...eye,
    ],
  };
};

/** A rounded rectangle or circle does not need the clipper; other outlines and notches do. */
const plainOutline = (blank: Blank, sizes: BlankSizes, pocket: Pocket, kerf: Mm): Contour[] => {
  const grow = (pocket.length - sizes.length.upper) / 2;
  const { x, y } = pocket.offset;
  switch (blank.shape.kind) {
    case 'rectangle':
      if (blank.direction.kind === 'clipped-corner' && pocket.keyed) {
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
export const pocketOutline = (blank: Blank, sizes: BlankSizes, pocket: Pocket, hold: Notches, kerf: Mm): Contour[] => {
  const plain = plainOutline(blank, sizes, pocket, kerf);
  if (hold.notches === 'none') return plain;
  const r = notchRadius(pocket.length, hold) - kerf / 2;
  const at = (side: 1 | -1): Vec => ({ x: pocket.offset.x, y: pocket.offset.y + (side * pocket.width) / 2 });
  const sides: (1 | -1)[] = hold.notches === 'both' ? [-1, 1] : [-1];
  if (
    blank.shape.kind === 'rectangle' &&
    !(blank.direction.kind === 'clipped-corner') &&
    2 * r < pocket.length - 2 * blank.shape.cornerRadius - 4
  ) {
    return plain.map((contour) => notched(contour, sides.map(at), r));
  }
  return notchOutline(plain, sides, r);
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
