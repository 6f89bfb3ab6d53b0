/** Rules of a style sheet with one plain selector each: an element's name, `.class` or `#id`. */
type Rule = readonly [selector: string, properties: Readonly<Record<string, string>>];

const declared = (text: string): Record<string, string> => {
  const out: Record<string, string> = {};
  for (const part of text.split(';')) {
    const i = part.indexOf(':');
    if (i > 0) out[part.slice(0, i).trim().toLowerCase()] = part.slice(i + 1).replace(/\s*!important\s*$/, '').trim(); // prettier-ignore
  }
  return out;
};

/** Every rule of a style sheet whose selector is that plain; others are passed by. */
export const rulesOf = (css: string): readonly Rule[] =>
  [...css.replace(/\/\*[\s\S]*?\*\//g, '').matchAll(/([^{}]+)\{([^{}]*)\}/g)].flatMap(([, selectors, body]) =>
    selectors!.split(',').map((s): Rule => [s.trim(), declared(body!)]),
  );

/** One property of an element by rules from the weakest selector on, then its own style [CSS 2.2, 6.4.3]. */
export const propertyOf = (
  property: string,
  name: string,
  a: Readonly<Record<string, string>>,
  rules: readonly Rule[],
): string | undefined => {
  const classes = (a['class'] ?? '').split(/\s+/);
  const strength = (s: string): number =>
    s === name || s === '*'
      ? 1
      : s.startsWith('.') && classes.includes(s.slice(1))
        ? 2
        : a['id'] && s === `#${a['id']}`
          ? 3
          : 0;
  const met = rules
    .filter(([s, p]) => p[property] !== undefined && strength(s) > 0)
    .sort(([p], [q]) => strength(p) - strength(q));
  return declared(a['style'] ?? '')[property] ?? met.at(-1)?.[1][property];
};

const PX_PER: Readonly<Record<string, number>> = { px: 1, '': 1, mm: 96 / 25.4, cm: 96 / 2.54, in: 96, pt: 4 / 3, pc: 16, q: 96 / 101.6 }; // prettier-ignore
const DEGREES_PER: Readonly<Record<string, number>> = { deg: 1, '': 1, rad: 180 / Math.PI, grad: 0.9, turn: 360 };

/** A CSS length as user units; null for percent and whatever depends on type. */
export const cssLength = (text: string): number | null => {
  const m = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text);
  const per = m && PX_PER[m[2]!.toLowerCase()];
  return per === undefined || per === null ? null : Number(m![1]) * per;
};

const cssAngle = (text: string): number | null => {
  const m = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z]*)\s*$/i.exec(text);
  const per = m && DEGREES_PER[m[2]!.toLowerCase()];
  return per === undefined || per === null ? null : Number(m![1]) * per;
};

/** One function of a CSS transform as SVG writes it; null where it cannot be. */
const asAttribute = (name: string, args: readonly string[]): string | null => {
  const lengths = args.map(cssLength);
  const [a, b] = lengths;
  if (name === 'rotate') {
    const turn = cssAngle(args[0] ?? '');
    return turn === null ? null : `rotate(${turn})`;
  }
  if (name === 'skewx' || name === 'skewy') {
    const lean = cssAngle(args[0] ?? '');
    return lean === null ? null : `${name === 'skewx' ? 'skewX' : 'skewY'}(${lean})`;
  }
  if (a === null || a === undefined || lengths.some((v) => v === null)) return null;
  switch (name) {
    case 'translate':
      return `translate(${a} ${b ?? 0})`;
    case 'translatex':
      return `translate(${a} 0)`;
    case 'translatey':
      return `translate(0 ${a})`;
    case 'scale':
      return `scale(${a} ${b ?? a})`;
    case 'scalex':
      return `scale(${a} 1)`;
    case 'scaley':
      return `scale(1 ${a})`;
    case 'matrix':
      return lengths.length === 6 ? `matrix(${lengths.join(' ')})` : null;
    default:
      return null;
  }
};

/**
 * A CSS `transform` as the attribute of that name [CSS Transforms 1, 8 and 9].
 *
 * @returns null where it turns about or moves by what nobody can reckon here: percent, perspective, three dimensions
 * @example transformAttribute('translate(2mm, 3px) rotate(0.25turn)') // 'translate(7.559 3) rotate(90)'
 */
export const transformAttribute = (css: string): string | null => {
  if (css.trim() === 'none') return '';
  const parts = [...css.matchAll(/([a-z0-9]+)\s*\(([^)]*)\)/gi)];
  if (parts.length === 0 || css.replace(/([a-z0-9]+)\s*\(([^)]*)\)/gi, '').trim() !== '') return null;
  const out = parts.map(([, name, args]) => asAttribute(name!.toLowerCase(), args!.split(/[\s,]+/).filter(Boolean)));
  return out.some((p) => p === null) ? null : out.join(' ');
};
