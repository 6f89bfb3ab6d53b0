import { readdirSync, readFileSync } from 'node:fs';
import sharp from 'sharp';
import { batchInput, type BatchDocument, type BlankSpec } from '@bistre/contract';
import { Halftone, reckonBatch, turnedGcode, type Grey } from '@bistre/core';
import { launch } from './browser';
import { SHORT, median, table } from './table';

// A wrap of 21 million dots: Ø 88 tapering to 80, 300 mm high, 400 lines to the inch or as near as whole steps allow.
const base = process.env.BISTRE_URL!;
const WIDTH = SHORT ? 2177 : 4354;
const HEIGHT = SHORT ? 2362 : 4724;
const pixels = new Uint8Array(WIDTH * HEIGHT);
for (let y = 0; y < HEIGHT; y += 1)
  for (let x = 0; x < WIDTH; x += 1)
    pixels[y * WIDTH + x] = 128 + 60 * Math.sin(x / 300) + 60 * Math.sin(y / 200) + ((x * 7 + y * 13) % 9);
const png = await sharp(pixels, { raw: { width: WIDTH, height: HEIGHT, channels: 1 } })
  .toColourspace('b-w')
  .png({ compressionLevel: 6 })
  .toBuffer();

const send = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const raw = body instanceof Buffer;
  const response = await fetch(base + path, {
    method,
    ...(body === undefined
      ? {}
      : {
          headers: { 'content-type': raw ? 'image/png' : 'application/json' },
          body: raw ? new Uint8Array(body) : JSON.stringify(body),
        }),
  });
  if (!response.ok) throw new Error(`${method} ${path}: ${await response.text()}`);
  return response.json() as Promise<T>;
};
const named = async (path: string, name: string): Promise<{ id: string; version: number; spec: object }> =>
  (await send<{ id: string; version: number; name: string; spec: object }[]>('GET', path)).find(
    (x) => x.name === name,
  )!;
const picture = await send<{ id: string; width: number; height: number; darkness: number }>(
  'POST',
  '/api/pictures?name=wrap.png',
  png,
);
const flask = await named('/api/blanks', 'Umpire flask');
const spec = flask.spec as BlankSpec;
const zone = { ...spec.zones[0]!, id: 'all', name: 'all', x: 150, width: 300, height: 240, margin: 0, angle: 0 };
const blank = await send<{ id: string }>('POST', '/api/blanks', {
  name: 'Tall flask',
  spec: {
    ...spec,
    // Burned with the glass recipe: it is of nothing in particular.
    material: null,
    shape: {
      ...spec.shape,
      capacity: null,
      feature: null,
      profile: [
        { at: 0, diameter: 88 },
        { at: 300, diameter: 80 },
      ],
    },
    zones: [zone],
  },
});
const bench = await named('/api/machines', 'Bench A');
const made = await send<{ id: string }>('POST', '/api/batches', {
  name: 'Tall wraps',
  customer: '',
  quantity: 1,
  spares: 0,
  tolerance: 1,
  dueAt: null,
  machineId: bench.id,
  blankId: blank.id,
});
const path = `/api/batches/${made.id}`;
let batch = await send<BatchDocument>('GET', path);
const recipe = await named('/api/recipes', 'Glass, 400 lines');
batch = await send('PUT', `${path}/recipe`, { recipeId: recipe.id, version: batch.version });
const drive = await named('/api/drives', 'Rollers');
batch = await send('PUT', `${path}/drive`, { driveId: drive.id, version: batch.version });
const { held } = batch.setup;
if (held.way !== 'drive') throw new Error(held.way);
batch = await send('PUT', `${path}/setup`, {
  section: 'held',
  version: batch.version,
  value: {
    ...held,
    choice: { ...held.choice, seam: { kind: 'seamless', gap: 0 } },
    found: { ...held.found, letter: { quarters: 0, mirrored: false } },
  },
});
batch = await send('PUT', `${path}/setup`, {
  section: 'faces',
  version: batch.version,
  value: [
    {
      zoneId: 'all',
      content: {
        kind: 'picture',
        pictureId: picture.id,
        name: 'wrap.png',
        width: WIDTH,
        height: HEIGHT,
        darkness: picture.darkness,
        treatment: { kernel: 'jarvis-judice-ninke', densest: 1, gamma: 1, negative: false },
      },
      reads: 'around',
      repeats: 1,
      wraps: true,
    },
  ],
});
const options = { now: new Date(), alphabets: {}, labels: 'x', simulatedPieces: 500 };
const number = reckonBatch(batchInput(batch), options).own.round!.on!.control.value!;
batch = await send('POST', `${path}/drive/set`, { what: 'number', value: number, version: batch.version });
// Flasks left the axis as they need it: this blank needs it slower still.
batch = await send('POST', `${path}/drive/set`, { what: 'acceleration', value: 100, version: batch.version });
batch = await send('POST', `${path}/loads`, {});
const input = batchInput(batch);
const r = reckonBatch(input, options);
const { used } = r.own.round!.on!.interval!;
const face = r.own.round!.faces[0]!.picture!;
const dots = (face.width * face.height) / used ** 2;

