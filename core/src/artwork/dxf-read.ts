import {
  compose,
  flatten,
  identity,
  polyline,
  rotation,
  transformContour,
  translation,
  type Contour,
  type Transform,
  type Vertex,
} from '../geometry';
import { fail, ok, type Problem, type Result } from '../result';
import type { ArtFile, ArtShape, Paint } from './art-file';
import { arcOfDxf, circleOfDxf, ellipseOfDxf, lightPolyline, lineOfDxf, splineOfDxf, vertexOf } from './dxf-curves';
import { readPairs, sectionOf, valueOf, wordOf, type Entity, type Pair } from './dxf-pairs';

/** Limits of a DXF: characters, points, and how deep blocks may be put into blocks. */
export const DXF_LIMITS = { bytes: 8_000_000, vertices: 200_000, depth: 16 } as const;
/** Largest number that a coordinate, radius or angle of a real drawing has. */
const LARGEST = 1e9;
/** Greatest distance between a curve and its chords, mm. */
const CHORD = 0.004;

/** What $INSUNITS says of a length [DXF reference: header variables], and millimetres of one. */
const UNITS: Readonly<Record<number, { unit: ArtFile['unit']; mm: number }>> = {
  1: { unit: 'in', mm: 25.4 },
  2: { unit: 'in', mm: 304.8 },
  4: { unit: 'mm', mm: 1 },
  5: { unit: 'cm', mm: 10 },
  6: { unit: 'mm', mm: 1000 },
  8: { unit: 'in', mm: 25.4e-6 },
  9: { unit: 'in', mm: 0.0254 },
  10: { unit: 'in', mm: 914.4 },
  13: { unit: 'mm', mm: 0.001 },
  14: { unit: 'cm', mm: 100 },
};

/** The nine colours that have names; all others are told apart by their number. */
const COLOURS: Readonly<Record<number, Paint>> = { 1: '#ff0000', 2: '#ffff00', 3: '#00ff00', 4: '#00ffff', 5: '#0000ff', 6: '#ff00ff', 7: '#000000', 8: '#808080', 9: '#c0c0c0' }; // prettier-ignore
const BY_BLOCK = 0;
const BY_LAYER = 256;

interface Layer {
  readonly seen: boolean;
  readonly paint: Paint;
}

const paintOf = (e: Pick<Entity, 'pairs'>): Paint => {
  const exact = wordOf(e, 420);
  if (exact !== undefined) return `#${(Number(exact) & 0xffffff).toString(16).padStart(6, '0')}`;
  const n = Math.abs(valueOf(e, 62, 7));
  return COLOURS[n] ?? `colour ${n}`;
};

/** Layers by name: one that is frozen (flag 1) or off (a negative colour) is not seen. */
const layersOf = (tables: readonly Entity[]): ReadonlyMap<string, Layer> =>
  new Map(
    tables
      .filter((e) => e.type === 'LAYER')
      .map((e) => [
        wordOf(e, 2) ?? '',
        { seen: (valueOf(e, 70) & 1) === 0 && valueOf(e, 62, 7) >= 0, paint: paintOf(e) },
      ]),
  );

interface Block {
  readonly base: { readonly x: number; readonly y: number };
  readonly entities: readonly Entity[];
}

const blocksOf = (section: readonly Entity[]): ReadonlyMap<string, Block> => {
  const out = new Map<string, Block>();
  let open: { name: string; base: Block['base']; entities: Entity[] } | null = null;
  for (const e of section) {
    if (e.type === 'BLOCK')
      open = { name: wordOf(e, 2) ?? '', base: { x: valueOf(e, 10), y: valueOf(e, 20) }, entities: [] };
    else if (e.type === 'ENDBLK' && open) {
      out.set(open.name, open);
      open = null;
    } else open?.entities.push(e);
  }
  return out;
};

/** Coordinates of these are the object's own: seen from below x runs the other way [DXF reference: object coordinate systems]. */
const OWN_PLANE = new Set(['CIRCLE', 'ARC', 'LWPOLYLINE', 'POLYLINE', 'INSERT']);

/** Where an entity's plane lies in the drawing; null where it leans out of it. */
const planeOf = (e: Entity): Transform | null => {
  const [x, y, z] = [valueOf(e, 210, 0), valueOf(e, 220, 0), valueOf(e, 230, 1)];
  if (Math.hypot(x, y) > 1e-6 * Math.abs(z)) return null;
  return z < 0 && OWN_PLANE.has(e.type) ? { a: -1, b: 0, c: 0, d: 1, e: 0, f: 0 } : identity;
};

