import { circle, polyline, type Contour, type Vec, type Vertex } from '../geometry';
import { fail, type Result } from '../result';
import { finishOutline, joinOpen, OUTLINE_LIMITS, type OutlineFile, type Wanted } from './outline';

interface Pair {
  readonly code: number;
  readonly value: string;
  readonly line: number;
}

interface Entity {
  readonly type: string;
  readonly line: number;
  readonly pairs: readonly Pair[];
}

/** Largest number that a coordinate, radius or angle of a real drawing has. */
const LARGEST = 1e9;

const UNITS: Readonly<Record<number, { unit: OutlineFile['unit']; mm: number }>> = {
  1: { unit: 'in', mm: 25.4 },
  4: { unit: 'mm', mm: 1 },
  5: { unit: 'cm', mm: 10 },
};

const value = (e: Entity, code: number, otherwise = 0): number => {
  const found = e.pairs.find((p) => p.code === code);
  return found ? Number(found.value) : otherwise;
};

const arcContour = (e: Entity): Contour => {
  const c = { x: value(e, 10), y: value(e, 20) };
  const r = value(e, 40);
  const from = (value(e, 50) * Math.PI) / 180;
  const turned = ((value(e, 51) - value(e, 50)) * Math.PI) / 180;
  // Counter-clockwise from the first angle to the second, at most once round.
  const sweep = turned - 2 * Math.PI * Math.ceil(turned / (2 * Math.PI) - 1);
  const at = (angle: number): Vec => ({ x: c.x + r * Math.cos(angle), y: c.y + r * Math.sin(angle) });
  return {
    closed: false,
    vertices: [
      { ...at(from), bulge: Math.tan(sweep / 8) },
      { ...at(from + sweep / 2), bulge: Math.tan(sweep / 8) },
      at(from + sweep),
    ],
  };
};

const lightPolyline = (e: Entity): Contour => {
  const vertices: { x: number; y: number; bulge?: number }[] = [];
  for (const p of e.pairs) {
    if (p.code === 10) vertices.push({ x: Number(p.value), y: 0 });
    else if (p.code === 20 && vertices.length > 0) vertices[vertices.length - 1]!.y = Number(p.value);
    else if (p.code === 42 && vertices.length > 0) vertices[vertices.length - 1]!.bulge = Number(p.value);
  }
  return { closed: (value(e, 70) & 1) === 1, vertices };
};

/** A B-spline by de Boor's rule, as a polyline. */
const spline = (e: Entity): Contour | null => {
  const degree = value(e, 71, 3);
  const knots = e.pairs.filter((p) => p.code === 40).map((p) => Number(p.value));
  const xs = e.pairs.filter((p) => p.code === 10).map((p) => Number(p.value));
  const ys = e.pairs.filter((p) => p.code === 20).map((p) => Number(p.value));
  const n = xs.length;
  if (n <= degree || degree < 1 || degree > 10 || knots.length !== n + degree + 1) return null;
  const [low, high] = [knots[degree]!, knots[n]!];
  const at = (t: number): Vec => {
    let k = degree;
    while (k < n - 1 && t >= knots[k + 1]!) k += 1;
    const d = Array.from({ length: degree + 1 }, (_, j) => ({ x: xs[j + k - degree]!, y: ys[j + k - degree]! }));
    for (let r = 1; r <= degree; r += 1) {
      for (let j = degree; j >= r; j -= 1) {
        const i = j + k - degree;
        const width = knots[i + degree - r + 1]! - knots[i]!;
        const a = width === 0 ? 0 : (t - knots[i]!) / width;
        d[j] = { x: (1 - a) * d[j - 1]!.x + a * d[j]!.x, y: (1 - a) * d[j - 1]!.y + a * d[j]!.y };
      }
    }
    return d[degree]!;
  };
  const steps = Math.min(2000, 24 * n);
  return polyline(Array.from({ length: steps + 1 }, (_, i) => at(low + ((high - low) * i) / steps)));
};

const ellipse = (e: Entity): Contour => {
  const c = { x: value(e, 10), y: value(e, 20) };
  const major = { x: value(e, 11), y: value(e, 21) };
  const ratio = value(e, 40, 1);
  const from = value(e, 41, 0);
  const to = value(e, 42, 2 * Math.PI);
  const full = Math.abs(to - from - 2 * Math.PI) < 1e-6;
  const steps = 180;
  const points = Array.from({ length: full ? steps : steps + 1 }, (_, i) => {
    const t = from + ((to - from) * i) / steps;
    return {
      x: c.x + major.x * Math.cos(t) - major.y * ratio * Math.sin(t),
      y: c.y + major.y * Math.cos(t) + major.x * ratio * Math.sin(t),
    };
  });
  return polyline(points, full);
};

/**
 * Reads the outline of a blank from a DXF (text form): LINE, ARC, CIRCLE, ELLIPSE, LWPOLYLINE,
 * POLYLINE and SPLINE of the entities section. Other entities are counted and named.
 */
