import {
  boxCentre,
  boxHeight,
  boxWidth,
  contoursBox,
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

/**
 * Makes a blank's outline of the closed contours of a file: largest first, centred on its bounding
 * box, sizes checked.
 */
export const finishOutline = (
  contours: readonly Contour[],
  unit: OutlineFile['unit'],
  notes: readonly string[],
): Result<OutlineFile> => {
  const closed = contours.filter((c) => c.closed && c.vertices.length >= 2);
  const open = contours.length - closed.length;
  if (closed.length === 0)
    return fail('no-closed-outline', 'The file has no closed outline. An outline must come back to its start.', 'file');
  const box = contoursBox(closed);
  const width = boxWidth(box);
  const height = boxHeight(box);
  if (!(width > 0.5 && height > 0.5) || width > OUTLINE_LIMITS.size || height > OUTLINE_LIMITS.size) {
    return fail(
      'outline-size',
      `The outline is ${width.toFixed(2)} × ${height.toFixed(2)} mm. It must be between 0.5 mm and ${OUTLINE_LIMITS.size} mm. Check the file's unit.`,
      'file',
    );
  }
  const centre = boxCentre(box);
  const sorted = [...closed]
    .sort((a, b) => Math.abs(polygonArea(flatten(b, 0.05))) - Math.abs(polygonArea(flatten(a, 0.05))))
    .map((c) => transformContour(translation(-centre.x, -centre.y), c));
  return ok({
    contours: sorted,
    width,
    height,
    unit,
    notes: open > 0 ? [...notes, `${open} open ${open === 1 ? 'line was' : 'lines were'} left out.`] : notes,
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
