import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { reckonBatch, ringGcode, turnedGcode, readGcode, type BatchInput, type Drive } from '@bistre/core';
import { freshCup, freshDrive } from '../core/src/drive';
import { alphabetFromFonts } from '../core/src/lettering/load';
import { testBatch } from '../core/src/test-batch';
import { inWay } from '../core/src/test-held';
import { median, table } from './table';

const require = createRequire(import.meta.url);
const file = readFileSync(require.resolve('@fontsource/b612/files/b612-latin-700-normal.woff'));
const alphabets = {
  'b612-bold': alphabetFromFonts('b612-bold', 'B612 Bold', 'OFL', [
    file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer,
  ]),
};
const plain = testBatch();
const drive: Drive = { ...freshDrive, id: 'd', name: 'Rollers', centreDistance: 40, axisAcceleration: 800 };
const zone = { ...plain.blank.zones[0]!, x: 70, width: 40, height: 76, angle: Math.PI };
const flask = (faces: BatchInput['setup']['faces']): BatchInput =>
  inWay(
    testBatch({
      quantity: 48,
      drive,
      blank: {
        ...plain.blank,
        holes: [],
        zones: [zone],
        shape: {
          ...freshCup,
          profile: [
            { at: 0, diameter: 88 },
            { at: 150, diameter: 68 },
          ],
          wall: 1.6,
        },
        samples: { length: [], width: [], thickness: [], diameter: [88, 88.1, 87.9, 88.05] },
      },
      roster: Array.from({ length: 48 }, (_, i) => ({ name: 'M. ARLEN', seat: `POST ${i + 1}` })),
      pieces: [{ id: 'p', ordinal: 1, load: 1, slot: 1, state: 'loaded', cause: null, dx: null, dy: null, yaw: null }],
      setup: { ...plain.setup, faces },
    }),
    'drive',
    { driveId: drive.id },
    { letter: { quarters: 0, mirrored: false } },
  );
const names = flask([{ zoneId: zone.id, content: { kind: 'lettering' }, reads: 'around', repeats: 1, wraps: false }]);
const options = { now: new Date('2026-11-23T10:00:00Z'), alphabets, labels: 'b612-bold', simulatedPieces: 3_000 };
const once = await median(15, () => reckonBatch(names, options));
const thorough = await median(5, () => reckonBatch(names, { ...options, simulatedPieces: 20_000 }));

// A band of 50,000 points all the way round, to G-code.
const points = 25_000;
const wave = (y: number): { x: number; y: number }[] =>
  Array.from({ length: points }, (_, i) => ({ x: i / 100, y: y + 3 * Math.sin(i / 90) + Math.sin(i / 7) }));
const band = flask([
  {
    zoneId: zone.id,
    content: { kind: 'art', name: 'band', contours: [{ closed: true, vertices: [...wave(0), ...wave(12).reverse()] }] },
    reads: 'around',
    repeats: 1,
    wraps: true,
  },
]);
const numberSet = reckonBatch(band, options).own.round!.on!.control.value;
const dense = inWay(band, 'drive', {}, { numberSet });
const reckoned = reckonBatch(dense, options);
let text = '';
const written = await median(3, () => {
  const made = turnedGcode(dense, reckoned, 'band');
  if (!made.ok) throw new Error(made.problem.message);
  text = [...made.value].join('');
});
const read = await median(3, () => {
  const program = readGcode(text, 1000);
  if (!program.ok) throw new Error(program.problem.message);
});
const ring = ringGcode(names, reckonBatch(names, options));
if (!ring.ok) throw new Error(ring.problem.message);
table([
  {
    what: 'drive station reckoned anew, 48 names on a cone',
    measured: `${once.toFixed(1)} ms`,
    against: `under 16 ms; with the full simulation ${thorough.toFixed(1)} ms`,
    good: once < 16,
  },
  {
    what: `a band of 50,000 points round a cone to G-code, ${text.split('\n').length.toLocaleString('en')} lines`,
    measured: `${(written / 1000).toFixed(2)} s`,
    against: `under 4 s; reading it back ${read.toFixed(0)} ms`,
    good: written < 4000,
  },
]);
