import {
  apply,
  boxOf,
  flatten,
  nth,
  slotTransform,
  type BatchInput,
  type BatchReckoning,
  type Transform,
} from '@bistre/core';
import { refused } from '../http/problem';
import { draw, INK, line, PAGE, plain, PT, start } from './paper';
import { pieceOutline } from './piece-outline';

/** A row of the list, mm. */
const ROW = 6;

/**
 * The load that is on, or the next one, for whoever lays it in: the board as it lies before them with every slot’s number
 * and name, and the same as a list in the order of the slots, each with a box to tick.
 */
export const loadCard = (input: BatchInput, r: BatchReckoning, title: string): Promise<Buffer> => {
  const { board, onTheBoard } = r;
  if (!board || onTheBoard.length === 0)
    throw refused({
      code: 'nothing-to-lay',
      message: board ? 'Every piece is done: there is no load to lay in.' : 'There is no board yet. Compute one at the Hold station.', // prettier-ignore
      field: 'hold',
    });
  const { doc, done } = start(`${title}: load card`);
  const { margin } = PAGE;
  const load = r.run.openLoad;
  line(doc, margin, 13, `${title}: ${load === null ? 'the next load' : `load ${load}`}, ${onTheBoard.length} of ${board.slots.length} slots`, { size: 15, bold: true }); // prettier-ignore
  line(doc, margin, 21, `${board.name} r${board.revision} as it lies before you, its lower edge towards you. Lay in from slot ${onTheBoard[0]!.slot.slot} on.`, { size: 9, soft: true }); // prettier-ignore
  const width = PAGE.width - 2 * margin;
  const scale = Math.min(width / board.width, 120 / board.height);
  const place: Transform = { a: scale * PT, b: 0, c: 0, d: -scale * PT, e: margin * PT, f: (29 + board.height * scale) * PT }; // prettier-ignore
  const edge = [{ x: 0, y: 0 }, { x: board.width, y: 0 }, { x: board.width, y: board.height }, { x: 0, y: board.height }]; // prettier-ignore
  draw(doc, [{ closed: true, vertices: edge }], place, { stroke: INK, width: 0.8 });
  const outline = pieceOutline(input, r);
  const on = new Map(onTheBoard.map((o) => [o.slot.slot, o.ordinal]));
  const nameOf = (ordinal: number): string => nth(r.art?.pieces, ordinal)?.label || Object.values(nth(input.roster, ordinal) ?? {}).join(' · '); // prettier-ignore
  for (const slot of board.slots) {
    const ordinal = on.get(slot.slot);
    const lies = slotTransform(slot);
    const points = outline.flatMap((c) => flatten(c, 0.1).map((p) => apply(place, apply(lies, p))));
    const box = boxOf(points);
    for (const c of outline) draw(doc, [{ ...c, vertices: c.vertices.map((v) => ({ ...v, ...apply(lies, v) })) }], place, { stroke: ordinal === undefined ? '#C9C4BC' : INK, width: 0.5 }); // prettier-ignore
    const size = Math.max(4, Math.min(9, (box.maxY - box.minY) / 3.2));
    const at = (box.minY + box.maxY) / 2 / PT;
    const across = (box.maxX - box.minX) / PT;
    line(doc, box.minX / PT, at - size / PT, String(slot.slot), { width: across, size, bold: true, middle: true, soft: ordinal === undefined }); // prettier-ignore
    if (ordinal === undefined) continue;
    const name = nameOf(ordinal);
    const wide = doc.font('text').fontSize(size).widthOfString(plain(name)) / PT;
    // As large as it fits; a name that would be too small to read is cut.
    line(doc, box.minX / PT, at, name, { width: across, size: Math.max(4, Math.min(size, (0.94 * size * across) / wide)), middle: true }); // prettier-ignore
  }
  const columns = onTheBoard.length > 24 ? 3 : 2;
  const each = width / columns;
  let top = 29 + board.height * scale + 8;
  let rows = Math.floor((PAGE.height - margin - top) / ROW);
  for (let n = 0; n < onTheBoard.length;) {
    if (rows < 1) {
      doc.addPage();
      top = margin;
      rows = Math.floor((PAGE.height - 2 * margin) / ROW);
    }
    const here = onTheBoard.slice(n, n + rows * columns);
    const down = Math.ceil(here.length / columns);
    here.forEach(({ slot, ordinal }, i) => {
      const x = margin + Math.floor(i / down) * each;
      const y = top + (i % down) * ROW;
      doc.lineWidth(0.6).strokeColor(INK).rect(x * PT, (y + 0.4) * PT, 9, 9).stroke(); // prettier-ignore
      line(doc, x + 5, y, String(slot.slot), { size: 9, width: 9, bold: true });
      line(doc, x + 14, y, nameOf(ordinal), { size: 9, width: each - 16 });
    });
    n += here.length;
    rows = 0;
  }
  doc.end();
  return done;
};
