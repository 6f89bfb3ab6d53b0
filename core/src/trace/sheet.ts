import {
  boxCentre,
  boxHeight,
  boxOf,
  boxWidth,
  flatten,
  polyline,
  simplifyContour,
  type Contour,
  type Vec,
} from '../geometry';
import type { TracedShape, TracedSheet } from './traced';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { edgeUncertainty, edgeWidth } from './edges';
import { inkLevel, type Ink } from './ink';
import { ringsAt } from './rings';
import { areaCentre, markOf, shapesOf, type Shape } from './shapes';
import { smoothed } from './smooth';
import { partsAtNecks } from './touching';

/** How outlines are made of a picture. */
export interface TraceChoices {
  /** Roughness is smoothed over this length (σ), mm; 0 keeps every dot's step. */
  readonly smooth: Mm;
  /** Shapes narrower than this are not pieces, mm. */
  readonly smallest: Mm;
  /** Pieces that hang together by necks narrower than `neck` are cut apart there. */
  readonly apart: boolean;
  /** What counts as a neck, mm. */
  readonly neck: Mm;
}

export const freshTrace: TraceChoices = { smooth: 0.15, smallest: 5, apart: false, neck: 1 };

/** Most shapes of a sheet. */
export const MOST_TRACED = 1_000;
/** Most corners of all outlines of a sheet together. */
export const MOST_TRACED_POINTS = 60_000;
/** Most marks that are taken without being told: more of one form are pieces. */
const MOST_FOUND_MARKS = 12;
/** Outlines stay this near to what was found, mm; coarser when there are too many corners. */
const TOLERANCES: readonly Mm[] = [0.02, 0.05, 0.1, 0.2];
/** Edges blurred over more than this are refused, and over more than this are spoken of, mm. */
const BLURRED: Mm = 1.2;
const SOFT: Mm = 0.4;
/** A ring of fewer points is a speck of a few dots. */
const FEWEST_POINTS = 12;
/** Specks: nothing of less area is looked at, mm². */
const SPECK = 1;

/** What was found in a picture, and what a person should know about it. */
export interface Traced {
  readonly sheet: TracedSheet;
  readonly notes: readonly string[];
}

/** Shapes in reading order: row by row from the top, each from the left. */
export const inReadingOrder = <T extends { readonly centre: Vec; readonly height: Mm }>(shapes: readonly T[]): T[] => {
  const rest = [...shapes].sort((a, b) => b.centre.y - a.centre.y);
  const out: T[] = [];
  while (rest.length > 0) {
    const first = rest[0]!;
    const row = rest.filter((s) => first.centre.y - s.centre.y < 0.6 * first.height);
    out.push(...row.sort((a, b) => a.centre.x - b.centre.x));
    row.forEach((s) => rest.splice(rest.indexOf(s), 1));
  }
  return out;
};

/**
 * What four marks say about how the picture was taken: turned, or from aslant. A scan is neither
 * stretched more than 2 % nor a trapezium.
 */
const slantNote = (marks: readonly Vec[]): string[] => {
  if (marks.length < 4) return [];
  const middle = boxCentre(boxOf(marks));
  const corner = (sx: number, sy: number): Vec =>
    [...marks].sort((a, b) => sx * (b.x - a.x) + sy * (b.y - a.y))[0] ?? middle;
  const [bl, br, tr, tl] = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)] as [Vec, Vec, Vec, Vec];
  const d = (a: Vec, b: Vec): Mm => Math.hypot(a.x - b.x, a.y - b.y);
  const pairs = [
    [d(bl, br), d(tl, tr)],
    [d(bl, tl), d(br, tr)],
  ] as const;
  const off = Math.max(...pairs.map(([a, b]) => Math.abs(a / b - 1)));
  if (off < 0.06 && off > 0.007)
    return [
      `The outer marks are no rectangle: opposite sides differ by ${(100 * off).toFixed(1)} %. Was the sheet photographed from aslant? Scan it, or take the file it was printed from.`,
    ];
  const tilt = (Math.atan2(br.y - bl.y, br.x - bl.x) * 180) / Math.PI;
  return off <= 0.007 && Math.abs(tilt) > 0.2 && Math.abs(tilt) < 20
    ? [
        `The sheet lies turned by ${Math.abs(tilt).toFixed(1)}° in the picture. That does no harm: its marks turn with it.`,
      ]
    : [];
};

