import type { BatchDocument } from '@bistre/contract';
import {
  counted,
  kindsOf,
  layPages,
  OVERLAP,
  pieceCount,
  type BatchInput,
  type BatchReckoning,
  type Contour,
  type OnPage,
  type Ordinal,
  type Page,
  type PieceShapes,
  type Transform,
} from '@bistre/core';
import { bar, draw, INK, line, LOGWOOD, PAGE, PT, SOFT, start, type Doc } from './paper';
import { lookOf } from './look';
import { shadesOn, type Shades } from './shades';

const SHEET: Page = { ...PAGE, first: 76, top: 24 };
/** A row of the table of names, and how many go beside each other, mm. */
const ROW = 4.4;

/** What stands on the proof beside the pieces. */
export interface ProofFacts {
  readonly title: string;
  readonly customer: string;
  /** When it was made, as a date. */
  readonly on: string;
  /** Each kind once, or every piece. */
  readonly every: boolean;
  /** What of the Shelf is on it, with its revision. */
  readonly artworks: readonly { readonly name: string; readonly revision: number }[];
  readonly columns: readonly string[];
  /** How it stands with the customer; the proof says which revision it is. */
  readonly approval?: BatchDocument['approval'];
}

/** What is drawn: a piece, and how many are like it. */
interface Shown {
  readonly ordinal: Ordinal | null;
  readonly words: string;
  /** Which of the sides. */
  readonly side: number;
}

/** A side of the pieces as it was reckoned. */
export interface Side {
  readonly input: BatchInput;
  readonly reckoning: BatchReckoning;
}
const SIDES = ['front', 'back'];

type Piece = Omit<Shown, 'side'>;
const shownOn = (input: BatchInput, r: BatchReckoning, every: boolean, back: BatchReckoning | undefined): Piece[] => {
  const pieces = r.art?.pieces ?? [];
  if (pieces.length === 0) return [{ ordinal: null, words: pieceCount(input.quantity) }];
  if (every) return pieces.map((p) => ({ ordinal: p.piece, words: `${p.piece} ${p.label}`.trim() }));
  return kindsOf(r.art!, back?.art).map(({ first, pieces: like }) => ({
    ordinal: first,
    words: like.length === 1 ? `piece ${first}` : `piece ${first} and ${like.length - 1} like it`,
  }));
};

/** A line to write on, and what belongs there. */
const toFill = (doc: Doc, x: number, y: number, width: number, label: string): void => {
  doc.lineWidth(0.5).strokeColor(INK).moveTo(x * PT, y * PT).lineTo((x + width) * PT, y * PT).stroke(); // prettier-ignore
  line(doc, x, y + 1, label, { size: 7, width, soft: true });
};

/** Which revision of the proof it is. */
const revised = ({ approval }: ProofFacts): string => (approval ? ` revision ${approval.revision}` : '');

/** The head of the first page: what it is of, how it is checked, and where it is signed. */
const head = (doc: Doc, input: BatchInput, facts: ProofFacts, shown: number, words = ''): void => {
  const { margin } = PAGE;
  line(doc, margin, 14, `${facts.title}: proof${revised(facts)}, true size`, { size: 14, bold: true });
  const of = [facts.customer, `${pieceCount(input.quantity)} of ${input.blank.name}`, facts.on].filter(Boolean);
  line(doc, margin, 21, of.join(' · '), { size: 9 });
  const art = facts.artworks.map((a) => `${a.name} r${a.revision}`);
  line(doc, margin, 26, [art.length > 0 ? `Art: ${art.join(', ')}.` : 'Lettering only.', words].filter(Boolean).join(' '), { size: 9, soft: true }); // prettier-ignore
  const what = facts.every ? 'Every piece is shown.' : `${counted(shown, 'kind')} of ${pieceCount(input.quantity)} shown once; all names stand in the table at the end.`; // prettier-ignore
  line(doc, margin, 31, what, { size: 9, soft: true });
  line(doc, margin, 35.5, 'Print at 100 %, without fitting to the page. The bar below is then 100.0 mm long.', { size: 9, soft: true }); // prettier-ignore
  bar(doc, margin, 43, 100, '100 mm');
  const { given, differences } = facts.approval ?? { given: null, differences: 0 };
  if (given && differences === 0)
    line(doc, margin + 104, 43, `Approved by ${given.signedBy} on ${given.at.slice(0, 10)}.`, { size: 9, bold: true });
  line(doc, margin, 52, 'Approved as shown, every name read, with these corrections:', { size: 9 });
  toFill(doc, margin + 98, 55.5, 82, 'corrections');
  toFill(doc, margin, 67, 60, 'name');
  toFill(doc, margin + 66, 67, 66, 'signature');
  toFill(doc, margin + 138, 67, 42, 'date');
};

