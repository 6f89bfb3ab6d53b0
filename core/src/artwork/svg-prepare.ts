import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { fail, ok, type Result } from '../result';
import { ART_LIMITS } from './art-file';
import { cssLength, propertyOf, rulesOf, transformAttribute } from './svg-css';
import { ellipsePath, roundedPath, withoutArcs } from './svg-curves';

/** What makes a drawing refused: it is data, not a program, and it stands alone. */
const REFUSED = new Set(['script', 'foreignobject', 'iframe', 'object', 'embed', 'animate', 'animatetransform', 'animatemotion', 'set']); // prettier-ignore

/** A drawing as it is given to what makes it plain, and what only its own text tells. */
export interface PreparedSvg {
  readonly text: string;
  readonly unit: 'mm' | 'in' | 'cm' | 'px' | 'unstated';
  /** Its width and height as its root says them, pixels of 1/96 in; null where it does not say both as lengths. */
  readonly size: { readonly width: number; readonly height: number } | null;
  readonly notes: readonly string[];
}

/** A reason to read no further. */
export class Refusal extends Error {}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

type Attributes = Readonly<Record<string, string>>;

const tagText = (name: string, a: Attributes): string =>
  `<${name}${Object.entries(a)
    .map(([k, v]) => ` ${k}="${escaped(v)}"`)
    .join('')}>`;

/** What of a style moves its element. */
const MOVED = /(?<![-\w])transform(-origin|-box)?\s*:[^;}]*;?/gi;

/** Elements whose words are seen. */
const READ = /^(\w+:)?(text|flowRoot)$/i;

const without = (a: Attributes, names: readonly string[]): Record<string, string> =>
  Object.fromEntries(Object.entries(a).filter(([k]) => !names.includes(k)));

/** Round shapes as paths of fine cubics, where their sizes are lengths; others are left to what makes the drawing plain. */
const asPath = (name: string, a: Attributes): Record<string, string> | null => {
  const given = (key: string): number | null => (a[key] === undefined ? null : cssLength(a[key]));
  const at = (key: string): number | null => (a[key] === undefined ? 0 : cssLength(a[key]));
  if (name === 'circle' || name === 'ellipse') {
    const [cx, cy] = [at('cx'), at('cy')];
    const [rx, ry] = name === 'circle' ? [given('r'), given('r')] : [given('rx'), given('ry')];
    if (cx === null || cy === null || !(rx && rx > 0) || !(ry && ry > 0)) return null;
    return { ...without(a, ['cx', 'cy', 'r', 'rx', 'ry']), d: withoutArcs(ellipsePath(cx, cy, rx, ry))! };
  }
  if (name !== 'rect' || (a['rx'] === undefined && a['ry'] === undefined)) return null;
  const [x, y, w, h] = [at('x'), at('y'), given('width'), given('height')];
  const [rx, ry] = [given('rx') ?? given('ry'), given('ry') ?? given('rx')];
  if (x === null || y === null || !(w && w > 0) || !(h && h > 0) || !(rx && rx > 0) || !(ry && ry > 0)) return null;
  return {
    ...without(a, ['x', 'y', 'width', 'height', 'rx', 'ry']),
    d: withoutArcs(roundedPath(x, y, w, h, Math.min(rx, w / 2), Math.min(ry, h / 2)))!,
  };
};

const unitOf = (width: string | undefined): PreparedSvg['unit'] => {
  const unit = /^\s*[\d.]+(?:e[+-]?\d+)?\s*(mm|cm|in|pt|pc|px)\s*$/i.exec(width ?? '')?.[1]?.toLowerCase();
  if (unit === 'mm' || unit === 'cm' || unit === 'in') return unit;
  if (unit === 'pt' || unit === 'pc') return 'in';
  return unit === 'px' ? 'px' : 'unstated';
};

/** What of a transform stands in styles, and about which place it turns, as one attribute. */
const placedBy = (name: string, a: Attributes, rules: ReturnType<typeof rulesOf>): string | null => {
  const css = propertyOf('transform', name, a, rules);
  const own = css === undefined ? (a['transform'] ?? '') : transformAttribute(css);
  if (own === null) throw new Refusal(`The transform “${css}” in its style cannot be read. Save the drawing with plain transforms.`); // prettier-ignore
  const about = propertyOf('transform-origin', name, a, rules) ?? a['transform-origin'];
  if (!about || own === '') return own === '' && a['transform'] === undefined ? null : own;
  const [x, y = '0'] = about.trim().split(/[\s,]+/);
  const [ox, oy] = [cssLength(x!), cssLength(y)];
  if (ox === null || oy === null) throw new Refusal(`The place “${about}” that a transform turns about cannot be read. Save the drawing with plain transforms.`); // prettier-ignore
  return ox === 0 && oy === 0 ? own : `translate(${ox} ${oy}) ${own} translate(${-ox} ${-oy})`;
};

/** Makes a drawing ready, tag by tag. */
class Preparing {
  readonly out: string[] = [];
  readonly notes = new Set<string>();
  readonly words: string[] = [];
  unit: PreparedSvg['unit'] = 'unstated';
  size: PreparedSvg['size'] = null;
  pictures = 0;
  /** Names of the elements that are open, as they were written. */
  private readonly names: string[] = [];
  private dropped = 0;
  private reading = 0;
  /** A style sheet that names round shapes by their kind is not disturbed: they stay what they are. */
  private readonly keepsKinds: boolean;

