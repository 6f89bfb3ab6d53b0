import { MaxRectsPacker } from 'maxrects-packer/dist/maxrects-packer.mjs';
import perspectiveTransform from 'perspective-transform';
import {
  ANY_QUARTER,
  apply,
  boxOf,
  calibrate,
  cameraPlace,
  circle,
  fieldMarks,
  fitHomography,
  flatten,
  freshFeed,
  freshFeeder,
  layStrip,
  matchBlank,
  nest,
  planStops,
  polygonArea,
  project,
  rectify,
  rigid,
  seeded,
  seenShapes,
  type NestPart,
  type Offcut,
  type Vec,
} from '@bistre/core';
import { photograph, someCamera } from '@bistre/core/bench-sim';
import { SHORT, median, table, type Row } from './table';

const rows: Row[] = [];

// A bed of 600 mm in 12 million dots: twelve odd blanks with a hole each.
const field = { width: 600, height: 440 };
const marks = fieldMarks(field);
const boat = Array.from({ length: 80 }, (_, i): Vec => {
  const t = (2 * Math.PI * i) / 80;
  return { x: 45 * Math.cos(t), y: (t < Math.PI ? 18 : 12) * Math.sin(t) * (1 - 0.3 * Math.cos(t)) };
});
const hole = { x: -30, y: 0, diameter: 6 };
const r = seeded(4);
const poses = Array.from({ length: 12 }, (_, i) =>
  rigid(
    2 * Math.PI * r.uniform(),
    100 + (i % 4) * 130 + 8 * r.uniform(),
    90 + Math.floor(i / 4) * 125 + 8 * r.uniform(),
  ),
);
const camera = someCamera(3, field, 4000, 3000);
const picture = photograph(
  camera,
  marks,
  poses.map((m) => ({
    outline: boat.map((p) => apply(m, p)),
    holes: [flatten(circle(apply(m, hole), 3), 0.05)],
    above: 4,
    shade: 190,
  })),
  3,
);
const look = (): number => {
  const c = calibrate(picture, marks);
  if (!c.ok) throw new Error(c.problem.message);
  const { fit } = c.value;
  const flat = rectify(
    picture,
    fit,
    { minX: 0, minY: 0, maxX: field.width, maxY: field.height },
    Math.max(0.25, fit.dot),
    cameraPlace(fit, camera.at.height),
    4,
  );
  const seen = seenShapes(
    flat,
    marks.map((m) => ({ x: m.x, y: m.y, radius: 14 })),
    300,
  );
  if (!seen.ok) throw new Error(seen.problem.message);
  return seen.value.filter((s) => 'centre' in matchBlank(s, { outline: boat, holes: [hole] }, 0.1)).length;
};
let blanks = 0;
const looked = await median(5, () => {
  blanks = look();
});
rows.push({
  what: `a photograph of 12 million dots to the picture from above and ${blanks} blanks`,
  measured: `${looked.toFixed(0)} ms`,
  against: 'under 2.5 s',
  good: looked < 2500 && blanks === 12,
});

const four = [
  { from: { x: 0, y: 0 }, to: { x: 120, y: 1390 } },
  { from: { x: 600, y: 0 }, to: { x: 1890, y: 1420 } },
  { from: { x: 600, y: 440 }, to: { x: 1830, y: 130 } },
  { from: { x: 0, y: 440 }, to: { x: 160, y: 90 } },
];
const flatOf = (key: 'from' | 'to'): number[] => four.flatMap((p) => [p[key].x, p[key].y]);
const MAPS = 20_000;
const own = await median(3, () => {
  for (let i = 0; i < MAPS; i += 1) project(fitHomography(four)!, four[0]!.from);
});
const theirs = await median(3, () => {
  for (let i = 0; i < MAPS; i += 1) perspectiveTransform(flatOf('from'), flatOf('to')).transform(0, 0);
});
rows.push({
  what: 'plane-to-plane map of four points',
  measured: `${((own * 1000) / MAPS).toFixed(1)} µs`,
  against: `perspective-transform ${((theirs * 1000) / MAPS).toFixed(1)} µs`,
  good: true,
});

