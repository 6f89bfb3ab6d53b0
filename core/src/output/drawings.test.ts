import DxfParser from 'dxf-parser';
import { circle, polyline, type Contour } from '../geometry';
import type { Pass } from '../holding';
import { writeDxf } from './dxf';
import { MOST_DOTS, rasterize } from './raster';
import { svgPath, writeSvg } from './svg';

const closed = (...vertices: Contour['vertices']): Contour => ({ closed: true, vertices });

describe('a path in an SVG', () => {
  it('goes once along each side of what is closed, and says so with Z', () => {
    expect(svgPath(closed({ x: 0, y: 0 }, { x: 4, y: 0 }, { x: 4, y: 3 }))).toBe('M0 0L4 0L4 3Z');
  });
  it('ends where what is open ends', () => {
    expect(svgPath(polyline([{ x: 0, y: 0 }, { x: 4, y: 0 }, { x: 4, y: 3 }]))).toBe('M0 0L4 0L4 3'); // prettier-ignore
    expect(svgPath({ closed: false, vertices: [] })).toBe('');
  });
  // A bulge is the tangent of a quarter of the sweep: 1 is half a turn, 1 + √2 three quarters of one.
  it('tells the short arc from the long one, and the way round', () => {
    const arc = (bulge: number): string => svgPath({ closed: false, vertices: [{ x: 0, y: 0, bulge }, { x: 2, y: 0 }] }); // prettier-ignore
    expect(arc(1)).toBe('M0 0A1 1 0 0 1 2 0');
    expect(arc(-1)).toBe('M0 0A1 1 0 0 0 2 0');
    expect(arc(1 + Math.SQRT2)).toMatch(/^M0 0A1\.414\d* 1\.414\d* 0 1 1 2 0$/);
    expect(arc(Math.SQRT2 - 1)).toMatch(/^M0 0A1\.414\d* 1\.414\d* 0 0 1 2 0$/);
  });
  it('closes with an arc where the last side is one', () => {
    expect(svgPath(closed({ x: 0, y: 0 }, { x: 2, y: 0, bulge: 1 }))).toBe('M0 0L2 0A1 1 0 0 1 0 0Z');
  });
});

describe('the passes of an SVG', () => {
  const two = [closed({ x: 0, y: 0 }, { x: 4, y: 0 }, { x: 4, y: 3 }), closed({ x: 1, y: 1 }, { x: 2, y: 1 }, { x: 2, y: 2 })]; // prettier-ignore
  it('fill what they fill together, so that holes stay open, and draw lines one by one', () => {
    const text = writeSvg('tag <1>', 10, 5, [
      { name: 'fill', kind: 'fill', contours: two },
      { name: 'cut', kind: 'cut', contours: two },
    ]);
    expect(text.match(/<path d="[^"]*"/g)).toEqual([
      '<path d="M0 5L4 5L4 2ZM1 4L2 4L2 3Z"',
      '<path d="M0 5L4 5L4 2Z"',
      '<path d="M1 4L2 4L2 3Z"',
    ]);
    expect(text).toContain('width="10mm" height="5mm" viewBox="0 0 10 5"');
    expect(text).toContain('<title>tag &lt;1&gt;</title>');
  });
});

describe('a DXF, as dxf-parser reads it', () => {
  const passes: Pass[] = [
    { name: 'marks on the board (r1)', kind: 'line', contours: [circle({ x: 10, y: 20 }, 6.35)] },
    {
      name: 'a name of more than one and thirty letters',
      kind: 'cut',
      contours: [closed({ x: -1.5, y: 2 }, { x: 40.125, y: 2, bulge: 0.5 }, { x: 40.125, y: 30 }), polyline([{ x: 1, y: 1 }, { x: 2, y: 5 }])], // prettier-ignore
    },
  ];
  const text = writeDxf(passes);
  const read = new DxfParser().parseSync(text)!;

  it('is in millimetres, as large as what is in it', () => {
    expect(read.header).toMatchObject({ $INSUNITS: 4, $MEASUREMENT: 1, $ACADVER: 'AC1009' });
    expect(read.header['$EXTMIN']).toMatchObject({ x: -1.5, y: 1 });
    // The arc of bulge 0.5 over a chord of 28 mm swells by 7: s = bulge × chord / 2.
    expect(read.header['$EXTMAX']).toMatchObject({ x: 47.125, y: 30 });
  });
  it('has a layer a pass, by its name as every reader takes it', () => {
    const layers = Object.values(read.tables.layer.layers);
    expect(layers.map((l) => l.name)).toEqual(['MARKS_ON_THE_BOARD__R1_', 'A_NAME_OF_MORE_THAN_ONE_AND_THI']);
    expect(layers.map((l) => l.colorIndex)).toEqual([1, 2]);
  });
  it('keeps circles, sides, bulges, and what is closed', () => {
    const [round, side, open] = read.entities as unknown as {
      type: string;
      layer: string;
      radius?: number;
      center?: { x: number; y: number };
      shape?: boolean;
      vertices?: { x: number; y: number; bulge?: number }[];
    }[];
    expect(round).toMatchObject({ type: 'CIRCLE', radius: 6.35, center: { x: 10, y: 20 } });
    expect(side).toMatchObject({ type: 'POLYLINE', shape: true, layer: 'A_NAME_OF_MORE_THAN_ONE_AND_THI' });
    expect(side!.vertices!.map((v) => [v.x, v.y, v.bulge ?? 0])).toEqual([[-1.5, 2, 0], [40.125, 2, 0.5], [40.125, 30, 0]]); // prettier-ignore
    expect(open!.shape).toBe(false);
  });
});

describe('dots', () => {
  const square = [[{ x: 1, y: 1 }, { x: 3, y: 1 }, { x: 3, y: 2 }, { x: 1, y: 2 }]]; // prettier-ignore
  it('are dark where their middles are inside, the first row at the top', () => {
    const { pixels } = rasterize(square, { width: 4, height: 4 }, 1);
    const rows = Array.from({ length: 4 }, (_, r) => [...pixels.slice(4 * r, 4 * r + 4)].map((p) => (p === 0 ? '#' : '.')).join('')); // prettier-ignore
    expect(rows).toEqual(['....', '....', '.##.', '....']);
  });
  it('are one where only one middle is inside', () => {
    const one = [[{ x: 1.2, y: 1.2 }, { x: 1.8, y: 1.2 }, { x: 1.8, y: 1.8 }, { x: 1.2, y: 1.8 }]]; // prettier-ignore
    expect([...rasterize(one, { width: 3, height: 3 }, 1).pixels].indexOf(0)).toBe(4);
  });
  it('are cut at the edges of the picture', () => {
    const over = [[{ x: -5, y: -5 }, { x: 2.2, y: -5 }, { x: 2.2, y: 9 }, { x: -5, y: 9 }]]; // prettier-ignore
    const { pixels, width, height } = rasterize(over, { width: 3, height: 2 }, 1);
    expect([width, height, [...pixels]]).toEqual([3, 2, [0, 0, 255, 0, 0, 255]]);
  });
  it('are at least one, and not more than a machine takes', () => {
    expect(rasterize([], { width: 0.1, height: 0.1 }, 1)).toMatchObject({ width: 1, height: 1, dotsPerMetre: 1000 });
    const side = Math.ceil(Math.sqrt(MOST_DOTS)) + 1;
    expect(() => rasterize([], { width: side, height: side }, 1)).toThrow('too large');
  });
});
