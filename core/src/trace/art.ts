import { simplifyContour, polyline, type Contour } from '../geometry';
import type { Grey } from '../picture';
import { fail, ok, type Result } from '../result';
import { edgeUncertainty, edgeWidth } from './edges';
import { emptyInk, inkLevel, type Ink } from './ink';
import { measureRing, ringsAt, type Ring } from './rings';
import { smoothed } from './smooth';

/** Most dots of a picture that is traced. */
export const MOST_TRACED_DOTS = 25_000_000;
/** Most corners of all outlines together. */
const MOST_CORNERS = 300_000;
/** What encloses less is a speck, dots. */
const SPECK = 12;
/** Edges wider than this are blurred, dots. */
const BLURRED = 8;
/** Edges narrower than this were made without greys: every line runs in steps, dots. */
const STEPPED = 1;
/** Share of all dots that may be neither print nor ground, beside the edges. */
const SHADES = 0.02;
/** Edges a dot of the picture, at most: noise, or hatching too fine for its dots, has more. */
const MOST_EDGES = 0.4;
/** Outlines stay this near to what was found, dots; coarser where there are too many corners. */
const TOLERANCES = [0.1, 0.25, 0.5] as const;

/** Lettering, a stamp, a drawing: a picture of two tones as outlines, dots from its lower left corner, y up. */
export interface TracedArt {
  /** Outlines and the holes in them, even-odd rule. */
  readonly contours: readonly Contour[];
  /** Standard uncertainty of an outline’s place, per axis, dots. */
  readonly doubt: number;
  /** Width of its edges in the picture, dots. */
  readonly edge: number;
  readonly notes: readonly string[];
}

/** How far each dot stands out from the ground, which is what the picture’s own rim is mostly made of. */
const inkOf = ({ width, height, pixels }: Grey): { readonly ink: Ink; readonly ground: number } => {
  const rim: number[] = [];
  for (let x = 0; x < width; x += 1) rim.push(pixels[x]!, pixels[(height - 1) * width + x]!);
  for (let y = 0; y < height; y += 1) rim.push(pixels[y * width]!, pixels[(y + 1) * width - 1]!);
  const ground = rim.sort((a, b) => a - b)[rim.length >> 1]!;
  const ink = emptyInk(width, height);
  for (let y = 0; y < height; y += 1) {
    const to = (y + 1) * (width + 2) + 1;
    for (let x = 0; x < width; x += 1) ink.data[to + x] = Math.abs(pixels[y * width + x]! - ground);
  }
  return { ink, ground };
};

/** Share of the dots that are neither ground nor print, beyond those that edges of such a width account for. */
const shadesOf = ({ width, height, data }: Ink, level: number, length: number, edge: number): number => {
  let between = 0;
  for (let y = 1; y <= height; y += 1)
    for (let x = 1; x <= width; x += 1) {
      const v = data[y * (width + 2) + x]!;
      if (v > 0.5 * level && v < 1.5 * level) between += 1;
    }
  // An edge goes from a tenth to nine tenths over its width, so from a quarter to three in five eighths of that.
  return (between - length * Math.max(1, 0.625 * edge)) / (width * height);
};

const withFewCorners = (
  lines: readonly Contour[],
): { readonly contours: readonly Contour[]; readonly rough: boolean } => {
  for (const [i, tolerance] of TOLERANCES.entries()) {
    const contours = lines.map((c) => simplifyContour(c, tolerance)).filter((c) => c.vertices.length > 2);
    if (contours.reduce((s, c) => s + c.vertices.length, 0) <= MOST_CORNERS) return { contours, rough: i > 0 };
  }
  return { contours: [], rough: true };
};

const outlineOf = ({ points }: Ring, height: number, smooth: number): Contour => {
  const corners = [];
  for (let i = 0; i < points.length; i += 2) corners.push({ x: points[i]!, y: height - points[i + 1]! });
  return polyline(smoothed(corners, smooth), true);
};

/**
 * Traces what is black and white by nature: all that stands out from the ground becomes outlines, set where an edge is half
 * covered. Pictures with shades are refused; they are burned as dots.
 *
 * @param grey a picture of shades, 0 black to 255 white
 * @returns outlines in dots, and how far they can be trusted; or why none can be told
 * @example traceArt({ width: 300, height: 200, pixels }) // { contours: […], doubt: 0.3, … }
 */
export const traceArt = (grey: Grey): Result<TracedArt> => {
  const { width, height } = grey;
  if (width * height > MOST_TRACED_DOTS)
    return fail('too-many-dots', `The picture has ${(width * height / 1e6).toFixed(0)} million dots; at most ${MOST_TRACED_DOTS / 1e6} million are traced. Make it smaller: a dot of a tenth of the line’s width is enough.`, 'file'); // prettier-ignore
  const { ink, ground } = inkOf(grey);
  const found = inkLevel(ink);
  if (!found.ok) return fail('no-print', 'Nothing in the picture stands out from its ground.', 'file');
  const { level } = found.value;
  const rings = ringsAt(ink, level);
  const shaded = fail('shades', 'The picture has shades or is blurred, so its outlines would be guesses. Put it in a zone as a picture, which is burned as dots, or have it sharper.', 'file'); // prettier-ignore
  if (!rings) return shaded;
  const measured = rings.map((ring) => ({ ring, ...measureRing(ring) }));
  const kept = measured.filter((r) => Math.abs(r.area) >= SPECK);
  if (kept.length === 0) return fail('only-specks', 'Only specks stand out from the ground of the picture.', 'file');
  const edge = edgeWidth(ink, kept.map((r) => r.ring)); // prettier-ignore
  const length = measured.reduce((s, r) => s + r.length, 0);
  if (length > MOST_EDGES * width * height || edge > BLURRED || shadesOf(ink, level, length, edge) > SHADES)
    return shaded;
  const smooth = edge < STEPPED ? 1 : 0.5;
  const { contours, rough } = withFewCorners(kept.map((r) => outlineOf(r.ring, height, smooth)));
  if (contours.length === 0) return shaded;
  const specks = rings.length - kept.length;
  return ok({
    contours,
    edge,
    doubt: edgeUncertainty(1, edge),
    notes: [
      ...(ground < 128 ? ['Its ground is dark: what is lighter was traced.'] : []),
      ...(specks > 0 ? [`${specks === 1 ? 'A speck' : `${specks} specks`} of a few dots ${specks === 1 ? 'is' : 'are'} left out.`] : []), // prettier-ignore
      ...(rough ? ['The outlines are rough: they were drawn with fewer corners.'] : []),
    ],
  });
};
