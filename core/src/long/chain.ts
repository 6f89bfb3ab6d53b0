import { boxCorners, type Box, type Vec } from '../geometry';
import { seeded } from '../budget';
import { planeRadius95 } from '../samples';
import type { Mm, Rad } from '../units';

/** A seam's two marks, work frame. */
export type SeamMarks = readonly [Vec, Vec];

/** What limits one carrying over from segment to segment. */
export interface ChainErrors {
  /** Aiming at one mark, per axis, mm. */
  readonly aim: Mm;
  /** Standard uncertainty of the pointer offset per axis; the same at every mark. */
  readonly pointer: Mm;
  /** Standard uncertainty of the head's return per axis: where marks were burned, and where the art lands. */
  readonly back: Mm;
}

/** Where segments lie after being carried over, each from the one before. */
export interface Chain {
  readonly boxes: readonly Box[];
  readonly marks: readonly SeamMarks[];
  /** Turn of each segment on the bed: the pointer's offset turns with it. */
  readonly turned: readonly Rad[];
  readonly errors: ChainErrors;
}

export interface SegmentError {
  /** Radius within which 95 of 100 fall: its farthest corner from where the first segment says it belongs, mm. */
  readonly fromStart: Mm;
  /** Radial standard uncertainty of that corner: root of the sum of its variances, mm. */
  readonly u: Mm;
  /** The same for the step against the segment before, at the seam; null for the first. */
  readonly step: Mm | null;
}

/** One carrying over: the middle of the marks, and the squares of its errors in shift (per axis) and turn. */
const carry = ([a, b]: SeamMarks, { aim, back }: ChainErrors): { centre: Vec; shift: number; turn: number } => {
  const mark = aim * aim + back * back;
  return {
    centre: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
    shift: mark / 2,
    turn: (2 * mark) / ((a.x - b.x) ** 2 + (a.y - b.y) ** 2),
  };
};

/**
 * Errors along a chain of segments: every carrying over adds its shift and, times the distance from
 * its marks, its turn; the pointer's offset adds up in one direction. A turn moves a corner across the way to it only, so
 * that errors along and across differ: their radius is that of an ellipse.
 */
export const chainErrors = (chain: Chain): SegmentError[] => {
  const { errors } = chain;
  return chain.boxes.map((box, k): SegmentError => {
    const before = chain.marks.slice(0, k).map((m) => carry(m, errors));
    const pointer = pointerSum(chain, k);
    const everywhere = (pointer * errors.pointer) ** 2 + errors.back ** 2;
    const corners = boxCorners(box).map((p) => {
      let [xx, yy, xy] = [everywhere, everywhere, 0];
      for (const { centre, shift, turn } of before) {
        const [dx, dy] = [p.x - centre.x, p.y - centre.y];
        xx += shift + turn * dy * dy;
        yy += shift + turn * dx * dx;
        xy -= turn * dx * dy;
      }
      return { radius: planeRadius95(xx, yy, xy), u: Math.sqrt(xx + yy) };
    });
    const last = before[k - 1];
    const height = last ? Math.max(Math.abs(box.maxY - last.centre.y), Math.abs(last.centre.y - box.minY)) : 0;
    return {
      fromStart: Math.max(...corners.map((c) => c.radius)),
      u: Math.max(...corners.map((c) => c.u)),
      step: last ? stepOf(last, height, errors) : null,
    };
  });
};

/** The step at a seam: what the turn makes of it there lies along the work. */
const stepOf = ({ shift, turn }: { shift: number; turn: number }, height: Mm, { pointer, back }: ChainErrors): Mm => {
  const across = shift + pointer ** 2 + 2 * back ** 2;
  return planeRadius95(across + turn * height ** 2, across, 0);
};

/** Length of the sum of the pointer's unit errors after k carryings over, each turned as its segment lay. */
const pointerSum = ({ turned }: Chain, k: number): number => {
  let x = 0;
  let y = 0;
  for (let i = 1; i <= k; i += 1) {
    x += Math.cos(turned[i]!);
    y += Math.sin(turned[i]!);
  }
  return Math.hypot(x, y);
};

/** Sizes of the three sources, to see what each does. */
export interface ChainScale {
  readonly aim: number;
  readonly pointer: number;
  readonly back: number;
}

/**
 * Simulated works: displacement of the worst corner of the worst segment, sorted, mm.
 * @param count how many
 */
export const simulateChain = (
  chain: Chain,
  count: number,
  seed: number,
  scale: ChainScale = { aim: 1, pointer: 1, back: 1 },
): Float64Array => {
  const r = seeded(seed);
  const { errors, marks, boxes, turned } = chain;
  const aim = errors.aim * scale.aim;
  const back = errors.back * scale.back;
  const out = new Float64Array(count);
  const corners = boxes.map((b) => boxCorners(b));
  const mark = Math.hypot(aim, back);
  for (let i = 0; i < count; i += 1) {
    const px = errors.pointer * scale.pointer * r.normal();
    const py = errors.pointer * scale.pointer * r.normal();
    let sx = 0;
    let sy = 0;
    let turn = 0;
    let worst = 0;
    for (let k = 0; k < corners.length; k += 1) {
      if (k > 0) {
        const [a, b] = marks[k - 1]!;
        const ax = mark * r.normal();
        const ay = mark * r.normal();
        const bx = mark * r.normal();
        const by = mark * r.normal();
        const dx = b.x - a.x;
        const dy = b.y - a.y;
        const theta = (dx * (by - ay) - dy * (bx - ax)) / (dx * dx + dy * dy);
        const cx = (a.x + b.x) / 2;
        const cy = (a.y + b.y) / 2;
        const cos = Math.cos(turned[k]!);
        const sin = Math.sin(turned[k]!);
        // The map so far moves every point by (sx − turn·y, sy + turn·x); the new one adds a turn about the marks' middle.
        sx += (ax + bx) / 2 + cos * px + sin * py + theta * cy;
        sy += (ay + by) / 2 - sin * px + cos * py - theta * cx;
        turn += theta;
      }
      const ex = back * r.normal();
      const ey = back * r.normal();
      for (const p of corners[k]!) {
        const x = sx - turn * p.y + ex;
        const y = sy + turn * p.x + ey;
        worst = Math.max(worst, x * x + y * y);
      }
    }
    out[i] = Math.sqrt(worst);
  }
  return out.sort();
};
