import { boxHeight, boxOf, boxWidth, crossAt, flatten, targetOf, type BatchInput, type BatchReckoning, type Transform } from '@bistre/core'; // prettier-ignore
import { refused } from '../http/problem';
import { bar, draw, INK, line, LOGWOOD, PAGE, PT, SOFT, start } from './paper';

/** Left round the piece for its distances, mm. */
const ROUND = 14;

/**
 * What a single piece is aimed at by, in true size, to lay a piece on or to be laid under a small field: its outline, a
 * cross through the middle of what is burned on it, and how far that is from the edges that say most.
 */
export const targetSheet = (input: BatchInput, r: BatchReckoning, title: string): Promise<Buffer> => {
  const made = targetOf(input, r);
  if (!made.ok) throw refused(made.problem);
  const { outline, art, centre, edges, ordinal } = made.value;
  const box = boxOf(outline.flatMap((c) => flatten(c, 0.1)));
  const [length, width] = [boxWidth(box), boxHeight(box)];
  const { margin } = PAGE;
  const head = 30;
  // A page as large as the piece needs, and no smaller than A4: a target that is scaled is none.
  const page: [number, number] = [Math.max(PAGE.width, length + 2 * (margin + ROUND)), Math.max(PAGE.height, width + head + edges.length * 5 + 60)]; // prettier-ignore
  const { doc, done } = start(`${title}: target`, [page[0] * PT, page[1] * PT]);
  doc.page.margins = { top: 0, bottom: 0, left: 0, right: 0 };
  line(doc, margin, 13, `${title}: target of piece ${ordinal}, true size`, { size: 14, bold: true });
  line(doc, margin, 20, 'Lay the piece on its outline. The cross is the middle of what is burned: aim the middle of the field at it.', { size: 9, soft: true }); // prettier-ignore
  line(doc, margin, 24.5, `Piece ${length.toFixed(2)} × ${width.toFixed(2)} mm, the mean of those measured.`, { size: 9, soft: true }); // prettier-ignore
  const left = (page[0] - length) / 2;
  const place: Transform = { a: PT, b: 0, c: 0, d: -PT, e: (left - box.minX) * PT, f: (head + ROUND + box.maxY) * PT };
  const at = (x: number, y: number): [number, number] => [place.a * x + place.e, place.d * y + place.f];
  draw(doc, outline, place, { stroke: INK, width: 0.5 });
  draw(doc, [{ closed: true, vertices: art }], place, { stroke: SOFT, width: 0.3 });
  draw(doc, crossAt(centre).map((vertices) => ({ closed: false, vertices })), place, { stroke: LOGWOOD, width: 0.5 }); // prettier-ignore
  edges.forEach(({ from, to }, i) => {
    doc.lineWidth(0.3).strokeColor(SOFT).moveTo(...at(from.x, from.y)).lineTo(...at(to.x, to.y)).stroke(); // prettier-ignore
    const [x, y] = at(to.x + Math.sign(to.x - from.x) * 3, to.y + Math.sign(to.y - from.y) * 3);
    line(doc, x / PT - 3, y / PT - 2, String(i + 1), { size: 8, bold: true, width: 6, middle: true });
  });
  const below = head + 2 * ROUND + width;
  edges.forEach(({ label, drawn }, i) => line(doc, margin, below + i * 5, `${i + 1}  ${label}: ${drawn.toFixed(2)} mm`, { size: 9 })); // prettier-ignore
  bar(doc, margin, below + edges.length * 5 + 8, 100, '100 mm: print at 100 %, then measure this bar');
  doc.end();
  return done;
};
