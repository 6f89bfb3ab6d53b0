import {
  boxHeight,
  boxWidth,
  contourBox,
  flatten,
  polygonArea,
  subtractContours,
  transformContour,
  type Contour,
} from '../../geometry';
import { slotTransform, type Board } from '../../holding';
import type { Remark } from '../../setup';
import type { Mm } from '../../units';

/** Overlaps smaller than this are corners that touch, mm². */
const TOUCH = 0.01;
/** Most pairs that are named. */
const NAMED = 4;

const areaOf = (contours: readonly Contour[]): number =>
  Math.abs(contours.reduce((sum, c) => sum + polygonArea(flatten(c, 0.02)), 0));

/** The outline of a cut: the largest of its lines; null when nothing is left of it. */
const outlineOf = (cut: readonly Contour[]): Contour | null =>
  cut.reduce<Contour | null>((most, c) => (most && areaOf([most]) >= areaOf([c]) ? most : c), null);

/**
 * What the lines that free pieces do to each other: a piece that its inset leaves nothing of, a hole that closed, two
 * neighbours whose cuts overlap. All of it is looked at as it is cut, kerf and inset in it.
 *
 * @param holes how many holes each piece is to be cut with, by its place
 * @returns remarks that hold a load back
 */
export const cutRemarks = (
  { slots, cuts = [] }: Pick<Board, 'slots' | 'cuts'>,
  inset: Mm,
  holes: readonly number[],
): Remark[] => {
  const hold = (message: string, pieces?: readonly number[]): Remark => ({ station: 'hold', message, danger: 'zone', ...(pieces ? { pieces } : {}) }); // prettier-ignore
  const laid = slots.map((slot, i) => {
    const outline = outlineOf(cuts[i] ?? []);
    return outline && transformContour(slotTransform(slot), outline);
  });
  const gone = slots.filter((_, i) => laid[i] === null).map((s) => s.slot);
  if (gone.length > 0)
    return [
      hold(
        `An inset of ${inset} mm leaves nothing of ${gone.length === slots.length ? 'any piece' : `piece ${gone.slice(0, NAMED).join(', ')}`}: nothing would be cut there.`,
      ),
    ];
  const closed = slots.filter((_, i) => (cuts[i]?.length ?? 0) - 1 < (holes[i] ?? 0)).map((s) => s.slot);
  const boxes = laid.map((c) => contourBox(c!));
  const order = boxes.map((_, i) => i).sort((i, j) => boxes[i]!.minX - boxes[j]!.minX);
  const overlaps: { pair: [number, number]; by: Mm }[] = [];
  order.forEach((i, at) => {
    const a = boxes[i]!;
    for (const j of order.slice(at + 1)) {
      const b = boxes[j]!;
      if (b.minX >= a.maxX) break;
      if (b.minY >= a.maxY || b.maxY <= a.minY) continue;
      const left = subtractContours([laid[i]!], [laid[j]!]);
      if (areaOf([laid[i]!]) - areaOf(left) <= TOUCH) continue;
      const shared = { minX: Math.max(a.minX, b.minX), maxX: Math.min(a.maxX, b.maxX), minY: Math.max(a.minY, b.minY), maxY: Math.min(a.maxY, b.maxY) }; // prettier-ignore
      overlaps.push({ pair: [slots[i]!.slot, slots[j]!.slot], by: Math.min(boxWidth(shared), boxHeight(shared)) });
    }
  });
  return [
    ...(closed.length > 0
      ? [
          hold(
            `${closed.length === 1 ? `A hole of piece ${closed[0]}` : `Holes of pieces ${closed.slice(0, NAMED).join(', ')}${closed.length > NAMED ? ` and ${closed.length - NAMED} more` : ''}`} would close at an inset of ${inset} mm and not be cut.`,
          ),
        ]
      : []),
    ...(overlaps.length > 0
      ? [
          hold(
            `Cuts overlap: ${overlaps
              .slice(0, NAMED)
              .map(({ pair, by }) => `${pair[0]} and ${pair[1]} by ${by.toFixed(1)} mm`)
              .join(
                ', ',
              )}${overlaps.length > NAMED ? `, and ${overlaps.length - NAMED} more pairs` : ''}. Cut nearer to the print${inset < 0 ? '' : ', or lay the pieces farther apart'}.`,
          ),
        ]
      : []),
  ];
};
