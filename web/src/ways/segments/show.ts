import { screenPath, type BatchReckoning, type LongKind } from '@bistre/core';
import type { LongPaths } from '../../data/shown';
import { FLAT_SHOW, type Show } from '../flat/show';

/** The shapes of each segment as ready paths. */
export const longPaths = ({ own: { long } }: BatchReckoning): LongPaths[] =>
  (long?.plan?.segments ?? []).map(({ shapes }) => {
    const path = (kind: LongKind): string =>
      shapes
        .filter((s) => s.kind === kind)
        .map((s) => screenPath(s.contour))
        .join('');
    return { fill: path('fill'), line: path('line'), cut: path('cut') };
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
