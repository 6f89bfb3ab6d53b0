import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';
import { svgPath, type Contour, type Transform, type WorkedLine } from '@bistre/core';

const resolver = createRequire(import.meta.url);
const font = (weight: 400 | 700): Buffer =>
  readFileSync(resolver.resolve(`@fontsource/b612/files/b612-latin-${weight}-normal.woff`));

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
  doc.registerFont('text', font(400));
  doc.registerFont('bold', font(700));
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
    .font('bold')
    .fontSize(10)
    .fillColor(SOFT)
    .text(text.toUpperCase(), PAGE.margin * PT, y + 4, { characterSpacing: 0.8 });
  doc.font('text').fontSize(9.5).fillColor(INK).moveDown(0.3);
};

/** Text the shipped font can set; figures and units always can. */
export const plain = (text: string): string =>
  text
    .replaceAll('−', '-')
    .replaceAll('≤', '<=')
    .replaceAll('√', 'sqrt ')
    .replaceAll('σ', 's')
    .replaceAll('χ²', 'chi²')
    .replaceAll('Σ', 'sum ')
    .replaceAll('ψ', 'yaw')
    .replaceAll('ν', 'v')
    .replaceAll('∞', 'inf')
    .replaceAll('γ', 'g')
    .replaceAll('₁', '1')
    .replaceAll('x̄', 'mean')
    .replaceAll('″', '"');

export const workings = (doc: Doc, lines: readonly WorkedLine[]): void => {
  for (const l of lines) {
    doc
      .font('bold')
      .fontSize(9)
      .text(plain(`${l.label}: ${l.result}`), { continued: false });
    doc
      .font('text')
      .fontSize(8)
      .fillColor(SOFT)
      .text(plain(`${l.formula} = ${l.substituted}  (${l.basis})`))
      .fillColor(INK);
  }
};

/** Draws contours given in millimetres with y up into a box of the page. */
export const draw = (
  doc: Doc,
  contours: readonly Contour[],
  place: Transform,
  style: { stroke?: string; fill?: string; width?: number },
): void => {
  const d = contours.map((c) => svgPath(c, place)).join(' ');
  if (d === '') return;
  doc.path(d);
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
