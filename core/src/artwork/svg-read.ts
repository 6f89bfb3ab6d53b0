import { SaxesParser } from 'saxes';
import {
  clipAreas,
  clipLines,
  compose,
  contourBox,
  contoursBox,
  evenOdd,
  identity,
  invert,
  transformContour,
  type Contour,
  type Transform,
} from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { ART_LIMITS, type ArtFile, type ArtShape, type Paint } from './art-file';
import { pathContours, tooMany } from './svg-path';
import { Refusal, type PreparedSvg } from './svg-prepare';

const PX: Mm = 25.4 / 96;
/** Greatest distance between a curve and its chords, mm. */
const CHORD: Mm = 0.005;

type Attributes = Readonly<Record<string, string>>;

const numbers = (text: string): number[] => (text.match(/[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?/gi) ?? []).map(Number);

const matrixOf = (text: string | undefined): Transform => {
  if (!text) return identity;
  const [a, b, c, d, e, f] = numbers(text);
  return { a: a!, b: b!, c: c!, d: d!, e: e!, f: f! };
};

const pageOf = (a: Attributes, size: PreparedSvg['size']): readonly [number, number] => [
  size?.width ?? Number(a['width']),
  size?.height ?? Number(a['height']),
];

/** User units of the drawing in millimetres, y up: its size, its viewBox, and how the one is fitted into the other [SVG 2, 8.2]. */
const viewOf = (a: Attributes, size: PreparedSvg['size']): Transform => {
  const [w, h] = pageOf(a, size);
  const [x, y, bw, bh] = numbers(a['viewBox'] ?? '');
  const flipped = { a: PX, b: 0, c: 0, d: -PX, e: 0, f: h * PX };
  if (!(bw! > 0) || !(bh! > 0)) return flipped;
  const [align = 'xMidYMid', how] = (a['preserveAspectRatio'] ?? '').trim().split(/\s+/).filter(Boolean);
  const [sx, sy] = [w / bw!, h / bh!];
  const k = how === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
  const [kx, ky] = align === 'none' ? [sx, sy] : [k, k];
  const share = (axis: 'x' | 'Y'): number => {
    const at = new RegExp(`${axis}(Min|Mid|Max)`).exec(align)?.[1];
    return at === 'Min' ? 0 : at === 'Max' ? 1 : 0.5;
  };
  const fit = {
    a: kx,
    b: 0,
    c: 0,
    d: ky,
    e: -x! * kx + (align === 'none' ? 0 : share('x') * (w - kx * bw!)),
    f: -y! * ky + (align === 'none' ? 0 : share('Y') * (h - ky * bh!)),
  };
  return compose(flipped, fit);
};

const paintOf = (text: string | undefined, opacity: string | undefined): Paint | null => {
  if (text === undefined || text === 'none' || Number(opacity ?? 1) === 0) return null;
  return text.startsWith('url(') ? 'more than one colour' : text.toLowerCase();
};

/** What a group does to all that is in it. */
interface Level {
  readonly to: Transform;
  readonly clips: readonly string[];
  readonly seen: boolean;
  /** A clip path that follows the box of what is in the group, and how many shapes there were before it. */
  readonly later?: { readonly id: string; readonly from: number } | undefined;
}

/** A clip path: its areas where it was defined, in the frame of who uses it. */
interface Clip {
  readonly parts: { readonly d: string; readonly to: Transform; readonly rule: ArtShape['rule'] }[];
  readonly own: string | null;
  /** Whether it is drawn in a square of one that stands for the box of what it clips [CSS Masking 1, clipPathUnits]. */
  readonly ofBox: boolean;
}

const urlOf = (text: string | undefined): string | null => /^url\(#(.+)\)$/.exec(text ?? '')?.[1] ?? null;
const ruleOf = (text: string | undefined): ArtShape['rule'] => (text === 'evenodd' ? 'evenodd' : 'nonzero');

/** What only defines something that others use. */
const DEFINED = new Set(['mask', 'pattern', 'filter', 'linearGradient', 'radialGradient']);

/** Reads a plain drawing, element by element. */
class Reading {
  readonly shapes: ArtShape[] = [];
  readonly unpainted: ArtShape[] = [];
  readonly notes = new Set<string>();
  hiddenShapes = 0;
  page: ArtFile['page'];
  private readonly levels: Level[] = [];
  private readonly clips = new Map<string, Clip>();
  private clip: Clip | null = null;
  private hidden = 0;
  private points = 0;
  private readonly areas = new Map<string, readonly Contour[]>();

  constructor(private readonly size: PreparedSvg['size']) {}

  open(name: string, a: Attributes): void {
    const above = this.levels.at(-1) ?? { to: identity, clips: [], seen: true };
    if (this.levels.length === 0) {
      this.levels.push({ ...above, to: viewOf(a, this.size) });
      const [width, height] = pageOf(a, this.size);
      if (width > 0 && height > 0) this.page = { width: width * PX, height: height * PX };
      return;
    }
    if (name === 'clipPath') {
      this.clip = { parts: [], own: urlOf(a['clip-path']), ofBox: a['clipPathUnits'] === 'objectBoundingBox' };
      this.clips.set(a['id'] ?? '', this.clip);
      this.levels.push({ to: matrixOf(a['transform']), clips: [], seen: true });
      return;
    }
    if (DEFINED.has(name)) this.hidden += 1;
    if (a['mask']) this.notes.add('A mask in the file is not read: what it hides is seen.');
    if (a['filter']) this.notes.add('A filter in the file is not read: shapes are taken as they are without it.');
    const to = compose(above.to, matrixOf(a['transform']));
    const clip = urlOf(a['clip-path']);
    const ofBox = clip !== null && this.clips.get(clip)?.ofBox === true;
    const level: Level = {
      to,
      // A clip path lies in the frame of what it clips.
      clips: clip === null || ofBox ? above.clips : [...above.clips, this.areaOf(clip, to)],
      seen: above.seen && Number(a['opacity'] ?? 1) > 0,
      later: ofBox ? { id: clip, from: this.shapes.length } : undefined,
    };
    this.levels.push(level);
    if (name !== 'path' || a['d'] === undefined) return;
    if (this.clip) this.clip.parts.push({ d: a['d'], to, rule: ruleOf(a['clip-rule'] ?? a['fill-rule']) });
    else if (this.hidden === 0) this.path(a, level);
  }

  close(name: string): void {
    const level = this.levels.pop();
    if (level?.later) this.clipToBox(level.later, level.to);
    if (name === 'clipPath') this.clip = null;
    if (DEFINED.has(name)) this.hidden -= 1;
  }

  private contours(d: string, to: Transform): Contour[] {
    const found = pathContours(d, to, CHORD, ART_LIMITS.vertices - this.points);
    for (const c of found) this.points += c.vertices.length;
    return found;
  }

  private path(a: Attributes, { to, clips, seen }: Level): void {
    const fill = paintOf(a['fill'], a['fill-opacity']);
    const stroke = paintOf(a['stroke'], a['stroke-opacity']);
    const shown = seen && a['visibility'] !== 'hidden' && a['visibility'] !== 'collapse';
    const contours = this.contours(a['d']!, to);
    const rule = ruleOf(a['fill-rule']);
    const scale = Math.sqrt(Math.abs(to.a * to.d - to.b * to.c));
    const width = stroke === null ? 0 : Number(a['stroke-width'] ?? 1) * scale;
    const shape: ArtShape = { contours, rule, fill, stroke, width };
    if (contours.length === 0) return;
    if (fill === null && stroke === null) this.unpainted.push(shape);
    else if (shown) this.shapes.push(...this.clipped(shape, clips));
    else this.hiddenShapes += 1;
    if (this.shapes.length > ART_LIMITS.shapes) throw tooMany();
  }

  /** Cuts what was read since to a clip path that is drawn over its box, in the frame of the group. */
  private clipToBox({ id, from }: NonNullable<Level['later']>, to: Transform): void {
    const within = this.shapes.splice(from);
    const back = invert(to);
    const { minX, minY, maxX, maxY } = contoursBox(
      within.flatMap((s) => s.contours.map((c) => transformContour(back, c))),
    );
    if (!(maxX > minX) || !(maxY > minY)) return;
    const key = this.areaOf(id, compose(to, { a: maxX - minX, b: 0, c: 0, d: maxY - minY, e: minX, f: minY }));
    this.shapes.push(...within.flatMap((s) => clippedBy(s, this.areas.get(key)!)));
  }

  /** Areas of a clip path where it is used, by a key of that place. */
  private areaOf(id: string, to: Transform): string {
    const key = `${id} ${Object.values(to).join(' ')}`;
    if (!this.areas.has(key)) {
      const clip = this.clips.get(id);
      const parts = (clip?.parts ?? []).map((p) => evenOdd(this.contours(p.d, compose(to, p.to)), p.rule));
      const all = parts.length <= 1 ? (parts[0] ?? []) : evenOdd(parts.flat(), 'nonzero');
      const own = clip?.own ? this.areas.get(this.areaOf(clip.own, to))! : null;
      this.areas.set(key, own ? clipAreas(all, own) : all);
    }
    return key;
  }

  private clipped(shape: ArtShape, clips: readonly string[]): ArtShape[] {
    return clips.reduce<ArtShape[]>((all, key) => all.flatMap((s) => clippedBy(s, this.areas.get(key)!)), [shape]);
  }
}

const isRectangle = (area: readonly Contour[]): boolean => {
  if (area.length !== 1 || area[0]!.vertices.length !== 4) return false;
  const b = contourBox(area[0]!);
  return area[0]!.vertices.every((v) => (Math.abs(v.x - b.minX) < 1e-6 || Math.abs(v.x - b.maxX) < 1e-6) && (Math.abs(v.y - b.minY) < 1e-6 || Math.abs(v.y - b.maxY) < 1e-6)); // prettier-ignore
};

/** What of a shape lies within an area: its fill cut to it, its stroke where it runs in it. */
const clippedBy = (shape: ArtShape, area: readonly Contour[]): ArtShape[] => {
  if (isRectangle(area)) {
    const b = contourBox(area[0]!);
    const inside = shape.contours.every((c) => {
      const o = contourBox(c);
      return o.minX >= b.minX - 1e-6 && o.maxX <= b.maxX + 1e-6 && o.minY >= b.minY - 1e-6 && o.maxY <= b.maxY + 1e-6;
    });
    if (inside) return [shape];
  }
  const { fill, stroke, contours } = shape;
  const filled = fill === null ? [] : clipAreas(evenOdd(contours.map(closed), shape.rule), area);
  const lines = stroke === null ? [] : clipLines(contours, area);
  return [
    ...(filled.length > 0 ? [{ ...shape, contours: filled, rule: 'evenodd' as const, stroke: null, width: 0 }] : []),
    ...(lines.length > 0 ? [{ ...shape, contours: lines, fill: null }] : []),
  ];
};

/** What is filled is filled as if it were closed [SVG 2, 13.3]. */
const closed = (c: Contour): Contour => (c.closed ? c : { ...c, closed: c.vertices.length > 2 });

/**
 * Reads a drawing that was made plain: paths with matrices, paints and clip paths, nothing else.
 *
 * @param plain what stands for the prepared drawing after it was made plain
 * @returns its shapes in millimetres, y up, or a problem naming the line
 */
export const readPlainSvg = (plain: string, { unit, notes, size }: PreparedSvg): Result<ArtFile> => {
  const reading = new Reading(size);
  const parser = new SaxesParser();
  parser.on('opentag', (tag) => reading.open(tag.name, tag.attributes as Attributes));
  parser.on('closetag', (tag) => reading.close(tag.name));
  try {
    parser.write(plain).close();
  } catch (error) {
    if (error instanceof Refusal) return fail('unreadable-svg', error.message, 'file');
    throw error;
  }
  const { shapes, unpainted, hiddenShapes } = reading;
  return ok({
    shapes: shapes.map((s) => (s.fill === null ? s : { ...s, contours: s.stroke === null ? s.contours.map(closed) : s.contours })), // prettier-ignore
    unpainted,
    hidden: hiddenShapes,
    unit,
    notes: [...notes, ...reading.notes],
    ...(reading.page ? { page: reading.page } : {}),
  });
};
