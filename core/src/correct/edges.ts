import { addEquation, boxHeight, boxOf, boxWidth, solveLinear, zeros, type Vec } from '../geometry';
import type { Mm, Rad } from '../units';
import { degrees, fixed, worked, type WorkedLine } from '../working';

/** A distance to take with a caliper: from an outermost point of the art straight to the edge of the piece. */
export interface EdgeDistance {
  readonly id: string;
  /** Which it is, in words. */
  readonly label: string;
  /** On the art, where it is meant; in the piece’s frame, mm. */
  readonly from: Vec;
  /** On the piece’s edge. */
  readonly to: Vec;
  /** As drawn, mm. */
  readonly drawn: Mm;
  /** Of the edge there, pointing out. */
  readonly normal: Vec;
}

/** What edge distances say of the art on its piece, each with its standard uncertainty. */
export interface EdgeFinding {
  readonly off: Vec;
  readonly turn: Rad;
  /** How much larger it came out, as a share. */
  readonly size: number;
  readonly doubt: { readonly x: Mm; readonly y: Mm; readonly turn: Rad; readonly size: number };
  readonly working: readonly WorkedLine[];
}

/** What is known of a piece before it is measured. */
export interface EdgePrior {
  /** Standard deviations of its length and width from the mean it is drawn with, mm. */
  readonly length: Mm;
  readonly width: Mm;
}

/** A caliper held by eye to an engraved edge, standard uncertainty, mm [common practice: read to 0.05, aimed to 0.1]. */
const CALIPER: Mm = 0.06;
/** What art may be turned by and grown by, before anything is known; wide enough not to matter [assumed]. */
const WIDE = { off: 5, turn: 0.05, size: 0.005 } as const;
/** A caliper lies badly on an edge that runs more along than across: least cosine between them. */
const SQUARE_ENOUGH = 0.5;
/** How many are asked for at most. */
const ENOUGH = 6;

/** The first edge that is met from a point on, and which way it faces. */
const edgeFrom = (outline: readonly Vec[], from: Vec, way: Vec): { at: Vec; normal: Vec; far: Mm } | null => {
  let best: { at: Vec; normal: Vec; far: Mm } | null = null;
  outline.forEach((a, i) => {
    const b = outline[(i + 1) % outline.length]!;
    const [ex, ey] = [b.x - a.x, b.y - a.y];
    const cross = way.x * ey - way.y * ex;
    if (Math.abs(cross) < 1e-12) return;
    const far = ((a.x - from.x) * ey - (a.y - from.y) * ex) / cross;
    const u = ((a.x - from.x) * way.y - (a.y - from.y) * way.x) / cross;
    if (far < 0 || u < -1e-9 || u > 1 + 1e-9 || (best && far >= best.far)) return;
    const length = Math.hypot(ex, ey);
    const facing = Math.sign(way.x * ey - way.y * ex);
    best = {
      at: { x: from.x + far * way.x, y: from.y + far * way.y },
      normal: { x: (facing * ey) / length, y: (-facing * ex) / length },
      far,
    };
  });
  return best;
};

const rowOf = ({ from, to, normal }: EdgeDistance, span: { length: Mm; width: Mm }): number[] => {
  const long = Math.hypot(to.x - from.x, to.y - from.y) || 1;
  const cosine = ((to.x - from.x) * normal.x + (to.y - from.y) * normal.y) / long || 1;
  const n = { x: normal.x / cosine, y: normal.y / cosine };
  // Art moves away from the edge: the distance grows against it. The edge moves out: it grows with it.
  return [
    -n.x,
    -n.y,
    from.y * n.x - from.x * n.y,
    -(from.x * n.x + from.y * n.y),
    (to.x / span.length) * n.x,
    (to.y / span.width) * n.y,
  ];
};

/** Normal equations with what is known before: off, turn and size of the art, length and width of the piece. */
const before = ({ length, width }: EdgePrior): { ata: number[][]; atb: number[] } => {
  const ata = zeros(6);
  const sds = [WIDE.off, WIDE.off, WIDE.turn, WIDE.size, Math.max(1e-3, length), Math.max(1e-3, width)];
  sds.forEach((sd, i) => (ata[i]![i] = 1 / sd ** 2));
  return { ata, atb: new Array<number>(6).fill(0) };
};

/** Variances of the first four unknowns. */
const variances = (ata: readonly (readonly number[])[]): number[] =>
  [0, 1, 2, 3].map((i) => {
    const unit = new Array<number>(6).fill(0);
    unit[i] = 1;
    return (
      solveLinear(
        ata.map((row) => [...row]),
        unit,
      )?.[i] ?? Infinity
    );
  });

const addRow = (ata: number[][], atb: number[], row: readonly number[], value: number): void =>
  addEquation(
    ata,
    atb,
    row.map((v) => v / CALIPER),
    value / CALIPER,
  );

/** Points of the art within this of the outermost are as far out, and this far apart they say something of a turn, mm. */
const AS_FAR: Mm = 0.05;
const APART: Mm = 3;

const SIDES = [
  ['left', { x: -1, y: 0 }, ['near', 'far']],
  ['right', { x: 1, y: 0 }, ['near', 'far']],
  ['near', { x: 0, y: -1 }, ['left', 'right']],
  ['far', { x: 0, y: 1 }, ['left', 'right']],
] as const;