const foot = (doc: Doc, title: string, page: number, pages: number): void => {
  const { bottom } = doc.page.margins;
  doc.page.margins.bottom = 0;
  line(doc, PAGE.margin, PAGE.height - 9, `${title} · page ${page} of ${pages}`, { soft: true });
  doc.page.margins.bottom = bottom;
};

/** Crosses and dashes where the next sheet joins, and its letter. */
const joints = (doc: Doc, part: NonNullable<OnPage['part']>): void => {
  const { column, row, columns, rows, left, top, width, height } = part;
  const dashed = (x1: number, y1: number, x2: number, y2: number): void => {
    doc.lineWidth(0.3).strokeColor(SOFT).dash(4, { space: 3 }).moveTo(x1 * PT, y1 * PT).lineTo(x2 * PT, y2 * PT).stroke().undash(); // prettier-ignore
    for (const [x, y] of [[x1, y1], [x2, y2]] as const) // prettier-ignore
      doc.lineWidth(0.6).moveTo((x - 2) * PT, y * PT).lineTo((x + 2) * PT, y * PT).moveTo(x * PT, (y - 2) * PT).lineTo(x * PT, (y + 2) * PT).stroke(); // prettier-ignore
  };
  const across = (n: number): string => `joint ${String.fromCharCode(65 + n)}`;
  // Both sheets have the same line: the middle of what they share.
  const right = left + width - OVERLAP / 2;
  const low = top + height - OVERLAP / 2;
  if (column < columns - 1) dashed(right, top, right, top + height);
  if (column > 0) dashed(left + OVERLAP / 2, top, left + OVERLAP / 2, top + height);
  if (row < rows - 1) dashed(left, low, left + width, low);
  if (row > 0) dashed(left, top + OVERLAP / 2, left + width, top + OVERLAP / 2);
  const joins = [
    column > 0 ? `${across(column - 1)} at the left` : '',
    column < columns - 1 ? `${across(column)} at the right` : '',
    row > 0 ? `row ${row} above` : '',
    row < rows - 1 ? `row ${row + 2} below` : '',
  ].filter(Boolean);
  line(doc, PAGE.margin, 18, `Lay crosses on crosses: ${joins.join(', ')}.`, { soft: true });
};

const asContours = (lines: readonly (readonly { x: number; y: number }[])[], closed: boolean): Contour[] =>
  lines.map((vertices) => ({ closed, vertices }));

/** Draws one piece, or the part of it that its page shows. */
const drawPiece = (
  doc: Doc,
  on: OnPage,
  outline: readonly Contour[],
  shapes: PieceShapes | null,
  lay: ReturnType<typeof shadesOn>,
): void => {
  const place: Transform = on.turned
    ? { a: 0, b: -PT, c: -PT, d: 0, e: on.x * PT, f: on.y * PT }
    : { a: PT, b: 0, c: 0, d: -PT, e: on.x * PT, f: on.y * PT };
  doc.save();
  if (on.part) doc.rect(on.part.left * PT, on.part.top * PT, on.part.width * PT, on.part.height * PT).clip();
  draw(doc, outline, place, { stroke: SOFT, width: 0.35 });
  for (const p of shapes?.pictures ?? []) lay(p, place);
  if (shapes) {
    draw(doc, asContours(shapes.filled, true), place, { fill: INK });
    draw(doc, asContours(shapes.drawn, false), place, { stroke: INK, width: 0.3 });
    draw(doc, asContours(shapes.cut ?? [], false), place, { stroke: LOGWOOD, width: 0.35 });
  }
  doc.restore();
};

