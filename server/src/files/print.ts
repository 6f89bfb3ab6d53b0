import {
  allShapes,
  compose,
  heldAs,
  markContours,
  pieceGround,
  placedArt,
  slotTransform,
  transformContour,
  type BatchInput,
  type BatchReckoning,
  type Board,
  type Contour,
  type Transform,
} from '@bistre/core';
import { shadesOn, type Shades } from './shades';
import { bar, draw, INK, plain, PT, start } from './paper';

const asContours = (lines: readonly (readonly { x: number; y: number }[])[], closed: boolean): Contour[] =>
  lines.map((vertices) => ({ closed, vertices }));

/** The sheet as it is printed, true size on a page of its own size: ground with bleed, pictures in their shades, art, marks and a bar to measure. */
export const printSheet = (
  input: BatchInput,
  r: BatchReckoning,
  board: Board,
  title: string,
  pictures: Shades = new Map(),
): Promise<Buffer> => {
  const sheet = heldAs(input, 'sheet').choice;
  const { doc, done } = start(`${title}: sheet to print`, [board.width * PT, board.height * PT]);
  // Nothing of this page flows: its own margins would break it.
  doc.page.margins = { top: 0, bottom: 0, left: 0, right: 0 };
  const place: Transform = { a: PT, b: 0, c: 0, d: -PT, e: 0, f: board.height * PT };
  const ground = pieceGround(input.blank, r.sizes, sheet);
  const filled = new Set(r.onTheBoard.map((o) => o.slot.slot));
  for (const slot of board.slots.filter((s) => filled.has(s.slot)))
    draw(
      doc,
      ground.map((c) => transformContour(slotTransform(slot), c)),
      place,
      { fill: sheet.ground },
    );
  const lay = shadesOn(doc, pictures);
  for (const { shapes: own, slot } of placedArt(r, r.onTheBoard)) {
    const shapes = allShapes(own);
    const put = (c: Contour): Contour => transformContour(slotTransform(slot), c);
    const here = compose(place, slotTransform(slot));
    for (const p of shapes.pictures ?? []) lay(p, here);
    draw(doc, asContours(shapes.filled, true).map(put), place, { fill: INK });
    draw(doc, asContours(shapes.drawn, false).map(put), place, { stroke: INK, width: 0.3 });
  }
  draw(doc, board.marks.flatMap(markContours), place, { stroke: INK, width: 0.2 });
  const left = 24;
  bar(doc, left, board.height - 9, 100, '100 mm: print at 100 %, then measure this bar');
  doc
    .font('text')
    .fontSize(7)
    .fillColor(INK)
    .text(plain(`${title}, ${board.name} r${board.revision}`), left * PT, (board.height - 15) * PT, {
      lineBreak: false,
    });
  doc.end();
  return done;
};