const grey: Grey = { width: WIDTH, height: HEIGHT, pixels };
let length = 0;
const written = await median(5, () => {
  const file = turnedGcode(input, r, 'wrap', new Map([[picture.id, grey]]));
  if (!file.ok) throw new Error(file.problem.message);
  length = 0;
  for (const chunk of file.value) length += chunk.length;
});
// The plain way for comparison: no row scaling, nearest dot, the same kernel, a string for every line.
let plainLength = 0;
const plain = await median(1, () => {
  const tone = new Halftone('jarvis-judice-ninke', HEIGHT);
  const row = new Float32Array(HEIGHT);
  const burned = new Uint8Array(HEIGHT);
  plainLength = 0;
  for (let x = 0; x < WIDTH; x += 1) {
    for (let y = 0; y < HEIGHT; y += 1) row[y] = 1 - pixels[y * WIDTH + x]! / 255;
    tone.row(row, burned);
    const lines: string[] = [];
    for (let y = 0; y < HEIGHT; y += 1)
      if (y === 0 || burned[y] !== burned[y - 1])
        lines.push(`G1X${Number((y * used).toFixed(3))}S${burned[y] ? 300 : 0}`);
    plainLength += lines.join('\n').length;
  }
});

/** Largest memory of any page process of this browser, MB; read from the system ten times a second. */
let largest = 0;
const watch = setInterval(() => {
  for (const pid of readdirSync('/proc').filter((d) => /^\d+$/.test(d)))
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer')) continue;
      const kb = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
      largest = Math.max(largest, Number(kb?.[1] ?? 0) / 1000);
    } catch {
      // The process ended between two looks.
    }
}, 100);
const browser = await launch();
const page = await browser.newPage();
await page.goto(`${base}/batches/${made.id}/run`);
const button = page.getByRole('button', { name: 'Write the G-code' });
const times: number[] = [];
const whole: number[] = [];
for (let i = 0; i < 4; i += 1) {
  await button.waitFor();
  await page.waitForTimeout(2000);
  const download = page.waitForEvent('download', { timeout: 120_000 });
  const start = performance.now();
  await button.click();
  await download;
  whole.push((performance.now() - start) / 1000);
  const said = await page
    .getByText(/MB in [\d.]+ s/)
    .last()
    .innerText();
  times.push(Number(/in ([\d.]+) s/.exec(said)![1]));
}
await button.waitFor();
await button.click();
await page.getByRole('progressbar', { name: 'lines written' }).waitFor();
await page.waitForTimeout(800);
const asked = performance.now();
await page.getByRole('button', { name: 'Stop' }).click();
await button.waitFor();
const stopped = performance.now() - asked;
clearInterval(watch);
await browser.close();
times.sort((a, b) => a - b);
whole.sort((a, b) => a - b);
const what = `${(dots / 1e6).toFixed(1)} million dots round a cone, ${used.toFixed(4)} mm`;
table([
  {
    what: `${what}, to ${(length / 1e6).toFixed(0)} MB of G-code, computed`,
    measured: `${(written / 1000).toFixed(2)} s`,
    against: `under 4 s; the plain way, without row scaling: ${(plain / 1000).toFixed(2)} s for ${(plainLength / 1e6).toFixed(0)} MB`,
    good: written < 4000,
  },
  {
    what: '… in the page’s worker',
    measured: `${times[1]!.toFixed(2)} s`,
    against: `under 4 s, second of four (${times.map((t) => t.toFixed(1)).join(', ')}); from the button to the browser’s file ${whole[1]!.toFixed(2)}`,
    good: times[1]! < 4,
  },
  {
    what: '… largest page process meanwhile',
    measured: `${largest.toFixed(0)} MB`,
    against: 'under 700 MB',
    good: largest < 700,
  },
  { what: '… stopped', measured: `${stopped.toFixed(0)} ms`, against: 'under 500 ms', good: stopped < 500 },
]);