/** Names in a table, as many blocks beside each other as have room; as many pages as they take. */
const tableOf = (input: BatchInput, columns: readonly string[]) => {
  const blocks = columns.length <= 1 ? 3 : columns.length <= 3 ? 2 : 1;
  const rows = Math.floor((PAGE.height - 2 * PAGE.margin - 22) / ROW);
  const pages = columns.length === 0 ? 0 : Math.ceil(input.roster.length / (rows * blocks));
  const width = (PAGE.width - 2 * PAGE.margin - 6 * (blocks - 1)) / blocks;
  const cell = (width - 10) / Math.max(1, columns.length);
  const print = (doc: Doc, page: number): void => {
    line(doc, PAGE.margin, 14, 'What stands on each piece', { size: 11, bold: true });
    for (let b = 0; b < blocks; b += 1) {
      const from = (page * blocks + b) * rows;
      if (from >= input.roster.length) break;
      const x = PAGE.margin + b * (width + 6);
      columns.forEach((c, k) => line(doc, x + 10 + k * cell, 22, c, { width: cell - 1, soft: true }));
      input.roster.slice(from, from + rows).forEach((row, i) => {
        const y = 27 + i * ROW;
        line(doc, x, y, String(from + i + 1), { width: 9, soft: true });
        columns.forEach((c, k) => line(doc, x + 10 + k * cell, y, row[c] ?? '', { width: cell - 1 }));
      });
    }
  };
  return { pages, print };
};

/**
 * What the customer is shown and signs: each kind of piece once, or every piece, in true size over as many pages of A4 as
 * it takes, then all names; with a bar to measure, revisions and a line to sign. A piece larger than a page goes over
 * several, with joints.
 * @param pictures that pieces carry
 * @param back the other side of the pieces, where there is one
 */
export const proofSheet = (
  input: BatchInput,
  r: BatchReckoning,
  facts: ProofFacts,
  pictures: Shades = new Map(),
  back?: Side,
): Promise<Buffer> => {
  const { doc, done } = start(`${facts.title}: proof`);
  const sides = back ? [lookOf(input, r), lookOf(back.input, back.reckoning)] : [lookOf(input, r)];
  const { size, words } = sides[0]!;
  const pieces = shownOn(input, r, facts.every, back?.reckoning);
  const shown = pieces.flatMap((p) => sides.map((_, side): Shown => ({ ...p, side, words: back ? `${p.words}, ${SIDES[side]}` : p.words }))); // prettier-ignore
  const { laid, pages } = layPages(size, shown.length, SHEET);
  const table = tableOf(input, facts.columns);
  const all = pages + table.pages;
  const lay = shadesOn(doc, pictures);
  head(doc, input, facts, pieces.length, back ? `${words ?? ''} Both faces of each are shown.`.trim() : words);
  let at = 0;
  for (let page = 0; page < pages; page += 1) {
    if (page > 0) doc.addPage();
    for (; laid[at]?.page === page; at += 1) {
      const on = laid[at]!;
      const { ordinal, words: label, side } = shown[on.piece]!;
      const { outline, shapesOf } = sides[side]!;
      drawPiece(doc, on, outline, ordinal === null ? null : shapesOf(ordinal), lay);
      if (on.part) {
        joints(doc, on.part);
        line(doc, PAGE.margin, 13, `${label}, sheet ${on.part.row * on.part.columns + on.part.column + 1} of ${on.part.columns * on.part.rows}`, { bold: true }); // prettier-ignore
      } else {
        const [across, down] = on.turned ? [size.width, size.length] : [size.length, size.width];
        line(doc, on.x - across / 2, on.y + down / 2 + 1, label, { size: 7, width: Math.max(20, across), soft: true });
      }
    }
    foot(doc, `${facts.title} · proof${revised(facts)}`, page + 1, all);
  }
  for (let page = 0; page < table.pages; page += 1) {
    doc.addPage();
    table.print(doc, page);
    foot(doc, `${facts.title} · proof${revised(facts)}`, pages + page + 1, all);
  }
  doc.end();
  return done;
};
