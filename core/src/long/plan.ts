import {
  apply,
  boxCorners,
  boxOf,
  contoursBox,
  insidePolygon,
  rigid,
  flatten,
  type Box,
  type Transform,
  type Vec,
} from '../geometry';
import { MARK_DIAMETER, type MarkPlace } from '../marks';
import { fail, ok, type Problem, type Result } from '../result';
import type { Mm, Rad } from '../units';
import { betweenSeams, crossingsAt, measureShapes, type LongShape, type MeasuredShape } from './art';
import type { SeamMarks } from './chain';
import { overPiece, type LongPiece } from './over';
import { findSeams, LEAST_SEGMENT, type SeamPlace } from './seams';

/** How long work gets under the head: by a front door only, through the machine, or moved by hand as often as needed. */
export type Loading = 'front' | 'through' | 'moves';

export interface LongSettings {
  readonly loading: Loading;
  /** Whether the work's length lies across the bed (x) or from front to back (y). A front door only takes y. */
  readonly feed: 'x' | 'y';
  /** Left unused at both ends of the travel, mm; room for marks beyond the seam. */
  readonly margin: Mm;
  /** How far strokes go beyond a seam into the next segment, in all, mm. */
  readonly overlap: Mm;
  /** Distance of the marks' middles from the work's long edges, mm. */
  readonly markInset: Mm;
  /** Filled shapes lower than this are lettering, mm. */
  readonly smallText: Mm;
}

export const freshLong: LongSettings = {
  loading: 'through',
  feed: 'y',
  margin: 15,
  overlap: 0,
  markInset: 10,
  smallText: 15,
};

/** Longest work that is planned, mm. */
export const LONGEST: Mm = 10_000;

export interface Segment {
  /** 1 for the first. */
  readonly index: number;
  readonly from: Mm;
  readonly to: Mm;
  /** Work to bed as it is meant to lie. */
  readonly square: Transform;
  readonly angle: Rad;
  /** What is engraved and cut while it lies so, its own part only. */
  readonly shapes: readonly LongShape[];
  readonly box: Box;
}

export interface LongPlan {
  readonly segments: readonly Segment[];
  readonly seams: readonly SeamPlace[];
  /** Two marks at each seam; numbers 1 and 2 at the first, 3 and 4 at the next. */
  readonly marks: readonly SeamMarks[];
  /** Where each seam meets strokes: heights across the work, mm. */
  readonly crossings: readonly (readonly Mm[])[];
  readonly fewest: number;
  readonly window: Mm;
  /** How far the work stands out of the bed at its farthest, by side, mm. */
  readonly room: { readonly front: Mm; readonly back: Mm; readonly left: Mm; readonly right: Mm };
  /** Seams that go through lettering because nothing else is in reach. */
  readonly warnings: readonly string[];
  /** That the art stands over the edge of the work or over a hole in it; null where it does not. */
  readonly over: string | null;
}

/** A seam's marks with their numbers. */
export const marksOf = (seam: number, [a, b]: SeamMarks): MarkPlace[] => [
  { id: 2 * seam - 1, at: a, role: 'place' },
  { id: 2 * seam, at: b, role: 'place' },
];

/** What of a shape is burned between two seams: a picture lies there as a whole, or not at all. */
const ownPart = (shape: MeasuredShape, [from, to]: readonly [Mm, Mm], reach: Mm): readonly LongShape[] => {
  if (!shape.picture) return betweenSeams(shape, from - reach, to + reach);
  const { box, ...whole } = shape;
  return box.minX >= from && box.maxX <= to ? [whole] : [];
};

/** A picture that a seam would go through: two halves never meet dot on dot. */
const cutPicture = (shapes: readonly MeasuredShape[], seams: readonly SeamPlace[], window: Mm): Problem | null => {
  const cut = shapes.find(({ picture, box }) => picture && seams.some(({ at }) => at > box.minX && at < box.maxX));
  return cut
    ? {
        code: 'picture-cut',
        message: `A picture from ${cut.box.minX.toFixed(0)} to ${cut.box.maxX.toFixed(0)} mm along the work would lie over a seam, where its dots would not meet: a segment is at most ${window.toFixed(0)} mm. Put it elsewhere or make it smaller, or leave smaller margins.`,
        field: 'run',
      }
    : null;
};

const clear = (shapes: readonly MeasuredShape[], p: Vec): boolean => {
  const r = MARK_DIAMETER / 2 + 0.5;
  const near: Box = { minX: p.x - r, maxX: p.x + r, minY: p.y - r, maxY: p.y + r };
  return !shapes.some(({ box, contour, kind }) => {
    if (box.maxX < near.minX || box.minX > near.maxX || box.maxY < near.minY || box.minY > near.maxY) return false;
    const points = flatten(contour, 0.05);
    // A line passes through the mark's square, or a filled shape covers it.
    const touches = points.some((a, i) => {
      if (i === 0 && !contour.closed) return false;
      const b = points[(i + points.length - 1) % points.length]!;
      const steps = Math.max(1, Math.ceil(Math.hypot(a.x - b.x, a.y - b.y) / 2));
      return Array.from({ length: steps + 1 }, (_, k) => k / steps).some((t) => {
        const x = a.x + t * (b.x - a.x);
        const y = a.y + t * (b.y - a.y);
        return x > near.minX && x < near.maxX && y > near.minY && y < near.maxY;
      });
    });
    return touches || (kind === 'fill' && insidePolygon(p, points));
  });
};

