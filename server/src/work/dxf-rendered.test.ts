import { DxfWriter, LWPolylineFlags, Units, point2d, point3d } from '@tarikjabiri/dxf';
import DxfParser from 'dxf-parser';
import { Helper } from 'dxf';
import Drawing from 'dxf-writer';
import { contourLength, readArt, type ArtShape } from '@bistre/core';
import { asRead, differing, dots, DOTS, H, root, W } from '../testing/art-drawings';
import { plainSvg } from './plain-svg';

// DXFs by two other writers (@tarikjabiri/dxf and dxf-writer), read by ours and by two other readers: as `dxf` draws them,
// through librsvg, 20 dots to the millimetre; and by the lengths that follow from what `dxf-parser` says of each entity.
type Draw = (w: DxfWriter) => void;
const byOne = (draw: Draw): string => {
  const w = new DxfWriter();
  w.setUnits(Units.Millimeters);
  // The specks that hold it where it is.
  w.addLine(point3d(0, 0, 0), point3d(0.02, 0, 0));
  w.addLine(point3d(W, H, 0), point3d(W - 0.02, H, 0));
  draw(w);
  return w.stringify();
};
const byOther = (draw: (d: Drawing & Curves) => void): string => {
  const d = new Drawing() as Drawing & Curves;
  d.setUnits('Millimeters');
  d.drawLine(0, 0, 0.02, 0);
  d.drawLine(W, H, W - 0.02, H);
  draw(d);
  return d.toDxfString();
};
/** What its own types leave out. */
interface Curves {
  drawSpline(control: readonly (readonly [number, number])[], degree: number): void;
  drawEllipse(x: number, y: number, majorX: number, majorY: number, ratio: number, from: number, to: number): void;
}
const at = (x: number, y: number) => point3d(x, y, 0);

const FILES: readonly (readonly [string, string])[] = [
  ['lines', byOne((w) => [8, 20, 33].forEach((y, i) => w.addLine(at(4, y), at(50 - 9 * i, 36 - y / 2))))],
  ['circles', byOne((w) => [4, 7.5, 12].forEach((r, i) => w.addCircle(at(14 + 13 * i, 20), r)))],
  ['arcs the long way and the short, over nought', byOne((w) => {
    w.addArc(at(16, 20), 12, 30, 250);
    w.addArc(at(40, 20), 14, 300, 45);
    w.addArc(at(40, 20), 9, 91, 269.5);
  })],
  ['a polyline with bulges either way, closed', byOne((w) => w.addLWPolyline([{ point: point2d(8, 10), bulge: 0.5 }, { point: point2d(40, 10), bulge: -0.3 }, { point: point2d(50, 30) }, { point: point2d(12, 34), bulge: -0.4 }], { flags: LWPolylineFlags.Closed }))],
  ['a polyline that stays open', byOne((w) => w.addLWPolyline([{ point: point2d(8, 10) }, { point: point2d(40, 12), bulge: 0.8 }, { point: point2d(50, 30) }]))],
  ['ellipses, turned, and a part of one', byOne((w) => {
    w.addEllipse(at(20, 20), at(14, 6), 0.4, 0, 2 * Math.PI);
    w.addEllipse(at(42, 20), at(-4, 15), 0.7, 0.4, 3.9);
  })],
  ['splines', byOne((w) => {
    w.addSpline({ controlPoints: [at(4, 6), at(15, 44), at(25, -8), at(34, 30)], degreeCurve: 3 });
    w.addSpline({ controlPoints: [at(36, 6), at(38, 30), at(46, 38), at(56, 10), at(50, 4)], degreeCurve: 3 });
  })],
  ['a block, turned and mirrored, twice', byOne((w) => {
    const boat = w.addBlock('boat');
    boat.addLWPolyline([{ point: point2d(-9, 0), bulge: 0.3 }, { point: point2d(9, 0), bulge: 0.3 }], { flags: LWPolylineFlags.Closed });
    boat.addLine(at(-3, 0), at(-3, 5));
    w.addInsert('boat', at(18, 20), { rotationAngle: 35 });
    w.addInsert('boat', at(44, 18), { rotationAngle: -20, scaleFactor: { x: -1, y: 1, z: 1 } });
  })],
  ['layers and colours', byOne((w) => {
    for (const [i, name] of ['hull', 'oars', 'flag'].entries()) {
      w.addLayer(name, i + 1, 'Continuous');
      w.addRectangle(point2d(6 + 16 * i, 32), point2d(18 + 16 * i, 8), { layerName: name });
    }
  })],
  ['another writer’s circles and arcs', byOther((d) => {
    d.drawCircle(14, 20, 11);
    d.drawArc(40, 20, 15, 10, 200);
    d.drawArc(40, 20, 8, 330, 80);
  })],
  ['its polylines', byOther((d) => {
    // Its types know no bulge; its files do.
    d.drawPolyline([[6, 8, 1], [22, 8, 0], [22, 30, 0]] as never, true);
    d.drawPolyline([[30, 8], [52, 14], [34, 34]], false);
  })],
  ['its curves', byOther((d) => {
    d.drawSpline([[4, 6], [15, 44], [25, -8], [34, 30]], 3);
    d.drawEllipse(44, 22, 10, 5, 0.5, 0, 2 * Math.PI);
  })],
  ['its shapes, on layers', byOther((d) => {
    d.addLayer('rack', Drawing.ACI.RED, 'CONTINUOUS').setActiveLayer('rack');
    d.drawPolygon(16, 20, 7, 12);
    d.drawRect(34, 8, 54, 32, 4, 0.4);
  })],
]; // prettier-ignore

