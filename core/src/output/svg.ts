import { arcOf, determinant, transformContour, type Contour, type Transform } from '../geometry';
import type { Pass } from '../holding';
import type { Mm } from '../units';
import { fixedPointWriter } from './fixed-point';

/** Lengths as written: to 0.1 µm in files, to 0.01 mm on the screen. */
const writeTo = (decimals: 2 | 4): ((v: number) => string) => {
  const write = fixedPointWriter(decimals);
  const unit = 10 ** decimals;
  return (v) => write(Math.round(v * unit));
};
const n = writeTo(4);
const coarse = writeTo(2);

const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** SVG path data of a contour for the screen, to 0.01 mm; arcs stay arcs. */
export const screenPath = (contour: Contour): string => pathData(contour, coarse);

/** SVG path data of a contour for a file; arcs stay arcs. `flip` maps to SVG's y, which runs down. */
export const svgPath = (contour: Contour, flip?: Transform): string =>
  pathData(flip ? transformContour(flip, contour) : contour, n);

const pathData = (c: Contour, n: (v: number) => string): string => {
  const [first] = c.vertices;
  if (!first) return '';
  let d = `M${n(first.x)} ${n(first.y)}`;
  const last = c.closed ? c.vertices.length : c.vertices.length - 1;
  for (let i = 0; i < last; i += 1) {
    const from = c.vertices[i]!;
    const to = c.vertices[(i + 1) % c.vertices.length]!;
    if (from.bulge) {
      const arc = arcOf(from, to, from.bulge);
      d += `A${n(arc.radius)} ${n(arc.radius)} 0 ${Math.abs(arc.sweep) > Math.PI ? 1 : 0} ${arc.sweep > 0 ? 1 : 0} ${n(to.x)} ${n(to.y)}`;
    } else if (i < last - 1 || !c.closed) d += `L${n(to.x)} ${n(to.y)}`;
  }
  return c.closed ? `${d}Z` : d;
};

const STYLE: Readonly<Record<Pass['kind'], string>> = {
  cut: 'fill="none" stroke="#A9512B" stroke-width="0.1"',
  line: 'fill="none" stroke="#241A13" stroke-width="0.1"',
  fill: 'fill="#241A13" fill-rule="nonzero" stroke="none"',
};

/**
 * A drawing in real millimetres: `width` and `height` carry mm, one user unit is one millimetre,
 * one named group per pass in burning order. The drawing's own y runs up; the file's runs down.
 */
export const writeSvg = (title: string, width: Mm, height: Mm, passes: readonly Pass[]): string => {
  const flip: Transform = { a: 1, b: 0, c: 0, d: -1, e: 0, f: height };
  if (determinant(flip) >= 0) throw new Error('the flip must mirror');
  const groups = passes.map((pass) => {
    const paths =
      pass.kind === 'fill'
        ? `<path d="${pass.contours.map((c) => svgPath(c, flip)).join('')}"/>`
        : pass.contours.map((c) => `<path d="${svgPath(c, flip)}"/>`).join('\n');
    return `<g id="${escape(pass.name)}" data-pass="${pass.kind}" ${STYLE[pass.kind]}>\n${paths}\n</g>`;
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}">`,
    `<title>${escape(title)}</title>`,
    ...groups,
    '</svg>',
    '',
  ].join('\n');
};
