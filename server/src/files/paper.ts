import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';
import { svgPath, type Contour, type Transform, type WorkedLine } from '@bistre/core';

const resolver = createRequire(import.meta.url);
const font = (file: string): Buffer => readFileSync(resolver.resolve(`@fontsource/${file}-normal.woff`));
const FONTS = {
  text: font('b612/files/b612-latin-400'),
  'text bold': font('b612/files/b612-latin-700'),
  greek: font('eb-garamond/files/eb-garamond-greek-400'),
  'greek bold': font('eb-garamond/files/eb-garamond-greek-700'),
};

/** Points to a millimetre: a PDF unit is 1/72 in. */
export const PT = 72 / 25.4;
export const INK = '#241A13';
export const SOFT = '#6B5E54';
/** Of what is cut. */
export const LOGWOOD = '#5B3A78';
export const PAGE = { width: 210, height: 297, margin: 15 };

export type Doc = InstanceType<typeof PDFDocument>;

export const start = (title: string, size: 'A4' | [number, number] = 'A4'): { doc: Doc; done: Promise<Buffer> } => {
  const doc = new PDFDocument({
    size,
    margin: PAGE.margin * PT,
    info: { Title: title, Creator: 'Bistre', Producer: 'Bistre' },
    bufferPages: true,
  });
  for (const [name, bytes] of Object.entries(FONTS)) doc.registerFont(name, bytes);
  doc.font('text').fillColor(INK);
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  return { doc, done: new Promise((resolve) => doc.on('end', () => resolve(Buffer.concat(parts)))) };
};

export const heading = (doc: Doc, text: string): void => {
  if (doc.y > (PAGE.height - 45) * PT) doc.addPage();
  doc.moveDown(0.8);
  const y = doc.y;
  doc
    .moveTo(PAGE.margin * PT, y)
    .lineTo((PAGE.width - PAGE.margin) * PT, y)
    .lineWidth(0.8)
    .strokeColor(INK)
    .stroke();
  doc
    .font('text bold')
    .fontSize(10)
    .fillColor(SOFT)
    .text(text.toUpperCase(), PAGE.margin * PT, y + 4, { characterSpacing: 0.8 });
  doc.font('text').fontSize(9.5).fillColor(INK).moveDown(0.3);
};

/** Signs that no shipped typeface has, written so that they read the same. */
const WRITTEN: readonly (readonly [string, string])[] = [
  ['−', '-'],
  ['≤', '<='],
  ['≥', '>='],
  ['√', 'sqrt '],
  ['∞', 'infinity'],
  ['∫', 'integral '],
  ['→', 'to'],
  ['⌈', 'round up('],
  ['⌉', ')'],
  ['ᵀ', '^T'],
  ['⁄', '/'],
  ['″', '"'],
  ['⅛', '1/8'],
  ['⅜', '3/8'],
  ['⅝', '5/8'],
  ['⅞', '7/8'],
  ['⅓', '1/3'],
  ['⅔', '2/3'],
  ...[...'₀₁₂₃₄₅₆₇₈₉'].map((c, i) => [c, String(i)] as const),
];

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹⁻';

/** Text that the shipped typefaces can set between them: means by name, powers that they lack after a caret. */
export const plain = (text: string): string =>
  WRITTEN.reduce((t, [sign, words]) => t.replaceAll(sign, words), text)
    .normalize('NFD')
    .replace(/(\p{L})\u0304/gu, 'mean $1')
    .normalize('NFC')
    .replace(
      new RegExp(`[${RAISED}]*[⁰⁴-⁹⁻][${RAISED}]*`, 'g'),
      (run) => `^${[...run].map((c) => '0123456789-'[RAISED.indexOf(c)]).join('')}`,
    );

/** Greek letters, which another typeface sets. */
const GREEK = /[\u0370-\u03ff]+/;

/**
 * Text with all its signs: Greek letters are set from the typeface that has them.
 * @param at where it begins, points; below what was written last when absent
 */