const read = (text: string): readonly ArtShape[] => {
  const made = readArt('a.dxf', text, plainSvg);
  if (!made.ok) throw new Error(made.problem.message);
  expect([made.value.unit, made.value.notes]).toEqual(['mm', []]);
  return made.value.shapes;
};
const STROKE = 0.5;
// Whether a closed line is drawn to its start again or closed there shows at its corner alone.
const ROUND = 'stroke-linejoin="round" stroke-linecap="round"';
const ours = (shapes: readonly ArtShape[]): string => asRead(shapes.map((s) => ({ ...s, fill: null, stroke: '#000000', width: STROKE }))).replaceAll('<path ', `<path ${ROUND} `); // prettier-ignore
/** What `dxf` draws, in our frame and our pen. */
const theirs = (text: string): string => {
  const inner = /<g stroke="#000000"[^>]*>([\s\S]*)<\/g>\s*<\/svg>/.exec(new Helper(text).toSVG())![1]!;
  const plain = inner.replace(/ stroke="rgb\([^"]*"/g, '');
  return root(
    `<g ${ROUND} stroke="#000" stroke-width="${STROKE}" fill="none" transform="matrix(1 0 0 -1 0 ${H})">${plain}</g>`,
  );
};

/** Length of a curve by its points, in so many straight pieces. */
const along = (point: (t: number) => readonly [number, number], from: number, to: number): number => {
  const n = 20_000;
  let sum = 0;
  let last = point(from);
  for (let i = 1; i <= n; i += 1) {
    const next = point(from + ((to - from) * i) / n);
    sum += Math.hypot(next[0] - last[0], next[1] - last[1]);
    last = next;
  }
  return sum;
};
interface Entity {
  readonly type: string;
  readonly [key: string]: unknown;
}
type P = { readonly x: number; readonly y: number; readonly bulge?: number };

