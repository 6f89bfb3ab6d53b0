import type { Vec } from '../geometry';

/** Lines of so many corners together are drawn as they are. */
export const FEW = 5_000;

/** What is left out is half a dot of a drawing of so many half dots. */
export const DOTS = 2_000;

/** Corners of a line without those that lie nearer than so much to the one before; its ends stay. */
export const thinned = (points: readonly Vec[], least: number): readonly Vec[] => {
  const out: Vec[] = [];
  let last: Vec | undefined;
  for (const [i, p] of points.entries()) {
    const isEnd = i === points.length - 1;
    if (last && !isEnd && Math.abs(p.x - last.x) < least && Math.abs(p.y - last.y) < least) continue;
    out.push(p);
    last = p;
  }
  return out;
};

/**
 * Lines for the screen: where they have many corners, without those that no dot of it could show.
 *
 * @param across how large all of them are together, mm; half a dot of a drawing a thousand dots wide is left out
 */
export const forScreen = (lines: readonly (readonly Vec[])[], across: number): readonly (readonly Vec[])[] =>
  lines.reduce((n, l) => n + l.length, 0) <= FEW ? lines : lines.map((l) => thinned(l, across / DOTS));
