import { boxHeight, boxWidth, contourBox, contourLength, contoursBox, evenOdd, flatten, polygonArea, strokedArea, subtractContours, transformContour, translation, uniteContours, type Box, type Contour } from '../geometry'; // prettier-ignore
import { fail, type Result } from '../result';
import { sheetOfShapes, shapesOfLines, type Line, type TraceChoices, type Traced } from '../trace';
import type { ArtShape, Paint } from './art-file';
import type { ReadArt } from './read-art';

/** A drawing has no dots; its numbers are kept to so much, mm. */
const FINEST = 0.01;
/** Room that a drawing without a page has round it, mm. */
const RIM = 10;
/** Hairlines are printed at least so wide, mm. */
const HAIRLINE = 0.1;
/** What covers so much of the page both ways is its ground. */
const GROUND = 0.98;
/** Paints that are no farther than this from the ground’s are not seen on it, of 255. */
const FAINT = 12;
/** What encloses less is a speck, mm². */
const SPECK = 1;

const channels = (paint: Paint): readonly number[] | null =>
  /^#[0-9a-f]{6}$/i.test(paint) ? [1, 3, 5].map((i) => parseInt(paint.slice(i, i + 2), 16)) : null;

/** Whether a paint stands out from the ground; what has no single colour does. */
const standsOut = (paint: Paint, ground: Paint): boolean => {
  const [a, b] = [channels(paint), channels(ground)];
  return !a || !b || a.some((v, i) => Math.abs(v - b[i]!) >= FAINT);
};

const coversPage = ({ contours }: ArtShape, page: Box): boolean => {
  const box = contoursBox(contours);
  return boxWidth(box) > GROUND * boxWidth(page) && boxHeight(box) > GROUND * boxHeight(page);
};

/** All that is seen on the ground, in the order it is painted: what is of the ground’s own colour takes away. */
const printed = (shapes: readonly ArtShape[], ground: Paint): Contour[] => {
  let all: Contour[] = [];
  let waiting: Contour[] = [];
  let adds = true;
  const put = (): void => {
    if (waiting.length > 0) all = adds ? uniteContours([...all, ...waiting]) : subtractContours(all, uniteContours(waiting)); // prettier-ignore
    waiting = [];
  };
  const paint = (area: readonly Contour[], of: Paint): void => {
    const next = standsOut(of, ground);
    if (next !== adds) {
      put();
      adds = next;
    }
    waiting.push(...area);
  };
  for (const { contours, rule, fill, stroke, width } of shapes) {
    if (fill !== null) paint(evenOdd(contours, rule), fill);
    if (stroke !== null) paint(strokedArea(contours, Math.max(width, HAIRLINE)), stroke);
  }
  put();
  return all;
};

const lineOf = (contour: Contour): Line & { readonly outer: boolean } => {
  const points = flatten(contour, FINEST);
  const area = polygonArea(points);
  return { points, box: contourBox(contour), area: Math.abs(area), length: contourLength(contour), outer: area > 0 };
};

/**
 * Finds what is to be cut out of a printed sheet in the drawing that it is printed from: outer outlines of all that stands
 * on its page, and the registration marks among it.
 *
 * @param name of the file
 * @returns the sheet with notes for the operator, or why the drawing cannot be used
 */
export const drawnSheet = ({ shapes, page, notes }: ReadArt, name: string, choices: TraceChoices): Result<Traced> => {
  const drawn = contoursBox(shapes.flatMap((s) => s.contours));
  const paper = page ?? { minX: drawn.minX - RIM, minY: drawn.minY - RIM, maxX: drawn.maxX + RIM, maxY: drawn.maxY + RIM }; // prettier-ignore
  const [first, ...rest] = shapes;
  const isGround = first !== undefined && first.fill !== null && coversPage(first, paper);
  const ground = isGround ? first.fill! : '#ffffff';
  const to = translation(-paper.minX, -paper.minY);
  const lines = printed(isGround ? rest : shapes, ground).map((c) => lineOf(transformContour(to, c))).filter((l) => l.area >= SPECK); // prettier-ignore
  const found = shapesOfLines(lines.filter((l) => l.outer), lines.filter((l) => !l.outer)); // prettier-ignore
  if (found.length === 0) return fail('no-shapes', 'Nothing stands out from the ground of the drawing.', 'file');
  const [width, height] = [boxWidth(paper), boxHeight(paper)];
  if (boxWidth(found[0]!.box) > GROUND * width && boxHeight(found[0]!.box) > GROUND * height)
    return fail('one-shape', 'One shape fills the page. Is there a border round the sheet in it? Its edge must be bare.', 'file'); // prettier-ignore
  const sheet = sheetOfShapes(found, { name, width, height, dot: FINEST, edge: 0 }, { ...choices, smooth: 0 });
  return sheet.ok ? { ok: true, value: { ...sheet.value, notes: [...notes, ...sheet.value.notes] } } : sheet;
};
