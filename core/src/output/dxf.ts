import { contourBox, contoursBox, type Contour } from '../geometry';
import type { Pass } from '../holding';

const n = (v: number): string => v.toFixed(6);

const layerName = (name: string): string =>
  name
    .toUpperCase()
    .replace(/[^A-Z0-9_-]/g, '_')
    .slice(0, 31);

const isCircle = (c: Contour): boolean => c.closed && c.vertices.length === 2 && c.vertices.every((v) => v.bulge === 1);

const entity = (contour: Contour, layer: string): string[] => {
  if (isCircle(contour)) {
    const box = contourBox(contour);
    return [
      '0',
      'CIRCLE',
      '8',
      layer,
      '10',
      n((box.minX + box.maxX) / 2),
      '20',
      n((box.minY + box.maxY) / 2),
      '30',
      '0.0',
      '40',
      n((box.maxX - box.minX) / 2),
    ];
  }
  const out = [
    '0',
    'POLYLINE',
    '8',
    layer,
    '66',
    '1',
    '10',
    '0.0',
    '20',
    '0.0',
    '30',
    '0.0',
    '70',
    contour.closed ? '1' : '0',
  ];
  for (const v of contour.vertices) {
    out.push('0', 'VERTEX', '8', layer, '10', n(v.x), '20', n(v.y), '30', '0.0');
    if (v.bulge) out.push('42', n(v.bulge));
  }
  out.push('0', 'SEQEND', '8', layer);
  return out;
};

/**
 * DXF (release 12 text form, the common denominator of readers), millimetres, one named layer
 * per pass. Arcs stay arcs as bulges, circles stay circles.
 */
export const writeDxf = (passes: readonly Pass[]): string => {
  const box = contoursBox(passes.flatMap((p) => p.contours));
  const layers = passes.flatMap((p, i) => [
    '0',
    'LAYER',
    '2',
    layerName(p.name),
    '70',
    '0',
    '62',
    String((i % 7) + 1),
    '6',
    'CONTINUOUS',
  ]);
  const lines = [
    '0',
    'SECTION',
    '2',
    'HEADER',
    '9',
    '$ACADVER',
    '1',
    'AC1009',
    '9',
    '$INSUNITS',
    '70',
    '4',
    '9',
    '$MEASUREMENT',
    '70',
    '1',
    '9',
    '$EXTMIN',
    '10',
    n(box.minX),
    '20',
    n(box.minY),
    '30',
    '0.0',
    '9',
    '$EXTMAX',
    '10',
    n(box.maxX),
    '20',
    n(box.maxY),
    '30',
    '0.0',
    '0',
    'ENDSEC',
    '0',
    'SECTION',
    '2',
    'TABLES',
    '0',
    'TABLE',
    '2',
    'LTYPE',
    '70',
    '1',
    '0',
    'LTYPE',
    '2',
    'CONTINUOUS',
    '70',
    '64',
    '3',
    'Solid line',
    '72',
    '65',
    '73',
    '0',
    '40',
    '0.0',
    '0',
    'ENDTAB',
    '0',
    'TABLE',
    '2',
    'LAYER',
    '70',
    String(passes.length),
    ...layers,
    '0',
    'ENDTAB',
    '0',
    'ENDSEC',
    '0',
    'SECTION',
    '2',
    'ENTITIES',
    ...passes.flatMap((p) => p.contours.flatMap((c) => entity(c, layerName(p.name)))),
    '0',
    'ENDSEC',
    '0',
    'EOF',
    '',
  ];
  return lines.join('\n');
};