export const readDxfOutline = (text: string, wanted: Wanted = 'outline'): Result<OutlineFile> => {
  if (text.length > OUTLINE_LIMITS.bytes)
    return fail(
      'too-large',
      `The file is ${(text.length / 1e6).toFixed(1)} MB; at most ${OUTLINE_LIMITS.bytes / 1e6} MB are read.`,
      'file',
    );
  if (text.startsWith('AutoCAD Binary'))
    return fail('binary-dxf', 'This is a binary DXF. Save it as a text DXF.', 'file');
  const rows = text.split(/\r\n|\n|\r/);
  const pairs: Pair[] = [];
  for (let i = 0; i + 1 < rows.length; i += 2) {
    const code = Number(rows[i]!.trim());
    if (!Number.isInteger(code))
      return fail(
        'unreadable-dxf',
        `Line ${i + 1}: “${rows[i]!.trim().slice(0, 30)}” is not a DXF group code.`,
        `line ${i + 1}`,
      );
    pairs.push({ code, value: rows[i + 1]!.trim(), line: i + 1 });
  }
  if (!pairs.some((p) => p.code === 0 && p.value === 'EOF'))
    return fail(
      'truncated-dxf',
      `The file ends at line ${rows.length} before its end mark. It is cut short; save it again.`,
      `line ${rows.length}`,
    );
  const insunits = pairs.findIndex((p) => p.code === 9 && p.value === '$INSUNITS');
  const unit = insunits >= 0 ? UNITS[Number(pairs[insunits + 1]?.value)] : undefined;
  const start = pairs.findIndex((p) => p.code === 2 && p.value === 'ENTITIES');
  if (start < 0) return fail('no-entities', 'The file has no ENTITIES section.', 'file');
  const entities: Entity[] = [];
  for (let i = start + 1; i < pairs.length;) {
    const head = pairs[i]!;
    if (head.code === 0 && head.value === 'ENDSEC') break;
    let end = i + 1;
    while (end < pairs.length && pairs[end]!.code !== 0) end += 1;
    entities.push({ type: head.value, line: head.line, pairs: pairs.slice(i + 1, end) });
    i = end;
  }
  const contours: Contour[] = [];
  const unknown = new Map<string, number>();
  let vertices = 0;
  let old: { closed: boolean; vertices: Vertex[] } | null = null;
  for (const e of entities) {
    const bad = e.pairs.find((p) => p.code >= 10 && p.code <= 59 && !(Math.abs(Number(p.value)) <= LARGEST));
    if (bad)
      return fail(
        'unreadable-dxf',
        `Line ${bad.line + 1}: “${bad.value.slice(0, 30)}” in ${e.type} is ${Number.isFinite(Number(bad.value)) ? 'out of any range' : 'not a number'}.`,
        `line ${bad.line + 1}`,
      );
    const before = contours.length;
    switch (e.type) {
      case 'LINE':
        contours.push(
          polyline([
            { x: value(e, 10), y: value(e, 20) },
            { x: value(e, 11), y: value(e, 21) },
          ]),
        );
        break;
      case 'CIRCLE':
        contours.push(circle({ x: value(e, 10), y: value(e, 20) }, value(e, 40)));
        break;
      case 'ARC':
        contours.push(arcContour(e));
        break;
      case 'ELLIPSE':
        contours.push(ellipse(e));
        break;
      case 'LWPOLYLINE':
        contours.push(lightPolyline(e));
        break;
      case 'SPLINE': {
        const c = spline(e);
        if (c) contours.push(c);
        else unknown.set('SPLINE without control points', (unknown.get('SPLINE without control points') ?? 0) + 1);
        break;
      }
      case 'POLYLINE':
        old = { closed: (value(e, 70) & 1) === 1, vertices: [] };
        break;
      case 'VERTEX':
        old?.vertices.push({ x: value(e, 10), y: value(e, 20), ...(value(e, 42) ? { bulge: value(e, 42) } : {}) });
        break;
      case 'SEQEND':
        if (old) contours.push(old);
        old = null;
        break;
      default:
        unknown.set(e.type, (unknown.get(e.type) ?? 0) + 1);
    }
    for (const c of contours.slice(before)) vertices += c.vertices.length;
    if (vertices > OUTLINE_LIMITS.vertices || (old?.vertices.length ?? 0) > OUTLINE_LIMITS.vertices)
      return fail(
        'too-many',
        `Line ${e.line}: by here the file has more than ${OUTLINE_LIMITS.vertices} points, too many for an outline. Keep only the outline in it.`,
        `line ${e.line}`,
      );
  }
  const notes = [...unknown].map(([type, count]) => `${count} × ${type} left out.`);
  if (wanted === 'lines') notes.push('A DXF file draws lines: say below if its closed shapes are filled.');
  if (!unit) notes.push('The file does not state its unit; millimetres were taken.');
  const k = unit?.mm ?? 1;
  const scaled = contours.map((c) => ({
    closed: c.closed,
    vertices: c.vertices.map((v) => ({ ...v, x: v.x * k, y: v.y * k })),
  }));
  return finishOutline(joinOpen(scaled), unit?.unit ?? 'unstated', notes, wanted);
};