/** Whether a transform keeps circles round. */
const isSimilar = ({ a, b, c, d }: Transform): boolean => {
  const [p, q] = [Math.hypot(a, b), Math.hypot(c, d)];
  return Math.abs(p - q) < 1e-9 * Math.max(p, q) && Math.abs(a * c + b * d) < 1e-9 * p * q;
};

/** What an entity takes from what it is put in by. */
interface Within {
  readonly to: Transform;
  readonly layer: string | null;
  readonly paint: Paint | null;
  readonly depth: number;
}

class Stop {
  constructor(readonly problem: Problem) {}
}

/** Reads entities into shapes, blocks put where they are inserted. */
class Drawing {
  readonly shapes: ArtShape[] = [];
  readonly left = new Map<string, number>();
  hidden = 0;
  private vertices = 0;

  constructor(
    private readonly layers: ReadonlyMap<string, Layer>,
    private readonly blocks: ReadonlyMap<string, Block>,
    private readonly mm: number,
  ) {}

  private leave(what: string): void {
    this.left.set(what, (this.left.get(what) ?? 0) + 1);
  }

  private count(points: number, e: Entity): void {
    this.vertices += points;
    if (this.vertices > DXF_LIMITS.vertices)
      throw new Stop({ code: 'too-many', message: `Line ${e.line}: by here the file has more than ${DXF_LIMITS.vertices} points, too many to read. Keep only what is needed in it.`, field: `line ${e.line}` }); // prettier-ignore
  }

  private put(contour: Contour, e: Entity, paint: Paint, to: Transform): void {
    this.count(contour.vertices.length, e);
    const round = isSimilar(to);
    const straight = round ? contour : polyline(flatten(contour, CHORD / this.mm), contour.closed);
    if (!round) this.count(straight.vertices.length, e);
    this.shapes.push({
      contours: [transformContour(to, straight)],
      rule: 'nonzero',
      fill: null,
      stroke: paint,
      width: 0,
    });
  }

  read(entities: readonly Entity[], within: Within): void {
    let old: { closed: boolean; vertices: Vertex[]; head: Entity } | null = null;
    for (const e of entities) {
      checkNumbers(e);
      if (e.type === 'VERTEX') {
        const v = old && vertexOf(e);
        if (v) old!.vertices.push(v);
        if (old && old.vertices.length > DXF_LIMITS.vertices) this.count(old.vertices.length, e);
      } else if (e.type === 'SEQEND') {
        if (old) this.entity(old.head, within, () => old!);
        old = null;
      } else if (e.type === 'POLYLINE') old = { closed: (valueOf(e, 70) & 1) === 1, vertices: [], head: e };
      else this.entity(e, within, () => this.contourOf(e));
    }
  }

  private contourOf(e: Entity): Contour | null {
    switch (e.type) {
      case 'LINE':
        return lineOfDxf(e);
      case 'CIRCLE':
        return circleOfDxf(e);
      case 'ARC':
        return arcOfDxf(e);
      case 'ELLIPSE':
        return ellipseOfDxf(e, CHORD / this.mm);
      case 'LWPOLYLINE':
        return lightPolyline(e);
      case 'SPLINE': {
        const c = splineOfDxf(e, CHORD / this.mm);
        if (!c) this.leave('SPLINE without control points');
        return c;
      }
      default:
        this.leave(e.type);
        return null;
    }
  }

  private entity(e: Entity, within: Within, contourOf: () => Contour | null): void {
    // What is drawn on layer 0 of a block is on the layer that the block is put on.
    const named = wordOf(e, 8) ?? '0';
    const name = named === '0' && within.layer !== null ? within.layer : named;
    const layer = this.layers.get(name);
    if (layer?.seen === false || valueOf(e, 60) === 1) {
      this.hidden += 1;
      return;
    }
    if (valueOf(e, 67) === 1) return this.leave(`${e.type} on a sheet of paper beside the drawing`);
    if (e.type === 'POLYLINE' && (valueOf(e, 70) & (16 | 64)) !== 0) return this.leave('mesh');
    const plane = planeOf(e);
    if (!plane) return this.leave(`${e.type} that leans out of the drawing’s plane`);
    const colour = valueOf(e, 62, BY_LAYER);
    const paint =
      wordOf(e, 420) !== undefined || (colour !== BY_LAYER && colour !== BY_BLOCK)
        ? paintOf(e)
        : colour === BY_BLOCK
          ? (within.paint ?? '#000000')
          : (layer?.paint ?? '#000000');
    const to = compose(within.to, plane);
    if (e.type === 'INSERT') return this.insert(e, { ...within, to, layer: name, paint });
    const contour = contourOf();
    if (contour && contour.vertices.length > 0) this.put(contour, e, paint, to);
  }