// 150 parts of 12 shapes.
const shape = (): Vec[] => {
  const n = 5 + Math.floor(r.uniform() * 6);
  const [a, b] = [14 + 20 * r.uniform(), 10 + 12 * r.uniform()];
  return Array.from({ length: n }, (_, i) => {
    const q = 0.55 + 0.45 * r.uniform();
    return { x: a * q * Math.cos((2 * Math.PI * i) / n), y: b * q * Math.sin((2 * Math.PI * i) / n) };
  });
};
const parts = Array.from({ length: 12 }, (_, i): NestPart => ({ outline: shape(), count: i < 6 ? 13 : 12 }));
const offcuts = Array.from({ length: 6 }, (): Offcut => {
  const [w, h] = [270 + 60 * r.uniform(), 190 + 50 * r.uniform()];
  return {
    outline: [
      { x: 0, y: 0 },
      { x: w, y: 8 },
      { x: w - 12, y: h },
      { x: 40, y: h - 6 },
      { x: 5, y: h / 2 },
    ],
    defects: [
      Array.from({ length: 16 }, (_, i) => ({
        x: w * 0.4 + 15 * Math.cos((i * Math.PI) / 8),
        y: h * 0.5 + 11 * Math.sin((i * Math.PI) / 8),
      })),
    ],
  };
});
const rules = { gap: 1, turns: ANY_QUARTER, cell: 1 };
let laid = 0;
const first = await median(5, () => {
  const made = nest(offcuts, parts, rules, () => false);
  laid = made.ok ? made.value.laid.length : 0;
});
rows.push({
  what: `first answer for 150 parts of 12 shapes in 6 offcuts with holes, ${laid} laid`,
  measured: `${first.toFixed(0)} ms`,
  against: 'under 1 s',
  good: first < 1000 && laid === 150,
});

// The same parts on one plain board of 400 mm, by the rectangles round them and by their outlines: who takes less of it.
const WIDE = 400;
const plain: Offcut = {
  outline: [
    { x: 0, y: 0 },
    { x: 2000, y: 0 },
    { x: 2000, y: WIDE },
    { x: 0, y: WIDE },
  ],
  defects: [],
};
const area = parts.reduce((s, p) => s + p.count * Math.abs(polygonArea(p.outline)), 0);
let most = 0;
const start = performance.now();
const lies = nest([plain], parts, rules, () => performance.now() - start < (SHORT ? 500 : 10_000));
if (!lies.ok) throw new Error(lies.problem.message);
for (const l of lies.value.laid) {
  const box = boxOf(parts[l.part]!.outline.map((p) => apply(rigid(l.angle, l.x, l.y), p)));
  most = Math.max(most, box.maxX);
}
// The shortest board on which the library places all of them, with the same gap and quarter turns.
const fits = (length: number): boolean => {
  const packer = new MaxRectsPacker(length, WIDE, 1, { smart: false, pot: false, square: false, allowRotation: true });
  packer.addArray(
    parts.flatMap((p) => {
      const b = boxOf(p.outline);
      return Array.from({ length: p.count }, () => ({
        width: b.maxX - b.minX,
        height: b.maxY - b.minY,
        x: 0,
        y: 0,
      }));
    }) as never[],
  );
  return packer.bins.length === 1;
};
let [low, high] = [100, 2000];
while (high - low > 1) {
  const middle = (low + high) / 2;
  if (fits(middle)) high = middle;
  else low = middle;
}
const dense = area / (most * WIDE);
const boxes = area / (high * WIDE);
rows.push({
  what: 'the same 150 parts on a plain board of 400 mm, 10 s',
  measured: `${(100 * dense).toFixed(1)} %`,
  against: `maxrects-packer by their rectangles ${(100 * boxes).toFixed(1)} %: ${(100 * (dense / boxes - 1)).toFixed(0)} % denser (15)`,
  good: dense >= 1.15 * boxes,
});

// A strip of 10 m with 400 pieces.
const planned = await median(7, () => {
  const strip = layStrip({
    ...freshFeed,
    strip: { length: 10_000, width: 420 },
    piece: { length: 90, width: 95 },
    turned: false,
    rows: 4,
    deadFront: 30,
    deadBack: 30,
    used: [],
  });
  if (!strip.ok) throw new Error(strip.problem.message);
  planStops(
    strip.value.places.map((p) => ({ from: p.centre.x - 45, to: p.centre.x + 45 })),
    600,
    freshFeeder.supports.map((s) => ({ from: s.at - 10, to: s.at + 10 })),
    null,
  );
  if (strip.value.places.length < 390) throw new Error(`${strip.value.places.length} places`);
});
rows.push({
  what: 'a strip of 10 m with 400 pieces, laid and split into stops',
  measured: `${planned.toFixed(1)} ms`,
  against: 'under 200 ms',
  good: planned < 200,
});
table(rows);
