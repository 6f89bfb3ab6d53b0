import { createRequire } from 'node:module';
import { Matrix, solve } from 'ml-matrix';
import * as nudged from 'nudged';
import {
  batchArt,
  bedToFile,
  engraveLoad,
  fitModel,
  gcodeChunks,
  markSpread,
  Moves,
  pieceShapes,
  readGcode,
  rigid,
  solvePlacement,
  type Slot,
} from '@bistre/core';
import { simulatePieces } from '../core/src/budget';
import { blankSizes, loosePocket } from '../core/src/holding';
import { alphabetFromFonts } from '../core/src/lettering/load';
import { readFileSync } from 'node:fs';
import { testBlank, testMachine, testRecipe } from '../core/src/test-batch';
import { median, table, type Row } from './table';

const require = createRequire(import.meta.url);
const gcodeParser = require('gcode-parser') as { parseStringSync(text: string): unknown[] };
const file = readFileSync(require.resolve('@fontsource/b612/files/b612-latin-700-normal.woff'));
const alphabet = alphabetFromFonts('b612-bold', 'B612 Bold', 'OFL', [
  file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer,
]);
const rows: Row[] = [];

// Placement solve of 6 marks.
const pairs = Array.from({ length: 6 }, (_, i) => ({
  id: i + 1,
  drawn: { x: i * 97 + 3, y: (i * 211) % 340 },
  read: { x: i * 97 + 12.1, y: ((i * 211) % 340) + 40.2 },
}));
const solves = 20_000;
const ours =
  (await median(5, () => {
    for (let i = 0; i < solves; i += 1) solvePlacement(pairs);
  })) / solves;
const theirs =
  (await median(5, () => {
    for (let i = 0; i < solves; i += 1)
      nudged.estimate({ estimator: 'TR', domain: pairs.map((p) => p.drawn), range: pairs.map((p) => p.read) });
  })) / solves;
rows.push({
  what: 'placement solve, 6 marks, with residuals',
  measured: `${(ours * 1000).toFixed(2)} µs`,
  against: `under 20 µs; nudged, without residuals ${(theirs * 1000).toFixed(2)} µs`,
  good: ours < 0.02,
});

// The largest model of a print, 12 marks, beside the least squares of a matrix library.
const many = Array.from({ length: 12 }, (_, i) => ({
  id: i + 1,
  drawn: { x: (i * 97) % 400, y: (i * 61) % 280 },
  read: { x: ((i * 97) % 400) * 1.003 + 12.1, y: ((i * 61) % 280) + 40.2 },
}));
const affine =
  (await median(5, () => {
    for (let i = 0; i < solves; i += 1) fitModel(many, 'affine');
  })) / solves;
const matrix =
  (await median(3, () => {
    for (let i = 0; i < 2_000; i += 1)
      solve(new Matrix(many.map((p) => [p.drawn.x, p.drawn.y, 1])), new Matrix(many.map((p) => [p.read.x, p.read.y])));
  })) / 2_000;
rows.push({
  what: 'affine fit of 12 marks, with residuals',
  measured: `${(affine * 1000).toFixed(2)} µs`,
  against: `under 50 µs; ml-matrix, without residuals ${(matrix * 1000).toFixed(2)} µs`,
  good: affine < 0.05,
});

// Monte Carlo.
const sizes = blankSizes(testBlank, 0.95, 0.95);
const slots: Slot[] = Array.from({ length: 48 }, (_, i) => ({
  slot: i + 1,
  row: Math.floor(i / 6),
  column: i % 6,
  angle: 0,
  centre: { x: 45 + 62 * (i % 6), y: 40 + 37 * Math.floor(i / 6) },
}));
const simulated = await median(5, () =>
  simulatePieces(
    {
      tolerance: 0.6,
      art: { minX: -20, maxX: 27, minY: -8, maxY: 8 },
      lies: 'loose',
      sizes,
      pocket: loosePocket(testBlank, sizes, { school: 'loose' }),
      slots,
      marks: markSpread([
        { x: 10, y: 10 },
        { x: 380, y: 330 },
      ]),
      sigma: 0.05,
      aimingGrowth: 1,
      pointer: { status: 'measured', uncertainty: 0.05 },
      repeatability: 0.04,
      outline: 0,
      leftoverAngle: 0,
      pieces: 100_000,
      seed: 1,
    },
    100_000,
  ),
);
rows.push({
  what: 'Monte Carlo of 100,000 pieces, worst corner',
  measured: `${simulated.toFixed(0)} ms`,
  against: 'under 150 ms',
  good: simulated < 150,
});

// 1,000 two-line tags to G-code.
const zone = testBlank.zones[0]!;
const settings = {
  lines: [
    { column: 'name', alphabet: 'b612-bold', capHeight: 6 },
    { column: 'seat', alphabet: 'b612-bold', capHeight: 3 },
  ],
  gap: 1.5,
  narrowest: 0.8,
  smallest: 1.5,
};
const names = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'];
const roster = Array.from({ length: 1000 }, (_, i) => ({ name: names[i % 6]!, seat: `LANE ${i}` }));
let peak = 0;
const place = rigid(0.03, 20, 10);
const job = {
  title: 'bench',
  toFile: bedToFile(testMachine),
  dialect: testMachine.dialect,
  park: { x: 0, y: 0 },
  notes: [],
};
/** Makes the files of all loads and hands every chunk on, as the server streams it. */
const makeFiles = (take: (chunk: string) => void): void => {
  const art = batchArt(testBlank, zone, settings, roster, { 'b612-bold': alphabet });
  for (let load = 0; load < 1000; load += 48) {
    const moves = new Moves();
    const pieces = art.pieces.slice(load, load + 48);
    engraveLoad(
      moves,
      pieces.map((p, i) => ({ slot: slots[i]!, label: p.label, shapes: pieceShapes(art, zone, p) })),
      place,
      testRecipe.engrave,
      testMachine.acceleration,
      'row',
    );
    for (const chunk of gcodeChunks(moves, job)) take(chunk);
    peak = Math.max(peak, process.memoryUsage().rss);
  }
};
let written = 0;
const made = await median(3, () =>
  makeFiles((chunk) => {
    written += chunk.length;
  }),
);
if (written === 0) throw new Error('no file was written');
let lines = 0;
const kept: string[] = [];
makeFiles((chunk) => {
  for (let at = chunk.indexOf('\n'); at >= 0; at = chunk.indexOf('\n', at + 1)) lines += 1;
  if (kept.length < 60) kept.push(chunk);
});
rows.push({
  what: `1,000 two-line tags in outline lettering to G-code, ${lines.toLocaleString('en')} lines`,
  measured: `${(made / 1000).toFixed(2)} s`,
  against: 'under 2 s',
  good: made < 2000,
});
rows.push({
  what: '… peak memory of the whole process',
  measured: `${(peak / 1e6).toFixed(0)} MB`,
  against: 'under 300 MB',
  good: peak < 300e6,
});

// A million lines of G-code read.
const all = kept.join('').split('\n');
const million = Array.from({ length: 1_000_000 }, (_, i) => all[i % all.length]!).join('\n');
const read = await median(3, () => {
  const program = readGcode(million, 1000);
  if (!program.ok) throw new Error(program.problem.message);
});
const start = performance.now();
gcodeParser.parseStringSync(million);
const reference = performance.now() - start;
rows.push({
  what: 'reading 1,000,000 lines of G-code',
  measured: `${read.toFixed(0)} ms`,
  against: `gcode-parser ${reference.toFixed(0)} ms, ${(reference / read).toFixed(1)} times as long; at least 3`,
  good: reference / read >= 3,
});
table(rows);
