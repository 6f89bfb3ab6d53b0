import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import { polyline, type Contour, type Vec } from '../geometry';
import { fail, type Result } from '../result';
import { finishOutline, joinOpen, OUTLINE_LIMITS, type OutlineFile, type Wanted } from './outline';

/** What makes a drawing refused: it is data, not a program, and it stands alone. */
const REFUSED = new Set(['script', 'foreignobject', 'image', 'iframe', 'object', 'embed', 'animate', 'set', 'use']);

const MM_PER: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  px: 25.4 / 96,
  '': 25.4 / 96,
};

class Refusal extends Error {}

/** What of an element's look says how it is drawn; what is not said is inherited. */
type Look = Readonly<Partial<Record<'fill' | 'stroke' | 'display' | 'visibility', string>>>;

const DEFAULT_LOOK: Look = { fill: 'black', stroke: 'none' };
const LOOKS = ['fill', 'stroke', 'display', 'visibility'] as const;

const declared = (text: string): Look => {
  const out: Record<string, string> = {};
  for (const part of text.split(';')) {
    const [name, value] = part.split(':').map((s) => s.trim().toLowerCase());
    if (value && LOOKS.some((n) => n === name)) out[name!] = value.replace(/\s*!important$/, '');
  }
  return out;
};

/** Rules of a style sheet with one plain selector each: an element's name, `.class` or `#id`; others are passed by. */
const rulesOf = (css: string): [string, Look][] =>
  [...css.replace(/\/\*[\s\S]*?\*\//g, '').matchAll(/([^{}]+)\{([^{}]*)\}/g)].flatMap(([, selectors, body]) =>
    selectors!.split(',').map((s): [string, Look] => [s.trim().toLowerCase(), declared(body!)]),
  );

/** How an element is drawn: attributes, then rules from the weakest selector on, then its own style [CSS 2.2, 6.4.3]. */
const lookOf = (name: string, a: Readonly<Record<string, string>>, rules: readonly [string, Look][]): Look => {
  const own: Record<string, string> = {};
  for (const key of LOOKS) if (a[key] !== undefined) own[key] = a[key].trim().toLowerCase();
  const classes = (a.class ?? '').toLowerCase().split(/\s+/);
  const strength = (s: string): number =>
    s === name ? 1 : s.startsWith('.') && classes.includes(s.slice(1)) ? 2 : a.id && s === `#${a.id.toLowerCase()}` ? 3 : 0; // prettier-ignore
  const met = rules.filter(([s]) => strength(s) > 0).sort(([p], [q]) => strength(p) - strength(q));
  return Object.assign(own, ...met.map(([, look]) => look), declared(a.style ?? ''));
};

const numbers = (text: string): number[] => (text.match(/[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?/gi) ?? []).map(Number);

const tooMany = (): Refusal =>
  new Refusal(`The file has more than ${OUTLINE_LIMITS.contours} shapes or ${OUTLINE_LIMITS.vertices} points.`);

/**
 * Curves of one path as polylines in user units.
 *
 * @param chord greatest chord error, user units
 * @param most points that the file may still have; a path that wants more is given up there
 */
const pathContours = (d: string, transform: string, chord: number, most: number): Contour[] => {
  const out: Contour[] = [];
  let points = 0;
  let line: Vec[] = [];
  const close = (closed: boolean): void => {
    const first = line[0];
    const last = line[line.length - 1];
    if (first && last && line.length > 2 && Math.hypot(first.x - last.x, first.y - last.y) < 1e-6)
      out.push(polyline(line.slice(0, -1), true));
    else if (line.length >= 2) out.push(polyline(line, closed));
    line = [];
  };
  const parsed = svgpath(d);
  const error = (parsed as unknown as { err: string }).err;
  if (error) throw new Refusal(`A path cannot be read: ${error}.`);
  parsed
    .transform(transform)
    .abs()
    .unshort()
    .unarc()
    .iterate((s, _i, x, y) => {
      const v = s.slice(1) as number[];
      const curve = (at: (t: number) => Vec, size: number): void => {
        const steps = Math.max(4, Math.min(400, Math.ceil(Math.sqrt(size / (8 * chord)) * 2)));
        for (let i = 1; i <= steps; i += 1) line.push(at(i / steps));
        points += steps;
      };
      switch (s[0]) {
        case 'M':
          close(false);
          line = [{ x: v[0]!, y: v[1]! }];
          break;
        case 'L':
          line.push({ x: v[0]!, y: v[1]! });
          break;
        case 'H':
          line.push({ x: v[0]!, y });
          break;
        case 'V':
          line.push({ x, y: v[0]! });
          break;
        case 'Q':
          curve(
            (t) => ({
              x: (1 - t) ** 2 * x + 2 * t * (1 - t) * v[0]! + t * t * v[2]!,
              y: (1 - t) ** 2 * y + 2 * t * (1 - t) * v[1]! + t * t * v[3]!,
            }),
            Math.hypot(v[2]! - x, v[3]! - y) + Math.hypot(v[0]! - x, v[1]! - y),
          );
          break;
        case 'C':
          curve(
            (t) => ({
              x: (1 - t) ** 3 * x + 3 * t * (1 - t) ** 2 * v[0]! + 3 * t * t * (1 - t) * v[2]! + t ** 3 * v[4]!,
              y: (1 - t) ** 3 * y + 3 * t * (1 - t) ** 2 * v[1]! + 3 * t * t * (1 - t) * v[3]! + t ** 3 * v[5]!,
            }),
            Math.hypot(v[4]! - x, v[5]! - y) +
              Math.hypot(v[0]! - x, v[1]! - y) +
              Math.hypot(v[4]! - v[2]!, v[5]! - v[3]!),
          );
          break;
        case 'Z':
          close(true);
          break;
        default:
          break;
      }
      points += 1;
      if (points > most) throw tooMany();
      const far = line[line.length - 1];
      if (far && !(Number.isFinite(far.x) && Number.isFinite(far.y)))
        throw new Refusal('A path has a coordinate that is not a finite number.');
    });
  close(false);
  return out;
};

/** Shapes as path data, so that transforms are applied in one place. */
const shapePath = (name: string, a: Readonly<Record<string, string>>): string | null => {
  const n = (key: string): number => Number.parseFloat(a[key] ?? '0') || 0;
  switch (name) {
    case 'path':
      return a.d ?? '';
    case 'rect': {
      if (n('width') <= 0 || n('height') <= 0) return '';
      const r = Math.min(n('rx') || n('ry'), n('width') / 2, n('height') / 2);
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
      return r > 0
        ? `M${x + r} ${y}H${x + w - r}A${r} ${r} 0 0 1 ${x + w} ${y + r}V${y + h - r}A${r} ${r} 0 0 1 ${x + w - r} ${y + h}H${x + r}A${r} ${r} 0 0 1 ${x} ${y + h - r}V${y + r}A${r} ${r} 0 0 1 ${x + r} ${y}Z`
        : `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
    }
    case 'circle':
    case 'ellipse': {
      const rx = name === 'circle' ? n('r') : n('rx');
      const ry = name === 'circle' ? n('r') : n('ry');
      if (rx <= 0 || ry <= 0) return '';
      return `M${n('cx') - rx} ${n('cy')}A${rx} ${ry} 0 1 0 ${n('cx') + rx} ${n('cy')}A${rx} ${ry} 0 1 0 ${n('cx') - rx} ${n('cy')}Z`;
    }
    case 'polygon':
    case 'polyline':
    case 'line': {
      const p = name === 'line' ? [n('x1'), n('y1'), n('x2'), n('y2')] : numbers(a.points ?? '');
      if (p.length < 4) return '';
      const pairs = Array.from({ length: Math.floor(p.length / 2) }, (_, i) => `${p[2 * i]} ${p[2 * i + 1]}`);
      return `M${pairs.join('L')}${name === 'polygon' ? 'Z' : ''}`;
    }
    default:
      return null;
  }
};

/**
 * Reads the outline of a blank from an SVG: paths and basic shapes with their transforms, in real
 * millimetres by the drawing's width and viewBox. Scripts, entities, pictures and references are
 * refused; text is ignored and said so.
 *
 * @returns contours with y up, or a problem naming the line
 */
export const readSvgOutline = (text: string, wanted: Wanted = 'outline'): Result<OutlineFile> => {
  if (text.length > OUTLINE_LIMITS.bytes)
    return fail(
      'too-large',
      `The file is ${(text.length / 1e6).toFixed(1)} MB; at most ${OUTLINE_LIMITS.bytes / 1e6} MB are read. Keep only the outline in it.`,
      'file',
    );
  if (/<!ENTITY/i.test(text))
    return fail('entities', 'The file defines entities, which Bistre does not read. Save it as a plain SVG.', 'file');
  const contours: Contour[] = [];
  const strokes: Contour[] = [];
  let unseen = 0;
  const looks: Look[] = [DEFAULT_LOOK];
  const rules = rulesOf([...text.matchAll(/<(?:\w+:)?style[^>]*>([\s\S]*?)<\/(?:\w+:)?style>/gi)].map((m) => m[1]!.replace(/<!\[CDATA\[|\]\]>/g, '')).join('\n')); // prettier-ignore
  const notes = new Set<string>();
  const transforms: string[] = [];
  let unit: OutlineFile['unit'] = 'unstated';
  let scale = MM_PER['']!;
  let hidden = 0;
  let vertices = 0;
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw new Refusal(`The file is not complete XML: ${error.message.replace(/^\d+:\d+: /, '')}`);
  });
  parser.on('opentag', (tag) => {
    const name = tag.name.toLowerCase().replace(/^.*:/, '');
    const a = tag.attributes as Record<string, string>;
    if (REFUSED.has(name))
      throw new Refusal(
        name === 'use'
          ? 'The file uses references (use). Expand them before saving.'
          : `The file contains <${name}>, which Bistre does not read.`,
      );
    if (Object.keys(a).some((key) => /^on/i.test(key))) throw new Refusal('The file contains a script.');
    transforms.push(a.transform ?? '');
    // Not displayed is the whole of a group; all else of its look its parts may say anew.
    const above = looks[looks.length - 1]!;
    const own = lookOf(name, a, rules);
    const look = { ...above, ...own, ...(above.display === 'none' ? { display: 'none' } : {}) };
    looks.push(look);
    if (transforms.length > OUTLINE_LIMITS.depth)
      throw new Refusal(`The file is nested more than ${OUTLINE_LIMITS.depth} deep.`);
    if (name === 'svg' && transforms.length === 1) {
      const size = /^\s*([\d.]+)\s*(mm|cm|in|pt|pc|px)?\s*$/.exec(a.width ?? '');
      const box = numbers(a.viewBox ?? '');
      const given = size?.[2];
      if (given === 'mm' || given === 'cm' || given === 'in') unit = given;
      else if (given === 'px') unit = 'px';
      const real = size ? Number(size[1]) * MM_PER[given ?? '']! : 0;
      if (box.length === 4 && box[2]! > 0 && real > 0) scale = real / box[2]!;
      return;
    }
    if (['defs', 'clippath', 'mask', 'symbol', 'pattern', 'marker'].includes(name)) hidden += 1;
    if (name === 'text') notes.add('Text is not part of an outline and was left out.');
    if (hidden > 0) return;
    const d = shapePath(name, a);
    if (d === null || d === '') return;
    const found = pathContours(
      d,
      transforms.filter(Boolean).join(' '),
      0.005 / scale,
      OUTLINE_LIMITS.vertices - vertices,
    );
    for (const c of found) vertices += c.vertices.length;
    const shown = look.display !== 'none' && look.visibility !== 'hidden' && look.visibility !== 'collapse';
    const [fills, strokesIt] = [look.fill, look.stroke].map((paint) => paint !== 'none' && paint !== 'transparent');
    // How a blank's outline is painted says nothing; whether it is seen does.
    if (!shown || (wanted === 'lines' && !fills && !strokesIt)) unseen += 1;
    else (fills ? contours : strokes).push(...found);
    if (contours.length + strokes.length > OUTLINE_LIMITS.contours) throw tooMany();
  });
  parser.on('closetag', (tag) => {
    transforms.pop();
    looks.pop();
    if (['defs', 'clippath', 'mask', 'symbol', 'pattern', 'marker'].includes(tag.name.toLowerCase())) hidden -= 1;
  });
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Refusal)
      return fail('unreadable-svg', `Line ${parser.line}: ${error.message}`, `line ${parser.line}`);
    throw error;
  }
  if (unit === 'unstated' || unit === 'px')
    notes.add('The file does not state a real unit; 96 dots to the inch were taken.');
  if (unseen > 0) notes.add(`${unseen === 1 ? 'A shape is' : `${unseen} shapes are`} not seen in the file (hidden, or without fill and line) and left out.`); // prettier-ignore
  const scaled = (from: readonly Contour[]): Contour[] =>
    from.map((c) => ({
      closed: c.closed,
      vertices: c.vertices.map((v) => ({ x: v.x * scale, y: -v.y * scale })),
    }));
  // Blanks' outlines may be in pieces of either kind; of art each keeps to its own.
  if (wanted === 'outline') return finishOutline(joinOpen(scaled([...contours, ...strokes])), unit, [...notes]);
  // What is filled is filled as if it were closed [SVG 2, 13.3].
  const areas = joinOpen(scaled(contours)).map((c) => ({ ...c, closed: c.closed || c.vertices.length > 2 }));
  return finishOutline([...areas, ...joinOpen(scaled(strokes))], unit, [...notes], wanted, new Set(areas));
};
