import { allShapes, pieceShapes } from '../artwork';
import { diameterAt } from '../drive';
import { boxOf, circle, contourBox, type Box, type Contour, type Vec } from '../geometry';
import { blankOutline } from '../holding';
import { screenPath, thinned } from '../output';
import type { BatchReckoning, RoundReckoning } from '../setup';
import { nth, type Mm } from '../units';
import { artOnBlank } from '../ways/round';

/** A piece with its art, small: paths in millimetres, y up, no finer than such a picture shows. */
export interface SmallPicture {
  readonly box: { readonly minX: Mm; readonly minY: Mm; readonly maxX: Mm; readonly maxY: Mm };
  /** The piece's outline with its holes. */
  readonly outline: string;
  readonly fill: string;
  readonly line: string;
  readonly cut: string;
}

/** How many dots such a picture is wide. */
const DOTS = 140;
/** Most letters of its paths; finer art is drawn coarser. */
const MOST = 9_000;
const COARSER = 2;

type Lines = readonly (readonly Vec[])[];

interface Parts {
  readonly outline: readonly Contour[];
  readonly filled: Lines;
  readonly drawn: Lines;
  readonly cut: Lines;
}

const flatParts = ({ face, sizes, art, zone, onTheBoard }: BatchReckoning): Parts => {
  const outline = [...blankOutline(face.blank, sizes), ...face.blank.holes.map((h) => circle(h, h.diameter / 2))];
  const piece = art && nth(art.pieces, onTheBoard[0]?.ordinal ?? 1);
  if (!art || !zone || !piece) return { outline, filled: [], drawn: [], cut: [] };
  const { filled, drawn, cut = [] } = allShapes(pieceShapes(art, zone, piece));
  return { outline, filled, drawn, cut };
};

/** A round blank from the side on which its first face lies, its rim to the left. */
const roundParts = (r: BatchReckoning, { shape, faces }: RoundReckoning): Parts => {
  const { profile } = shape;
  const half = (at: Mm): Mm => diameterAt(profile, at) / 2;
  const upper = profile.map((p) => ({ x: p.at, y: p.diameter / 2 }));
  const lower = [...profile].reverse().map((p) => ({ x: p.at, y: -p.diameter / 2 }));
  const seenFrom = faces[0]?.places[0]?.angle ?? 0;
  // What lies behind is cut off where its line goes over the edge.
  const front = (line: readonly { readonly angle: number; readonly along: Mm }[]): Vec[][] => {
    const runs: Vec[][] = [[]];
    for (const { angle, along } of line) {
      const turn = angle - seenFrom;
      if (Math.cos(turn) > 0) runs.at(-1)!.push({ x: along, y: half(along) * Math.sin(turn) });
      else if (runs.at(-1)!.length > 0) runs.push([]);
    }
    return runs.filter((run) => run.length > 1);
  };
  const { filled, drawn } = artOnBlank(r);
  return {
    outline: [{ closed: true, vertices: [...upper, ...lower] }],
    filled: filled.flatMap(front),
    drawn: drawn.flatMap(front),
    cut: [],
  };
};

/** Whether more than a dot of a line is seen. */
const shows = (line: readonly Vec[], step: Mm): boolean => {
  const { minX, minY, maxX, maxY } = boxOf(line);
  return line.length > 1 && Math.max(maxX - minX, maxY - minY) > step;
};

const unite = (a: Box, b: Box): Box => ({
  minX: Math.min(a.minX, b.minX),
  minY: Math.min(a.minY, b.minY),
  maxX: Math.max(a.maxX, b.maxX),
  maxY: Math.max(a.maxY, b.maxY),
});

const pathsOf = ({ filled, drawn, cut }: Parts, step: Mm): Pick<SmallPicture, 'fill' | 'line' | 'cut'> => {
  const path = (lines: Lines, closed: boolean): string =>
    lines
      .filter((l) => shows(l, step))
      .map((l) => thinned(l, step))
      .map((vertices) => screenPath({ closed, vertices }))
      .join('');
  return { fill: path(filled, true), line: path(drawn, false), cut: path(cut, false) };
};

/** The piece that is burned next, drawn true and small: as it lies flat, or a round one from the side of its art. */
export const smallPicture = (r: BatchReckoning): SmallPicture => {
  const parts = r.own.round ? roundParts(r, r.own.round) : flatParts(r);
  const box = parts.outline.map(contourBox).reduce(unite);
  const outline = parts.outline.map((c) => screenPath(c)).join('');
  let step = Math.max(box.maxX - box.minX, box.maxY - box.minY) / DOTS;
  let paths = pathsOf(parts, step);
  for (let i = 0; i < 5 && paths.fill.length + paths.line.length + paths.cut.length > MOST; i += 1) {
    step *= COARSER;
    paths = pathsOf(parts, step);
  }
  return { box, outline, ...paths };
};
