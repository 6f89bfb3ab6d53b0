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
} from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';

/** Limits of an outline file. */
export const OUTLINE_LIMITS = { bytes: 5_000_000, contours: 2_000, vertices: 200_000, depth: 64, size: 5_000 } as const;

export interface OutlineFile {
  readonly contours: readonly Contour[];
  readonly width: Mm;
  readonly height: Mm;
  /** What the file says of its unit; `unstated` must be asked about. */
  readonly unit: 'mm' | 'in' | 'cm' | 'px' | 'unstated';
  readonly notes: readonly string[];
}

/** What is wanted of a file: a blank's outline, or every line of art for long work. */
export type Wanted = 'outline' | 'lines';

/** Longest art that is taken, mm. */
const LONGEST_ART: Mm = 10_000;

/**
 * Makes a blank's outline of the closed contours of a file: largest first, centred on its bounding
 * box, sizes checked. Art keeps its open lines and its order.
 */
export const finishOutline = (
  contours: readonly Contour[],
  unit: OutlineFile['unit'],
  notes: readonly string[],
  wanted: Wanted = 'outline',
): Result<OutlineFile> => {
  const lines = wanted === 'lines';
  const kept = contours.filter((c) => (lines || c.closed) && c.vertices.length >= 2);
  const open = contours.length - kept.length;
  if (kept.length === 0)
    return lines
      ? fail('no-lines', 'The file has no lines.', 'file')
      : fail('no-closed-outline', 'The file has no closed outline. An outline must come back to its start.', 'file');
  const box = contoursBox(kept);
  const width = boxWidth(box);
  const height = boxHeight(box);
  const most = lines ? LONGEST_ART : OUTLINE_LIMITS.size;
  if (!(width > 0.5 && height > 0.5) || width > most || height > most) {
    return fail(
      'outline-size',
      `The ${lines ? 'art' : 'outline'} is ${width.toFixed(2)} × ${height.toFixed(2)} mm. It must be between 0.5 mm and ${most} mm. Check the file's unit.`,
      'file',
    );
  }
  const centre = boxCentre(box);
  const crossing = kept.filter((c) => c.closed && crossesItself(flatten(c, 0.05))).length;
  const area = (c: Contour): number => Math.abs(polygonArea(flatten(c, 0.05)));
  const sorted = lines ? kept : [...kept].sort((a, b) => area(b) - area(a));
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

/** Joins open lines end to end into closed contours where their ends meet. */
export const joinOpen = (contours: readonly Contour[], reach: Mm = 0.02): Contour[] => {
  const done = contours.filter((c) => c.closed);
  let open = contours.filter((c) => !c.closed && c.vertices.length >= 2);
  const meets = (a: { x: number; y: number }, b: { x: number; y: number }): boolean =>
    Math.hypot(a.x - b.x, a.y - b.y) <= reach;
  while (open.length > 0) {
    let [line, ...rest] = open as [Contour, ...Contour[]];
    for (;;) {
      const end = line.vertices[line.vertices.length - 1]!;
      if (line.vertices.length > 2 && meets(line.vertices[0]!, end)) {
        done.push({ closed: true, vertices: line.vertices.slice(0, -1) });
        line = { closed: true, vertices: [] };
        break;
      }
      const index = rest.findIndex((c) => meets(c.vertices[0]!, end) || meets(c.vertices[c.vertices.length - 1]!, end));
      if (index < 0) break;
      const next = meets(rest[index]!.vertices[0]!, end) ? rest[index]! : reversedContour(rest[index]!);
      line = { closed: false, vertices: [...line.vertices.slice(0, -1), ...next.vertices] };
      rest = rest.filter((_, i) => i !== index);
    }
    if (line.vertices.length > 0) done.push(line);
    open = rest;
  }
  return done;
};
