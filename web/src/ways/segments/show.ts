import { linesOf, screenPath, type BatchReckoning, type LongKind } from '@bistre/core';
import { picturesShown, type PathsShown } from '../../data/shown';
import { FLAT_SHOW, type Show } from '../flat/show';

/** The shapes of each segment as ready paths. */
export const longPaths = ({ own: { long } }: BatchReckoning): PathsShown[] =>
  (long?.plan?.segments ?? []).map(({ shapes }) => {
    const path = (kind: LongKind): string =>
      linesOf(shapes, kind)
        .map((c) => screenPath(c))
        .join('');
    const pictures = picturesShown(shapes.flatMap((s) => s.picture ?? []));
    return { fill: path('fill'), line: path('line'), cut: path('cut'), pictures };
  });

/** A plan without its shapes, which cross to the page as paths. */
export const longShown = (long: BatchReckoning['own']['long']): BatchReckoning['own']['long'] =>
  long?.plan
    ? { ...long, plan: { ...long.plan, segments: long.plan.segments.map((s) => ({ ...s, shapes: [] })) } }
    : long;

/** A long piece crosses as the paths of its segments. */
export const SEGMENTS_SHOW: Show = {
  ...FLAT_SHOW,
  own: (r) => ({ long: longShown(r.own.long) }),
  segments: longPaths,
};
