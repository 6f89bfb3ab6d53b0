import {
  boxCentre,
  boxHeight,
  boxWidth,
  contoursBox,
  crossesItself,
  flatten,
  polygonArea,
  reversedContour,
  transformContour,
  translation,
  type Contour,
  type Vec,
} from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';

/** Limits of an outline file. */
export const OUTLINE_LIMITS = { bytes: 5_000_000, contours: 2_000, vertices: 200_000, size: 5_000 } as const;

export interface OutlineFile {
  readonly contours: readonly Contour[];
  readonly width: Mm;
  readonly height: Mm;
  /** What the file says of its unit; `unstated` must be asked about. */
  readonly unit: 'mm' | 'in' | 'cm' | 'px' | 'unstated';
  readonly notes: readonly string[];
}

/** Makes a blank's outline of the closed contours of a file: largest first, centred on its bounding box, sizes checked. */
export const finishOutline = (
  contours: readonly Contour[],
  unit: OutlineFile['unit'],
  notes: readonly string[],
): Result<OutlineFile> => {
  const kept = contours.filter((c) => c.closed && c.vertices.length >= 2);
  const open = contours.length - kept.length;
  if (kept.length === 0)
    return fail('no-closed-outline', ['The file has no closed outline. An outline must come back to its start.', ...notes].join(' '), 'file'); // prettier-ignore
  const box = contoursBox(kept);
  const width = boxWidth(box);
  const height = boxHeight(box);
  const most = OUTLINE_LIMITS.size;
  if (!(width > 0.5 && height > 0.5) || width > most || height > most)
    return fail('outline-size', `The outline is ${width.toFixed(2)} × ${height.toFixed(2)} mm. It must be between 0.5 mm and ${most} mm. Check the file's unit.`, 'file'); // prettier-ignore
  const centre = boxCentre(box);
  const crossing = kept.filter((c) => c.closed && crossesItself(flatten(c, 0.05))).length;
  const area = (c: Contour): number => Math.abs(polygonArea(flatten(c, 0.05)));
  const sorted = [...kept].sort((a, b) => area(b) - area(a));
  return ok({
    contours: sorted.map((c) => transformContour(translation(-centre.x, -centre.y), c)),
    width,
    height,
    unit,
    notes: [
      ...notes,
      ...(open > 0 ? [`${open} open ${open === 1 ? 'line was' : 'lines were'} left out.`] : []),
      ...(crossing > 0
        ? [
            `${crossing === 1 ? 'One outline crosses' : `${crossing} outlines cross`} ${crossing === 1 ? 'itself' : 'themselves'}: what lies inside may not be what was meant. Mend it where it was drawn.`,
          ]
        : []),
    ],
  });
};

/** The ends of lines by place, to find those that meet a point. Squares are as wide as the reach. */
class Ends {
  private readonly at = new Map<string, number[]>();

  constructor(
    private readonly lines: readonly Contour[],
    private readonly reach: Mm,
  ) {
    lines.forEach((line, i) => {
      for (const end of [line.vertices[0]!, line.vertices.at(-1)!]) {
        const key = this.square(end, 0, 0);
        const there = this.at.get(key);
        if (!there) this.at.set(key, [i]);
        else if (there.at(-1) !== i) there.push(i);
      }
    });
  }

  private square({ x, y }: Vec, dx: number, dy: number): string {
    return `${Math.floor(x / this.reach) + dx}:${Math.floor(y / this.reach) + dy}`;
  }

  /** The first unused line in a square that has an end at a point; used ones at its beginning are dropped for good. */
  private firstIn(key: string, point: Vec, used: Uint8Array): number | undefined {
    const there = this.at.get(key);
    if (!there) return undefined;
    const from = there.findIndex((i) => used[i] === 0);
    if (from < 0) {
      this.at.delete(key);
      return undefined;
    }
    if (2 * from > there.length) there.splice(0, from);
    return there.find(
      (i) =>
        used[i] === 0 &&
        [this.lines[i]!.vertices[0]!, this.lines[i]!.vertices.at(-1)!].some((end) => this.meets(end, point)),
    );
  }

  meets(a: Vec, b: Vec): boolean {
    return Math.hypot(a.x - b.x, a.y - b.y) <= this.reach;
  }

  /** The first of the unused lines, in their order, that has an end at a point; -1 when none has. */
  firstAt(point: Vec, used: Uint8Array): number {
    let first = -1;
    for (const dx of [-1, 0, 1])
      for (const dy of [-1, 0, 1]) {
        const found = this.firstIn(this.square(point, dx, dy), point, used);
        if (found !== undefined && (first < 0 || found < first)) first = found;
      }
    return first;
  }
}

/** Joins open lines end to end into closed contours where their ends meet; the closed ones come first. */
export const joinOpen = (contours: readonly Contour[], reach: Mm = 0.02): Contour[] => {
  const done = contours.filter((c) => c.closed);
  const open = contours.filter((c) => !c.closed && c.vertices.length >= 2);
  const ends = new Ends(open, reach);
  const used = new Uint8Array(open.length);
  for (const [i, start] of open.entries()) {
    if (used[i]) continue;
    used[i] = 1;
    const vertices = [...start.vertices];
    let closed = false;
    for (;;) {
      const end = vertices.at(-1)!;
      closed = vertices.length > 2 && ends.meets(vertices[0]!, end);
      const next = closed ? -1 : ends.firstAt(end, used);
      if (next < 0) break;
      used[next] = 1;
      const line = ends.meets(open[next]!.vertices[0]!, end) ? open[next]! : reversedContour(open[next]!);
      vertices.pop();
      for (const v of line.vertices) vertices.push(v);
    }
    done.push({ closed, vertices: closed ? vertices.slice(0, -1) : vertices });
  }
  return done;
};