/** Clamped B-spline by the rule of Cox and de Boor. */
const spline = (points: readonly P[], knots: readonly number[], degree: number) => {
  const basis = (i: number, k: number, t: number): number => {
    if (k === 0) return knots[i]! <= t && t < knots[i + 1]! ? 1 : 0;
    const [a, b] = [knots[i + k]! - knots[i]!, knots[i + k + 1]! - knots[i + 1]!];
    return (a === 0 ? 0 : ((t - knots[i]!) / a) * basis(i, k - 1, t)) + (b === 0 ? 0 : ((knots[i + k + 1]! - t) / b) * basis(i + 1, k - 1, t)); // prettier-ignore
  };
  return (t: number): readonly [number, number] => {
    const w = points.map((_, i) => basis(i, degree, t));
    return [points.reduce((s, p, i) => s + p.x * w[i]!, 0), points.reduce((s, p, i) => s + p.y * w[i]!, 0)];
  };
};
const arcOver = (a: P, b: P, bulge: number): number => {
  const chord = Math.hypot(b.x - a.x, b.y - a.y);
  const sweep = 4 * Math.atan(Math.abs(bulge));
  return sweep === 0 ? chord : (chord / (2 * Math.sin(sweep / 2))) * sweep;
};
const lengthOf = (e: Entity, blocks: Readonly<Record<string, { readonly entities: readonly Entity[] }>>): number => {
  const [radius, start, end] = [e['radius'], e['startAngle'], e['endAngle']] as number[];
  switch (e.type) {
    case 'CIRCLE':
      return 2 * Math.PI * radius!;
    case 'ARC':
      return radius! * ((end! - start! + 4 * Math.PI) % (2 * Math.PI));
    case 'ELLIPSE': {
      const major = e['majorAxisEndPoint'] as P;
      const a = Math.hypot(major.x, major.y);
      return along((t) => [a * Math.cos(t), a * (e['axisRatio'] as number) * Math.sin(t)], start!, end!);
    }
    case 'SPLINE': {
      const knots = e['knotValues'] as number[];
      const [first, last] = [knots[0]!, knots.at(-1)!];
      return along(spline(e['controlPoints'] as P[], knots, e['degreeOfSplineCurve'] as number), first, last - 1e-9 * (last - first)); // prettier-ignore
    }
    case 'INSERT':
      return blocks[e['name'] as string]!.entities.reduce((s, x) => s + lengthOf(x, blocks), 0);
    default: {
      const v = e['vertices'] as P[];
      const ends = e['shape'] ? [...v, v[0]!] : v;
      return ends.slice(1).reduce((s, p, i) => s + arcOver(ends[i]!, p, ends[i]!.bulge ?? 0), 0);
    }
  }
};

describe('a DXF of another writer is read as other readers read it', () => {
  it.each(FILES)('%s: nothing is off by more than 0.05 mm, nor by 0.01 mm along its lines', async (_, text) => {
    const shapes = read(text);
    const [a, b] = [await dots(ours(shapes)), await dots(theirs(text))];
    const { off, ink } = differing(a, b);
    expect([off, ink > 5_000]).toEqual([0, true]);
    const length = shapes.flatMap((s) => s.contours).reduce((s, c) => s + contourLength(c), 0);
    let differs = 0;
    for (let i = 0; i < a.data.length; i += 1) differs += Math.abs(a.data[i]! - b.data[i]!) / 255;
    // What differs, laid along both sides of every line.
    expect(differs / DOTS ** 2 / (2 * length)).toBeLessThan(0.01);
  });
  it.each(FILES)('%s: all its lines together are as long as its entities say, to 0.01 mm', (_, text) => {
    const parsed = new DxfParser().parseSync(text)!;
    const blocks = parsed.blocks as unknown as Parameters<typeof lengthOf>[1];
    const said = (parsed.entities as unknown as Entity[]).reduce((s, e) => s + lengthOf(e, blocks), 0);
    const length = read(text).flatMap((s) => s.contours).reduce((s, c) => s + contourLength(c), 0); // prettier-ignore
    expect(Math.abs(length - said)).toBeLessThan(0.01);
  });
});