const toContour = (points: readonly Vec[], smooth: Mm, tolerance: Mm): Contour =>
  simplifyContour(polyline(smoothed(points, smooth), true), tolerance);

/** A shape whose outline touches the picture's rim goes on beyond it. */
const runsOut = ({ box }: Shape, width: Mm, height: Mm, dot: Mm): boolean =>
  box.minX < dot || box.minY < dot || box.maxX > width - dot || box.maxY > height - dot;

const shapeOf = (points: readonly Vec[], holes: readonly (readonly Vec[])[], choices: TraceChoices): TracedShape => {
  const outline = toContour(points, choices.smooth, TOLERANCES[0]!);
  return {
    outline,
    holes: holes.map((h) => toContour(h, choices.smooth, TOLERANCES[0]!)),
    role: 'piece',
    look: null,
    at: boxCentre(boxOf(points)),
  };
};

/** As few corners as the limit asks for. */
const withinLimit = (shapes: readonly TracedShape[]): { shapes: readonly TracedShape[]; note: string[] } => {
  const corners = (list: readonly TracedShape[]): number =>
    list.reduce((s, x) => s + x.outline.vertices.length + x.holes.reduce((t, h) => t + h.vertices.length, 0), 0);
  let now = shapes;
  for (const tolerance of TOLERANCES.slice(1)) {
    if (corners(now) <= MOST_TRACED_POINTS) break;
    now = shapes.map((s) => ({
      ...s,
      outline: simplifyContour(s.outline, tolerance),
      holes:
        corners([{ ...s, holes: [] }]) > MOST_TRACED_POINTS ? [] : s.holes.map((h) => simplifyContour(h, tolerance)),
    }));
  }
  return {
    shapes: now,
    note: now === shapes ? [] : ['The outlines are rough: they were drawn with fewer corners.'],
  };
};

/**
 * Finds what is to be cut out of a printed sheet in its picture: outer outlines of all that stands
 * on the paper, and the registration marks among it.
 *
 * @param ink of the whole picture
 * @param source name of the file and size of a dot, mm
 * @param progress is told the share done, 0 to 1
 * @returns the sheet with notes for the operator, or why the picture cannot be used and what would help
 */
export const traceSheet = (
  ink: Ink,
  source: { readonly name: string; readonly dot: Mm },
  choices: TraceChoices,
  progress: (share: number) => void = () => undefined,
): Result<Traced> => {
  const { dot } = source;
  const [width, height] = [ink.width * dot, ink.height * dot];
  const found = inkLevel(ink);
  if (!found.ok) return found;
  const rings = ringsAt(ink, found.value.level, FEWEST_POINTS, (share) => progress(0.6 * share));
  if (!rings)
    return fail(
      'too-busy',
      'The picture is full of specks or shades down to its paper: no outlines can be told. Clean it, or print darker outlines.',
      'picture',
    );
  const shapes = shapesOf(rings, dot, height, SPECK);
  const [largest] = shapes;
  if (!largest) return fail('no-shapes', 'Only specks stand out from the paper.', 'picture');
  if (
    largest.area > 0.6 * width * height ||
    (boxWidth(largest.box) > 0.98 * width && boxHeight(largest.box) > 0.98 * height)
  )
    return fail(
      'one-shape',
      'One shape fills the picture. Is the scanner’s lid or a border round the sheet in it? Crop the picture to the paper; its edge must be bare.',
      'picture',
    );
  const outer = rings.filter((r) => r.points.length > 40);
  const edge = edgeWidth(ink, outer) * dot;
  if (edge > BLURRED)
    return fail(
      'blurred',
      `The picture is blurred: its edges are ${edge.toFixed(1)} mm wide, so outlines would be guesses. Scan it again, sharper, or take the file it was printed from.`,
      'picture',
    );
  return sheetOfShapes(shapes, { ...source, width, height, edge }, choices, progress);
};

/**
 * Tells what stands on a sheet: pieces, marks by their form, and what is left out.
 *
 * @param shapes largest first
 * @param source name of the file, size of the sheet and of a dot, and width of the edges, mm
 */