/** Points of the art that a caliper can be laid to on one side: the outermost, and another as far out if it is apart. */
const outermost = (art: readonly Vec[], way: Vec): Vec[] => {
  const out = (p: Vec): Mm => p.x * way.x + p.y * way.y;
  const along = (p: Vec): Mm => p.x * way.y + p.y * way.x;
  const most = Math.max(...art.map(out));
  const sorted = art.filter((p) => out(p) > most - AS_FAR).sort((a, b) => Math.abs(way.x) * (a.y - b.y) + Math.abs(way.y) * (a.x - b.x)); // prettier-ignore
  const [first, last] = [sorted[0]!, sorted.at(-1)!];
  return Math.abs(along(last) - along(first)) < APART ? [first] : [first, last];
};

/** From the outermost points of the art straight to the edges, those that a caliper can be laid to. */
const candidates = (outline: readonly Vec[], art: readonly Vec[]): EdgeDistance[] =>
  SIDES.flatMap(([side, way, ends]) => {
    const points = outermost(art, way);
    return points.flatMap((from, i) => {
      const edge = edgeFrom(outline, from, way);
      if (!edge || edge.far < 0.5 || edge.normal.x * way.x + edge.normal.y * way.y < SQUARE_ENOUGH) return [];
      const where = points.length === 1 ? 'outermost point' : `${ends[i as 0 | 1]} end`;
      return [{ id: `${side}-${i}`, label: `${side} edge, art’s ${where}`, from, to: edge.at, drawn: edge.far, normal: edge.normal }]; // prettier-ignore
    });
  });

/**
 * Which edge distances say most of shift, turn and size of the art on a piece of any outline, the most telling first.
 * @param outline of the piece, flattened, mm; @param art points that bound what is burned on it, same frame
 */
export const edgeDistances = (outline: readonly Vec[], art: readonly Vec[], prior: EdgePrior): EdgeDistance[] => {
  if (art.length === 0) return [];
  const span = spanOf(outline);
  const left = candidates(outline, art);
  const chosen: EdgeDistance[] = [];
  const { ata, atb } = before(prior);
  const box = boxOf(art);
  const reach = Math.max(1, boxWidth(box), boxHeight(box)) / 2;
  const error = (rows: number[][]): number => {
    const [x, y, turn, size] = variances(rows);
    return x! + y! + (turn! + size!) * reach ** 2;
  };
  while (chosen.length < ENOUGH && left.length > 0) {
    const tried = left.map((d) => {
      const rows = ata.map((row) => [...row]);
      addRow(rows, [...atb], rowOf(d, span), 0);
      return error(rows);
    });
    const [next] = left.splice(tried.indexOf(Math.min(...tried)), 1);
    addRow(ata, atb, rowOf(next!, span), 0);
    chosen.push(next!);
  }
  return chosen;
};

const spanOf = (outline: readonly Vec[]): { length: Mm; width: Mm } => {
  const xs = outline.map((p) => p.x);
  const ys = outline.map((p) => p.y);
  return { length: Math.max(...xs) - Math.min(...xs), width: Math.max(...ys) - Math.min(...ys) };
};

/**
 * What distances taken with a caliper say of the art on its piece; least squares with what is known of the piece’s size.
 * Null while there are fewer than three.
 * @param taken distances by their ids, mm
 */
export const findFromEdges = (
  distances: readonly EdgeDistance[],
  taken: Readonly<Record<string, Mm>>,
  outline: readonly Vec[],
  prior: EdgePrior,
): EdgeFinding | null => {
  const used = distances.filter((d) => taken[d.id] !== undefined);
  if (used.length < 3) return null;
  const span = spanOf(outline);
  const { ata, atb } = before(prior);
  for (const d of used) addRow(ata, atb, rowOf(d, span), taken[d.id]! - d.drawn);
  const sds = variances(ata).map(Math.sqrt);
  const found = solveLinear(
    ata.map((row) => [...row]),
    [...atb],
  );
  if (!found) return null;
  const [x, y, turn, size] = found;
  return {
    off: { x: x!, y: y! },
    turn: turn!,
    size: size!,
    doubt: { x: sds[0]!, y: sds[1]!, turn: sds[2]!, size: sds[3]! },
    working: [
      worked(
        'off, turned and grown',
        'least squares of d − d₀ = (−(t + θ × p + s·p) + growth of the piece)·n / (u·n)',
        `${used.length} distances: ${used.map((u) => `${fixed(taken[u.id]!)} − ${fixed(u.drawn)}`).join(', ')}`,
        `${fixed(x!)}, ${fixed(y!)} mm, ${degrees(turn!, 2)}, ${fixed(100 * size!)} %`,
        'statistics',
      ),
      worked(
        'their doubt, one standard deviation',
        '√ of the diagonal of (Σ rows / caliper² + what is known before)⁻¹',
        `caliper ${fixed(CALIPER)} mm; piece’s length ${fixed(prior.length, 3)}, width ${fixed(prior.width, 3)} mm`,
        `${fixed(sds[0]!, 3)}, ${fixed(sds[1]!, 3)} mm, ${degrees(sds[2]!, 2)}`,
        'common practice',
      ),
    ],
  };
};