  /** A block where it is put: turned, scaled, in rows and columns [DXF reference: INSERT]. */
  private insert(e: Entity, within: Within): void {
    const block = this.blocks.get(wordOf(e, 2) ?? '');
    if (!block) return this.leave('INSERT of a block that is not in the file');
    if (within.depth >= DXF_LIMITS.depth) return this.leave('block within blocks without end');
    const turn = rotation((valueOf(e, 50) * Math.PI) / 180);
    const scale = { a: valueOf(e, 41, 1), b: 0, c: 0, d: valueOf(e, 42, 1), e: 0, f: 0 };
    const at = translation(valueOf(e, 10), valueOf(e, 20));
    const [columns, rows] = [Math.max(1, valueOf(e, 70, 1)), Math.max(1, valueOf(e, 71, 1))];
    this.count(columns * rows, e);
    for (let row = 0; row < rows; row += 1)
      for (let column = 0; column < columns; column += 1) {
        const step = translation(column * valueOf(e, 44), row * valueOf(e, 45));
        const to = [at, turn, step, scale, translation(-block.base.x, -block.base.y)].reduce(
          (all, next) => compose(all, next),
          within.to,
        );
        this.read(block.entities, { ...within, to, depth: within.depth + 1 });
      }
  }
}

const checkNumbers = (e: Entity): void => {
  const bad = e.pairs.find((p) => p.code >= 10 && p.code <= 59 && !(Math.abs(Number(p.value)) <= LARGEST));
  if (bad)
    throw new Stop({
      code: 'unreadable-dxf',
      message: `Line ${bad.line + 1}: “${bad.value.slice(0, 30)}” in ${e.type} is ${Number.isFinite(Number(bad.value)) ? 'out of any range' : 'not a number'}.`,
      field: `line ${bad.line + 1}`,
    });
};

const unitOf = (pairs: readonly Pair[]): { unit: ArtFile['unit']; mm: number } | undefined => {
  const at = pairs.findIndex((p) => p.code === 9 && p.value === '$INSUNITS');
  return at >= 0 ? UNITS[Number(pairs[at + 1]?.value)] : undefined;
};

/**
 * Reads a DXF (text form) as a drawing of lines: LINE, ARC, CIRCLE, ELLIPSE, LWPOLYLINE, POLYLINE, SPLINE with its weights, and
 * blocks where they are inserted. What is on a layer that is off or frozen, or on a sheet of paper beside the drawing, is left
 * out; other entities are counted and named.
 *
 * @returns shapes in millimetres, each in its colour, or a problem naming the line
 */
export const readDxfArt = (text: string): Result<ArtFile> => {
  if (text.length > DXF_LIMITS.bytes)
    return fail('too-large', `The file is ${(text.length / 1e6).toFixed(1)} MB; at most ${DXF_LIMITS.bytes / 1e6} MB are read.`, 'file'); // prettier-ignore
  // The mark of a binary DXF ends in two bytes that no text has.
  if (text.slice(0, 40).includes('\u001a\u0000'))
    return fail('binary-dxf', 'This is a binary DXF. Save it as a text DXF.', 'file');
  const read = readPairs(text);
  if (!read.ok) return read;
  const pairs = read.value;
  const entities = sectionOf(pairs, 'ENTITIES');
  if (!entities) return fail('no-entities', 'The file has no ENTITIES section.', 'file');
  const unit = unitOf(pairs);
  const mm = unit?.mm ?? 1;
  const drawing = new Drawing(
    layersOf(sectionOf(pairs, 'TABLES') ?? []),
    blocksOf(sectionOf(pairs, 'BLOCKS') ?? []),
    mm,
  );
  const scale = { a: mm, b: 0, c: 0, d: mm, e: 0, f: 0 };
  try {
    drawing.read(entities, { to: scale, layer: null, paint: null, depth: 0 });
  } catch (error) {
    if (error instanceof Stop) return { ok: false, problem: error.problem };
    throw error;
  }
  return ok({
    shapes: drawing.shapes,
    unpainted: [],
    hidden: drawing.hidden,
    unit: unit?.unit ?? 'unstated',
    notes: [...drawing.left].map(([what, count]) => `${count} × ${what} left out.`),
  });
};
