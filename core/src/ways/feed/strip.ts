import type { Vec } from '../../geometry';
import { boardOfOne, type Board } from '../../holding';
import type { LongPlan } from '../../long';
import type { MarkPlace } from '../../marks';
import { START_MARK, type FeedStop } from '../../setup';
import type { Mm } from '../../units';
import { placeAngle, type FeedWorkPlan } from './work';

/** Points of the strip that are aimed at, by mark number, strip frame. */
export const pointsOf = (
  stops: readonly FeedStop[],
  plan: LongPlan | null | undefined,
  work: FeedWorkPlan,
): Map<number, Vec> => {
  const points = new Map<number, Vec>([[START_MARK, { x: 0, y: 0 }]]);
  plan?.marks.forEach(([a, b], i) => {
    points.set(2 * i + 1, a);
    points.set(2 * i + 2, b);
  });
  if (work.corner)
    for (const s of stops) for (const m of s.marks) if (m !== START_MARK) points.set(m, work.corner(s.first));
  return points;
};

/** The strip as a board: every place, and the marks that the current stop is aimed by. */
export const boardOf = (
  name: string,
  size: { length: Mm; width: Mm },
  work: FeedWorkPlan,
  stop: FeedStop | undefined,
  points: ReadonlyMap<number, Vec>,
): Board => {
  const marks = (stop?.marks ?? []).map((id): MarkPlace => ({ id, at: points.get(id)!, role: 'place' }));
  const made = boardOfOne(size, name, 1, marks, work.passes ?? []);
  const { layout } = work;
  if (!layout) return made;
  return {
    ...made,
    slots: layout.places.map((p) => ({
      slot: p.slot,
      row: p.row,
      column: p.column,
      angle: placeAngle(p),
      centre: p.centre,
    })),
    columns: new Set(layout.places.map((p) => p.column)).size,
    rows: layout.rows,
  };
};