export const sheetOfShapes = (
  shapes: readonly Shape[],
  source: Pick<TracedSheet, 'name' | 'width' | 'height' | 'dot' | 'edge'>,
  choices: TraceChoices,
  progress: (share: number) => void = () => undefined,
): Result<Traced> => {
  const { name, width, height, dot, edge } = source;
  const inside = shapes.filter((s) => !runsOut(s, width, height, dot));
  const looks = inside.map((s) => markOf(s));
  const counts = new Map<string, number>();
  looks.forEach((l) => l && counts.set(l.kind, (counts.get(l.kind) ?? 0) + 1));
  const made: TracedShape[] = [];
  const touching: Vec[] = [];
  let small = 0;
  for (let i = 0; i < inside.length; i += 1) {
    const shape = inside[i]!;
    const look = looks[i] ?? null;
    progress(0.6 + (0.4 * i) / inside.length);
    if (look && (counts.get(look.kind) ?? 0) <= MOST_FOUND_MARKS) {
      made.push({
        ...shapeOf(shape.points, [], choices),
        role: 'mark',
        look: { kind: look.kind, size: look.size },
        at: look.at,
      });
      continue;
    }
    if (Math.min(boxWidth(shape.box), boxHeight(shape.box)) < choices.smallest) {
      small += 1;
      continue;
    }
    const line = smoothed(shape.points, choices.smooth);
    const parts = partsAtNecks(line, choices.neck);
    if (parts.length > 1) touching.push(areaCentre(shape.points));
    if (parts.length > 1 && choices.apart) made.push(...parts.map((p) => shapeOf(p, [], { ...choices, smooth: 0 })));
    else
      made.push(
        shapeOf(
          line,
          shape.holes.map((h) => smoothed(h.points, choices.smooth)),
          { ...choices, smooth: 0 },
        ),
      );
  }
  if (!made.some((s) => s.role === 'piece'))
    return fail(
      'no-pieces',
      `Nothing of at least ${choices.smallest} mm stands by itself on the paper${small > 0 ? `; ${small} smaller shapes do. Lower the size of the smallest piece` : ''}.`,
      'picture',
    );
  if (made.length > MOST_TRACED)
    return fail(
      'too-many-shapes',
      `${made.length} shapes stand on the paper; at most ${MOST_TRACED} are taken. Raise the size of the smallest piece.`,
      'picture',
    );
  const ordered = inReadingOrder(
    made.map((s) => {
      const box = boxOf(flatten(s.outline, 0.05));
      return { ...s, centre: boxCentre(box), height: boxHeight(box) };
    }),
  ).map(({ centre: _centre, height: _height, ...s }): TracedShape => s);
  const limited = withinLimit(ordered);
  const marks = limited.shapes.filter((s) => s.role === 'mark').map((s) => s.at);
  const out = shapes.length - inside.length;
  progress(1);
  return ok({
    sheet: {
      name,
      width,
      height,
      dot,
      shapes: limited.shapes,
      uncertainty: edgeUncertainty(dot, edge),
      edge,
    },
    notes: [
      ...(marks.length < 2
        ? [
            `${marks.length === 0 ? 'No mark was' : 'Only one mark was'} recognised. Tell what is a mark: anything with a centre that can be aimed at, two at least, far apart.`,
          ]
        : []),
      ...slantNote(marks),
      ...(edge > SOFT
        ? [
            `Its edges are ${edge.toFixed(2)} mm wide: outlines are known to ± ${(2 * edgeUncertainty(dot, edge)).toFixed(2)} mm.`,
          ]
        : []),
      ...(touching.length > 0 && !choices.apart
        ? [
            `${touching.length === 1 ? 'One outline looks' : `${touching.length} outlines look`} like pieces that touch (at ${touching
              .slice(0, 3)
              .map((p) => `${p.x.toFixed(0)}, ${p.y.toFixed(0)}`)
              .join('; ')}). They are cut as one, or apart at necks narrower than ${choices.neck} mm.`,
          ]
        : []),
      ...(out > 0
        ? [
            `${out === 1 ? 'One shape runs' : `${out} shapes run`} out of the picture and ${out === 1 ? 'is' : 'are'} left out.`,
          ]
        : []),
      ...(small > 0 ? [`${small} smaller ${small === 1 ? 'shape is' : 'shapes are'} left out.`] : []),
      ...limited.note,
    ],
  });
};
