import { QUIET, writeCode, type Transform } from '@bistre/core';
import { draw, INK, line, PT, type Doc } from './paper';

/** A QR code that opens a page of this Bistre, with its quiet zone, and the page’s address under it. */
export const pageCode = (doc: Doc, x: number, y: number, size: number, address: string, words: string): void => {
  const made = writeCode('qr', address);
  if (!made.ok) return;
  const { modules, dark } = made.value;
  const each = size / (modules + 2 * QUIET.qr);
  const quiet = QUIET.qr * each;
  const place: Transform = { a: each * PT, b: 0, c: 0, d: -each * PT, e: (x + quiet) * PT, f: (y + size - quiet) * PT };
  draw(doc, dark, place, { fill: INK });
  // What is written next goes on where it was.
  const { x: left, y: top } = doc;
  if (words) line(doc, x, y + size - 1, words, { size: 7, width: size, soft: true, middle: true });
  doc.x = left;
  doc.y = top;
};