export const say = (
  doc: Doc,
  text: string,
  { bold = false, at }: { bold?: boolean; at?: readonly [number, number] } = {},
): void => {
  const runs = plain(text)
    .split(new RegExp(`(${GREEK.source})`))
    .filter((run) => run !== '');
  runs.forEach((run, i) => {
    doc.font(`${GREEK.test(run) ? 'greek' : 'text'}${bold ? ' bold' : ''}`);
    const options = { continued: i < runs.length - 1 };
    if (i === 0 && at) doc.text(run, at[0], at[1], options);
    else doc.text(run, options);
  });
  doc.font('text');
};

/** Text cut to a width, points, with a sign that it was; measured in the doc’s typeface. */
const cutTo = (doc: Doc, text: string, width: number): string => {
  if (doc.widthOfString(text) <= width) return text;
  let length = text.length;
  while (length > 0 && doc.widthOfString(`${text.slice(0, length)}…`) > width) length = Math.floor(length * 0.9);
  return `${text.slice(0, length)}…`;
};

/**
 * One line of words from a point on, mm; cut where it has no room.
 * @param size of the letters, points
 */
export const line = (
  doc: Doc,
  x: number,
  y: number,
  text: string,
  { size = 8, width = PAGE.width - 2 * PAGE.margin, bold = false, soft = false, middle = false } = {},
): void => {
  doc.font(bold ? 'text bold' : 'text').fontSize(size).fillColor(soft ? SOFT : INK); // prettier-ignore
  const fits = cutTo(doc, plain(text), width * PT);
  const from = middle ? (width * PT - doc.widthOfString(fits)) / 2 : 0;
  // Without a width it is not laid out by lines, which for twenty thousand names takes most of the time.
  doc.text(fits, x * PT + from, y * PT, { lineBreak: false }).fillColor(INK);
};

export const workings = (doc: Doc, lines: readonly WorkedLine[]): void => {
  for (const l of lines) {
    doc.fontSize(9);
    say(doc, `${l.label}: ${l.result}`, { bold: true });
    doc.fontSize(8).fillColor(SOFT);
    say(doc, `${l.formula} = ${l.substituted}  (${l.basis})`);
    doc.fillColor(INK);
  }
};

/** A contour of straight strokes as a PDF writes it, to a thousandth of a point [ISO 32000-1, 8.5.2]. */
const operatorsOf = ({ closed, vertices }: Contour, { a, b, c, d, e, f }: Transform): string => {
  const n = (v: number): string => String(Math.round(v * 1000) / 1000);
  const points = vertices.map(
    ({ x, y }, i) => `${n(a * x + c * y + e)} ${n(b * x + d * y + f)} ${i === 0 ? 'm' : 'l'}`,
  );
  return `${points.join('\n')}${closed ? '\nh' : ''}`;
};

/** Draws contours given in millimetres with y up into a box of the page. */
export const draw = (
  doc: Doc,
  contours: readonly Contour[],
  place: Transform,
  style: { stroke?: string; fill?: string; width?: number },
): void => {
  if (contours.length === 0) return;
  const bowed = contours.filter((c) => c.vertices.some((v) => v.bulge));
  const straight = bowed.length === 0 ? contours : contours.filter((c) => !bowed.includes(c));
  if (bowed.length > 0) doc.path(bowed.map((c) => svgPath(c, place)).join(' '));
  // Letters are thousands of straight strokes: written at once, they need not be read as a path first.
  if (straight.length > 0) doc.addContent(straight.map((c) => operatorsOf(c, place)).join('\n'));
  if (style.fill) doc.fillColor(style.fill).fill('non-zero');
  else
    doc
      .lineWidth(style.width ?? 0.4)
      .strokeColor(style.stroke ?? INK)
      .stroke();
  doc.fillColor(INK);
};

/** A bar of a whole number of millimetres, to measure after printing. */
export const bar = (doc: Doc, x: number, y: number, length: number, label: string): void => {
  doc.lineWidth(0.6).strokeColor(INK);
  doc
    .moveTo(x * PT, y * PT)
    .lineTo((x + length) * PT, y * PT)
    .stroke();
  for (const at of [0, length])
    doc
      .moveTo((x + at) * PT, (y - 2) * PT)
      .lineTo((x + at) * PT, (y + 2) * PT)
      .stroke();
  doc
    .font('text')
    .fontSize(8)
    .text(label, x * PT, (y + 2.5) * PT, { width: Math.max(length, 60) * PT, lineBreak: false });
};
