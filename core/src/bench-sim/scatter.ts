import { seeded } from '../budget';
import { apply, circle, flatten, rigid, transformContour, type Vec } from '../geometry';
import { blankOutline, type Blank, type BlankSizes, type Slot } from '../holding';
import type { Mm, Rad } from '../units';
import type { LyingThing } from './camera';
import type { LyingPiece } from './run';

/** Where a blank was thrown down on the bed. */
export interface ThrownBlank {
  readonly x: Mm;
  readonly y: Mm;
  readonly angle: Rad;
}

/** Blanks thrown on the bed between its marks, at any angle, none on another. */
export const throwBlanks = (
  seed: number,
  field: { readonly width: Mm; readonly height: Mm },
  blank: Blank,
  sizes: BlankSizes,
  count: number,
): ThrownBlank[] => {
  const r = seeded(seed * 19 + 7);
  const points = blankOutline(blank, sizes).flatMap((c) => flatten(c, 0.2));
  const reach = 2 * Math.max(...points.map((p) => Math.hypot(p.x, p.y))) + 8;
  const margin = 40 + reach / 2;
  const columns = Math.max(1, Math.floor((field.width - 2 * margin) / reach) + 1);
  const rows = Math.max(1, Math.floor((field.height - 2 * margin) / reach) + 1);
  const dx = columns > 1 ? (field.width - 2 * margin) / (columns - 1) : 0;
  const dy = rows > 1 ? (field.height - 2 * margin) / (rows - 1) : 0;
  const cells = Array.from({ length: columns * rows }, (_, i) => i);
  for (let i = cells.length - 1; i > 0; i -= 1) {
    const k = Math.floor(r.uniform() * (i + 1));
    [cells[i], cells[k]] = [cells[k]!, cells[i]!];
  }
  return cells.slice(0, count).map((cell) => ({
    x: margin + (cell % columns) * dx + Math.max(0, Math.min(20, (dx - reach) / 2)) * (2 * r.uniform() - 1),
    y: margin + Math.floor(cell / columns) * dy + Math.max(0, Math.min(20, (dy - reach) / 2)) * (2 * r.uniform() - 1),
    angle: 2 * Math.PI * r.uniform(),
  }));
};

/**
 * Thrown blanks as a camera sees them.
 * @param wall brightness of their side walls; none are seen when absent
 */
export const thingsOf = (
  thrown: readonly ThrownBlank[],
  blank: Blank,
  sizes: BlankSizes,
  shade = 188,
  wall?: number,
): LyingThing[] =>
  thrown.map((t) => {
    const m = rigid(t.angle, t.x, t.y);
    const [outer, ...inner] = [...blankOutline(blank, sizes), ...blank.holes.map((h) => circle(h, h.diameter / 2))].map(
      (c) => flatten(transformContour(m, c), 0.05),
    );
    const lit = wall === undefined ? {} : { wall };
    return { outline: outer!, holes: inner, above: sizes.thickness.mean, shade, ...lit };
  });

/** How the blank that was thrown nearest to a place really lies in it. */
export const trueInPlace = (slot: Slot, thrown: readonly ThrownBlank[], sizes: BlankSizes): LyingPiece => {
  const at = thrown.reduce<ThrownBlank | null>(
    (best, t) =>
      !best ||
      Math.hypot(t.x - slot.centre.x, t.y - slot.centre.y) < Math.hypot(best.x - slot.centre.x, best.y - slot.centre.y)
        ? t
        : best,
    null,
  );
  const bare = { length: sizes.length.mean, width: sizes.width.mean };
  if (!at) return { ...bare, dx: 0, dy: 0, yaw: 0 };
  const off: Vec = apply(rigid(-slot.angle, 0, 0), { x: at.x - slot.centre.x, y: at.y - slot.centre.y });
  const yaw = at.angle - slot.angle;
  return { ...bare, dx: off.x, dy: off.y, yaw: Math.atan2(Math.sin(yaw), Math.cos(yaw)) };
};

/** Offcuts thrown on the bed: odd quadrilaterals of light board, most with a knot or two and some with a hole. */
export const throwOffcuts = (
  seed: number,
  field: { readonly width: Mm; readonly height: Mm },
  above: Mm,
): LyingThing[] => {
  const r = seeded(seed * 23 + 3);
  const spread = (a: number): number => a * (2 * r.uniform() - 1);
  const [columns, rows] = field.width >= field.height ? [3, 2] : [2, 3];
  const margin = 45;
  const [w, h] = [(field.width - 2 * margin) / columns, (field.height - 2 * margin) / rows];
  return Array.from({ length: columns * rows }, (_, i): LyingThing => {
    const x = margin + ((i % columns) + 0.5) * w;
    const y = margin + (Math.floor(i / columns) + 0.5) * h;
    const m = rigid(spread(0.12), x, y);
    const corner = (sx: number, sy: number): Vec =>
      apply(m, { x: sx * w * (0.36 + 0.06 * r.uniform()), y: sy * h * (0.34 + 0.06 * r.uniform()) });
    const outline = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(0.2, 1.06), corner(-1, 1)];
    const at = (): Vec => apply(m, { x: spread(0.22 * w), y: spread(0.2 * h) });
    const hole = i % 3 === 1 ? [flatten(circle(at(), 9 + 5 * r.uniform()), 0.1)] : [];
    return {
      outline,
      holes: hole,
      above,
      shade: 196,
      spots: Array.from({ length: 1 + (i % 2) }, () => ({ ...at(), radius: 6 + 5 * r.uniform(), shade: 92 })),
    };
  });
};
