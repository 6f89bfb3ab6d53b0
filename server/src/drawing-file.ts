import { contoursBox, svgPath, type Contour, type LongShape } from '@bistre/core';

/** How each kind is painted, and with it told apart when the file is read. */
const PAINTS: Readonly<Record<LongShape['kind'], string>> = {
  fill: 'fill="#000000"',
  line: 'fill="none" stroke="#000000" stroke-width="0.1"',
  cut: 'fill="none" stroke="#5b3a78" stroke-width="0.1"',
};
/** What has to be said of the styles of such a drawing. */
export const DRAWING_ROLES = { 'stroke #5b3a78': 'cut' } as const;

/** Shapes as an SVG in millimetres, as large as they are together: areas as one, lines one by one. */
export const drawingFile = (shapes: readonly Pick<LongShape, 'kind' | 'contour'>[]): string => {
  const of = (kind: LongShape['kind']): Contour[] => shapes.filter((s) => s.kind === kind).map((s) => s.contour);
  const box = contoursBox(shapes.map((s) => s.contour));
  const size = [Math.max(0.1, box.maxX - box.minX), Math.max(0.1, box.maxY - box.minY)].map((v) => v.toFixed(4));
  const flip = { a: 1, b: 0, c: 0, d: -1, e: -box.minX, f: box.maxY };
  const path = (kind: LongShape['kind'], contours: readonly Contour[]): string =>
    contours.length === 0 ? '' : `<path ${PAINTS[kind]} d="${contours.map((c) => svgPath(c, flip)).join('')}"/>`;
  const paths = [path('fill', of('fill')), ...of('line').map((c) => path('line', [c])), ...of('cut').map((c) => path('cut', [c]))]; // prettier-ignore
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${size[0]}mm" height="${size[1]}mm" viewBox="0 0 ${size[0]} ${size[1]}">
${paths.filter(Boolean).join('\n')}
</svg>
`;
};
