import sharp from 'sharp';
import {
  boxHeight,
  boxOf,
  boxWidth,
  flatten,
  screenPath,
  type BatchInput,
  type BatchReckoning,
  type Ordinal,
  type PieceShapes,
  type Vec,
} from '@bistre/core';
import { INK, LOGWOOD, SOFT } from './paper';
import { lookOf } from './look';
import { pngOf, type Shades } from './shades';

/** Dots to the inch, and how much larger than itself the piece is printed. */
const DENSITY = 300;
const TWICE = 2;
/** Left free round it, mm of the piece. */
const EDGE = 3;
/** More dots than this along a side are more than a letter needs; a larger piece is shown smaller. */
const MOST = 6_000;

const pathOf = (lines: readonly (readonly Vec[])[], closed: boolean): string =>
  lines.map((vertices) => screenPath({ closed, vertices })).join('');

const imageOf = (p: NonNullable<PieceShapes['pictures']>[number], pictures: Shades): string => {
  const png = pngOf(pictures, p);
  if (!png) return '';
  const { a, b, c, d, e, f } = p.place;
  return `<g transform="matrix(${a} ${b} ${c} ${d} ${e} ${f})"><image href="data:image/png;base64,${png.toString('base64')}" width="${p.width}" height="${p.height}" preserveAspectRatio="none" transform="matrix(1 0 0 -1 0 ${p.height})"/></g>`;
};

/**
 * One piece as a picture for a letter: its outline and what is burned on it, printed at twice its size.
 * @param ordinal which; the first that lies on, when absent
 */
export const piecePicture = async (
  input: BatchInput,
  r: BatchReckoning,
  pictures: Shades,
  ordinal: Ordinal | undefined = r.onTheBoard[0]?.ordinal,
): Promise<Buffer> => {
  const { outline, shapesOf } = lookOf(input, r);
  const shapes = shapesOf(ordinal ?? 1);
  const box = boxOf(outline.flatMap((c) => flatten(c)));
  const [width, height] = [boxWidth(box) + 2 * EDGE, boxHeight(box) + 2 * EDGE];
  const scale = Math.min((TWICE * DENSITY) / 25.4, MOST / Math.max(width, height));
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${Math.round(width * scale)}" height="${Math.round(height * scale)}" viewBox="${box.minX - EDGE} ${-box.maxY - EDGE} ${width} ${height}"><g transform="scale(1 -1)"><path d="${outline.map((c) => screenPath(c)).join('')}" fill="#fff" fill-rule="evenodd" stroke="${SOFT}" stroke-width="0.2"/>${(shapes?.pictures ?? []).map((p) => imageOf(p, pictures)).join('')}${
    shapes
      ? `<path d="${pathOf(shapes.filled, true)}" fill="${INK}"/><path d="${pathOf(shapes.drawn, false)}" fill="none" stroke="${INK}" stroke-width="0.15"/><path d="${pathOf(shapes.cut ?? [], false)}" fill="none" stroke="${LOGWOOD}" stroke-width="0.15"/>`
      : ''
  }</g></svg>`;
  return sharp(Buffer.from(svg), { unlimited: true })
    .flatten({ background: '#fff' })
    .withMetadata({ density: DENSITY })
    .png()
    .toBuffer();
};
