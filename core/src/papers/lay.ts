import type { Mm } from '../units';

/** A page, the strip round it that stays empty, and how far down the first one begins. */
export interface Page {
  readonly width: Mm;
  readonly height: Mm;
  readonly margin: Mm;
  /** Top of what is laid on the first page, and on the others. */
  readonly first: Mm;
  readonly top: Mm;
}

/** Where a piece, or a part of one, is drawn in true size; its middle from the page’s upper left corner, mm. */
export interface OnPage {
  readonly page: number;
  readonly piece: number;
  readonly x: Mm;
  readonly y: Mm;
  /** Turned a quarter, so that it fits. */
  readonly turned: boolean;
  /** The part of a piece that is larger than a page: its window on the page, and which it is of how many. */
  readonly part?: {
    readonly column: number;
    readonly row: number;
    readonly columns: number;
    readonly rows: number;
    readonly left: Mm;
    readonly top: Mm;
    readonly width: Mm;
    readonly height: Mm;
  };
}

/** Between pieces; under each is room for a line of words. */
const GAP: Mm = 6;
const WORDS: Mm = 7;
/** What neighbouring sheets have in common, for joining them. */
export const OVERLAP: Mm = 10;

/** How many parts cover a length by windows that overlap. */
const parts = (length: Mm, window: Mm): number => Math.max(1, Math.ceil((length - OVERLAP) / (window - OVERLAP)));

/** Pieces of one size, as many to a page as go. */
const inRows = (size: { length: Mm; width: Mm }, count: number, page: Page, turned: boolean): OnPage[] => {
  const [w, h] = turned ? [size.width, size.length] : [size.length, size.width];
  const across = Math.floor((page.width - 2 * page.margin + GAP) / (w + GAP));
  const down = (top: Mm): number => Math.floor((page.height - page.margin - top) / (h + WORDS));
  const out: OnPage[] = [];
  for (let n = 0, p = 0; n < count; p += 1) {
    const top = p === 0 ? page.first : page.top;
    for (let row = 0; row < down(top) && n < count; row += 1)
      for (let column = 0; column < across && n < count; column += 1, n += 1)
        out.push({
          page: p,
          piece: n,
          x: page.margin + w / 2 + column * (w + GAP),
          y: top + h / 2 + row * (h + WORDS),
          turned,
        });
  }
  return out;
};

/** A piece larger than a page, over as many as it takes. */
const inParts = ({ length, width }: { length: Mm; width: Mm }, piece: number, from: number, page: Page): OnPage[] => {
  const window = { width: page.width - 2 * page.margin, height: page.height - page.margin - page.top };
  const across = (w: Mm, h: Mm): number => parts(w, window.width) * parts(h, window.height);
  // The way that takes fewer sheets.
  const turned = across(width, length) < across(length, width);
  const [w, h] = turned ? [width, length] : [length, width];
  const [columns, rows] = [parts(w, window.width), parts(h, window.height)];
  return Array.from({ length: columns * rows }, (_, i) => {
    const [column, row] = [i % columns, Math.floor(i / columns)];
    return {
      page: from + i,
      piece,
      turned,
      x: page.margin + w / 2 - column * (window.width - OVERLAP),
      y: page.top + h / 2 - row * (window.height - OVERLAP),
      part: { column, row, columns, rows, left: page.margin, top: page.top, ...window },
    };
  });
};

/**
 * Pieces of one size in true size over as many pages as they take; one larger than a page goes over several, which overlap.
 * The first page is left to words where a piece does not fit under them.
 */
export const layPages = (
  size: { readonly length: Mm; readonly width: Mm },
  count: number,
  page: Page,
): { readonly laid: readonly OnPage[]; readonly pages: number } => {
  const fits = (w: Mm, h: Mm): boolean =>
    w <= page.width - 2 * page.margin && h + WORDS <= page.height - page.margin - page.top;
  const upright = fits(size.length, size.width);
  const sheets = inParts(size, 0, 0, page).length;
  const laid =
    upright || fits(size.width, size.length)
      ? inRows(size, count, page, !upright)
      : Array.from({ length: count }, (_, i) => inParts(size, i, 1 + i * sheets, page)).flat();
  return { laid, pages: laid.reduce((most, l) => Math.max(most, l.page + 1), 1) };
};