/** Two marks far apart across the work, at the seam or, where art is in the way, as near to it as both segments reach. */
const placeMarks = (
  shapes: readonly MeasuredShape[],
  seam: Mm,
  width: Mm,
  { margin, markInset }: LongSettings,
): SeamMarks => {
  const reach = Math.max(0, margin - MARK_DIAMETER / 2 - 0.5);
  const tries = [0, 2, -2, 4, -4, 6, -6, 8, -8, 12, -12, 16, -16, 24, -24, 32, -32].filter((d) => Math.abs(d) <= reach);
  const place = (y: Mm): Vec => {
    const free = tries.find((d) => clear(shapes, { x: seam + d, y }));
    return { x: seam + (free ?? 0), y };
  };
  const inset = Math.min(markInset, width / 4);
  return [place(inset), place(width - inset)];
};

/** How the work's length lies on the bed in each segment, rad. */
const angleOfSegment = (index: number, { loading, feed }: LongSettings): Rad => {
  if (loading === 'front') return index === 1 ? -Math.PI / 2 : Math.PI / 2;
  return feed === 'x' ? 0 : -Math.PI / 2;
};

/**
 * Splits long work into segments that lie within the machine's travel, with the marks that carry
 * each over to the next.
 *
 * @param bed the machine's travel, mm
 * @param meant whether some of the art reaches over the edge on purpose
 * @returns the plan, or what does not fit and what would help
 */
export const planLong = (
  all: readonly LongShape[],
  size: LongPiece,
  bed: { width: Mm; height: Mm },
  settings: LongSettings,
  meant = false,
): Result<LongPlan> => {
  const { length, width } = size;
  const along = settings.loading === 'front' || settings.feed === 'y';
  const [travel, across] = along ? [bed.height, bed.width] : [bed.width, bed.height];
  const window = travel - 2 * settings.margin - settings.overlap;
  if (width > across)
    return fail(
      'too-wide',
      `The work is ${width.toFixed(0)} mm wide; ${across} mm lie across the bed that way. ${width <= travel ? 'Feed it the other way, or ' : ''}choose a machine with more room across.`,
      'long.feed',
    );
  if (length > LONGEST)
    return fail(
      'too-long',
      `Work up to ${LONGEST / 1000} m is planned; this is ${(length / 1000).toFixed(2)} m.`,
      'long',
    );
  if (window < LEAST_SEGMENT)
    return fail(
      'no-window',
      `Of ${travel} mm travel the margins and the overlap leave ${Math.max(0, window).toFixed(0)} mm; at least ${LEAST_SEGMENT} mm are needed.`,
      'long.margin',
    );
  const most = settings.loading === 'front' ? 2 : Infinity;
  const shapes = measureShapes(all);
  const found = findSeams(shapes, { length, window, smallText: settings.smallText, most });
  if (!found)
    return fail(
      'segments-do-not-fit',
      settings.loading === 'front'
        ? `By its front door alone the machine reaches ${(2 * window).toFixed(0)} mm: both ends, ${window.toFixed(0)} mm each. The work is ${length.toFixed(0)} mm long. Pass it through, move the machine, or leave smaller margins.`
        : 'No seams can be found. Leave smaller margins or a smaller overlap.',
      'long.loading',
    );
  const cut = cutPicture(shapes, found.seams, window);
  if (cut) return { ok: false, problem: cut };
  const ends = [0, ...found.seams.map((s) => s.at), length];
  const middle = { x: bed.width / 2, y: bed.height / 2 };
  const segments = ends.slice(1).map((to, i): Segment => {
    const from = ends[i]!;
    const angle = angleOfSegment(i + 1, settings);
    const turn = rigid(angle, 0, 0);
    const centre = apply(turn, { x: (from + to) / 2, y: width / 2 });
    const reach = settings.overlap / 2;
    // The ends of the work are nobody's seam: art that stands over them is not lost.
    const ours = [i === 0 ? -Infinity : from, to === length ? Infinity : to] as const;
    const own = shapes.flatMap((s) => ownPart(s, ours, reach));
    const box =
      own.length > 0 ? contoursBox(own.map((s) => s.contour)) : { minX: from, maxX: to, minY: 0, maxY: width };
    return {
      index: i + 1,
      from,
      to,
      angle,
      square: rigid(angle, middle.x - centre.x, middle.y - centre.y),
      shapes: own,
      box,
    };
  });
  const lying = segments.map((s) =>
    boxOf(boxCorners({ minX: 0, maxX: length, minY: 0, maxY: width }).map((c) => apply(s.square, c))),
  );
  return ok({
    segments,
    seams: found.seams,
    marks: found.seams.map((s) => placeMarks(shapes, s.at, width, settings)),
    crossings: found.seams.map((s) => crossingsAt(shapes, s.at)),
    fewest: found.fewest,
    window,
    room: {
      front: Math.max(0, ...lying.map((b) => -b.minY)),
      back: Math.max(0, ...lying.map((b) => b.maxY - bed.height)),
      left: Math.max(0, ...lying.map((b) => -b.minX)),
      right: Math.max(0, ...lying.map((b) => b.maxX - bed.width)),
    },
    warnings: [
      ...found.seams.flatMap((s, i) =>
        s.words > 0
          ? [
              `Seam ${i + 1} at ${s.at.toFixed(0)} mm goes through ${s.words === 1 ? 'a word' : `${s.words} words`}: no other place is in reach. Shift the lettering, or leave smaller margins.`,
            ]
          : [],
      ),
    ],
    over: overPiece(shapes, size, meant),
  });
};