  constructor(
    private readonly rules: ReturnType<typeof rulesOf>,
    css: string,
  ) {
    this.keepsKinds = /(^|[\s,>+~}])(circle|ellipse|rect)\b/i.test(css);
  }

  open(tag: SaxesTagPlain): void {
    const name = tag.name.replace(/^svg:/, '');
    const plain = name.toLowerCase().replace(/^.*:/, '');
    const a = tag.attributes;
    if (REFUSED.has(plain)) throw new Refusal(`The file contains <${name}>, which Bistre does not read.`);
    if (Object.keys(a).some((key) => /^on/i.test(key))) throw new Refusal('The file contains a script.');
    if (this.names.length + this.dropped >= ART_LIMITS.depth)
      throw new Refusal(`The file is nested more than ${ART_LIMITS.depth} deep.`);
    const link = a['href'] ?? a['xlink:href'];
    if (plain === 'image' || plain === 'feimage') {
      if (plain === 'image') this.pictures += 1;
      this.dropped += 1;
      return;
    }
    if (this.dropped > 0) {
      this.dropped += 1;
      return;
    }
    if (link !== undefined && plain !== 'a' && !link.trim().startsWith('#')) throw new Refusal('The file refers to another file. Put all of it into one.'); // prettier-ignore
    if (READ.test(name)) this.reading += 1;
    const [written, own] = this.made(name, plain, a);
    this.names.push(written);
    this.out.push(tagText(written, own));
  }

  private made(name: string, plain: string, a: Attributes): readonly [string, Attributes] {
    if (plain === 'svg' && this.names.length === 0) {
      this.unit = unitOf(a['width']);
      const [width, height] = [cssLength(a['width'] ?? ''), cssLength(a['height'] ?? '')];
      this.size = width && height ? { width, height } : null;
      return ['svg', { xmlns: 'http://www.w3.org/2000/svg', 'xmlns:xlink': 'http://www.w3.org/1999/xlink', ...a }];
    }
    const turned = placedBy(plain, a, this.rules);
    const left = a['style'] === undefined ? a : { ...a, style: a['style'].replace(MOVED, '') };
    const own = turned === null ? left : { ...without(left, ['transform', 'transform-origin']), transform: turned };
    const shape = this.keepsKinds ? null : asPath(plain, own);
    if (shape) return ['path', shape];
    if (plain === 'path' && own['d'] !== undefined) {
      const d = withoutArcs(own['d']);
      if (d === null) throw new Refusal('A path cannot be read.');
      return [name, { ...own, d }];
    }
    return [name, own];
  }

  close(): void {
    if (this.dropped > 0) {
      this.dropped -= 1;
      return;
    }
    const name = this.names.pop()!;
    if (READ.test(name)) this.reading -= 1;
    this.out.push(`</${name}>`);
  }

  text(words: string): void {
    if (this.reading > 0 && words.trim() !== '') this.words.push(words.trim());
    // What a sheet moved is moved by attributes now.
    if (this.dropped === 0) this.out.push(escaped(this.names.at(-1) === 'style' ? words.replace(MOVED, '') : words));
  }
}

const quoted = (words: readonly string[]): string =>
  `${words.slice(0, 3).map((w) => `“${w.length > 40 ? `${w.slice(0, 39)}…` : w}”`).join(', ')}${words.length > 3 ? ` and ${words.length - 3} more` : ''}`; // prettier-ignore

/**
 * A drawing made ready to be made plain: transforms of its styles become attributes, round shapes and arcs become curves fine
 * enough to measure by, pictures are left out. Scripts, entities and references to other files are refused.
 *
 * @returns the drawing and what only its own text tells, or a problem naming the line
 */
export const prepareSvg = (text: string): Result<PreparedSvg> => {
  if (text.length > ART_LIMITS.bytes)
    return fail('too-large', `The file is ${(text.length / 1e6).toFixed(1)} MB; at most ${ART_LIMITS.bytes / 1e6} MB are read. Keep only what is engraved in it.`, 'file'); // prettier-ignore
  if (/<!ENTITY/i.test(text))
    return fail('entities', 'The file defines entities, which Bistre does not read. Save it as a plain SVG.', 'file');
  const css = [...text.matchAll(/<(?:\w+:)?style[^>]*>([\s\S]*?)<\/(?:\w+:)?style>/gi)].map((m) => m[1]!.replace(/<!\[CDATA\[|\]\]>/g, '')).join('\n'); // prettier-ignore
  const making = new Preparing(rulesOf(css), css);
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw new Refusal(`The file is not complete XML: ${error.message.replace(/^\d+:\d+: /, '')}`);
  });
  parser.on('opentag', (tag) => making.open(tag));
  parser.on('closetag', () => making.close());
  parser.on('text', (words) => making.text(words));
  parser.on('cdata', (words) => making.text(words));
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Refusal) return fail('unreadable-svg', `Line ${parser.line}: ${error.message}`, `line ${parser.line}`); // prettier-ignore
    throw error;
  }
  const { words, pictures, unit, size } = making;
  return ok({
    text: making.out.join(''),
    unit,
    size,
    notes: [
      ...(words.length > 0 ? [`Text is left out: ${quoted(words)}. Turn it into outlines where it was drawn, or carry it as lettering.`] : []), // prettier-ignore
      ...(pictures > 0 ? [`${pictures === 1 ? 'A picture' : `${pictures} pictures`} in the file ${pictures === 1 ? 'is' : 'are'} left out: bring ${pictures === 1 ? 'it' : 'them'} in by ${pictures === 1 ? 'itself' : 'themselves'}.`] : []), // prettier-ignore
    ],
  });
};
