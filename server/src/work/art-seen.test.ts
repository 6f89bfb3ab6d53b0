import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { clipAreas, contourLength, coveredArea, polyline, readArt, sortArt, type ArtShape } from '@bistre/core';
import { asRead, differing, dotsOf, DOTS, DRAWINGS, H, held, root, W, type Dots } from '../testing/art-drawings';
import { plainSvg } from './plain-svg';

// The same drawings as in art-rendered.test.ts, by a second reader that shares nothing with the first: Chromium, each in an
// image of its own; 20 dots to the millimetre.
const SIZE = [W * DOTS, H * DOTS] as const;
const FLAGS = ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--hide-scrollbars']; // prettier-ignore

/** Drawings side by side and below each other: a browser’s own picture ends at 16,384 dots a side. */
const [ACROSS, DOWN] = [3, 13];

/** Pictures of at most so many drawings as a browser shows them, black on white. */
const shot = async (drawings: readonly string[]): Promise<Dots[]> => {
  const folder = mkdtempSync(join(tmpdir(), 'bistre-seen-'));
  const [width, height] = [ACROSS * SIZE[0], Math.ceil(drawings.length / ACROSS) * SIZE[1]];
  try {
    const images = drawings.map((svg) => `<img src="data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}" width="${SIZE[0]}" height="${SIZE[1]}" style="float:left">`); // prettier-ignore
    writeFileSync(join(folder, 'all.html'), `<!doctype html><body style="margin:0;background:#fff">${images.join('')}`);
    execFileSync(process.env['BISTRE_CHROMIUM'] ?? '/usr/bin/chromium', [...FLAGS, `--user-data-dir=${join(folder, 'profile')}`, `--window-size=${width},${height}`, `--screenshot=${join(folder, 'all.png')}`, `file://${join(folder, 'all.html')}`], { stdio: 'ignore', timeout: 60_000 }); // prettier-ignore
    const all = await dotsOf(readFileSync(join(folder, 'all.png')));
    expect([all.width, all.height]).toEqual([width, height]);
    return drawings.map((_, i) => {
      const [left, top] = [(i % ACROSS) * SIZE[0], Math.floor(i / ACROSS) * SIZE[1]];
      const rows = Array.from({ length: SIZE[1] }, (__, y) => all.data.subarray((top + y) * width + left, (top + y) * width + left + SIZE[0])); // prettier-ignore
      return { width: SIZE[0], height: SIZE[1], data: Buffer.concat(rows) };
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
};
const seen = async (drawings: readonly string[]): Promise<Dots[]> => {
  const out: Dots[] = [];
  for (let i = 0; i < drawings.length; i += ACROSS * DOWN) out.push(...(await shot(drawings.slice(i, i + ACROSS * DOWN)))); // prettier-ignore
  return out;
};

const read = (svg: string): readonly ArtShape[] => {
  const made = readArt('drawing.svg', svg, plainSvg);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value.shapes;
};

describe('a drawing is read as a browser shows it', () => {
  let pictures: Dots[];
  const own = DRAWINGS.map(([, body]) => held(root(body)));
  // As they are, and as another writer, cairo, writes them anew: in its own units, paths and clips.
  const files = [...own, ...own.map((svg) => execFileSync('rsvg-convert', ['-f', 'svg'], { input: svg, maxBuffer: 1e8 }).toString())]; // prettier-ignore
  beforeAll(async () => {
    pictures = await seen([...files, ...files.map((svg) => asRead(read(svg)))]);
  }, 120_000);

  it.each([...DRAWINGS.map(([name]) => name), ...DRAWINGS.map(([name]) => `${name}, by cairo`)].map((name, i) => [name, i] as const))('%s: nothing is off by more than 0.05 mm, nor by 0.01 mm along its outlines', (_, i) => {
    const [a, b] = [pictures[i]!, pictures[files.length + i]!];
    const { off, ink } = differing(a, b);
    expect([off, ink > 2_000]).toEqual([0, true]);
    const shapes = read(files[i]!);
    const { areas } = sortArt(shapes.map((s) => ({ ...s, stroke: null })), {}); // prettier-ignore
    const drawn = shapes.filter((s) => s.stroke !== null).flatMap((s) => s.contours);
    const edges = areas.reduce((s, c) => s + contourLength(c), 0) + 2 * drawn.reduce((s, c) => s + contourLength(c), 0);
    let differs = 0;
    for (let k = 0; k < a.data.length; k += 1) differs += Math.abs(a.data[k]! - b.data[k]!) / 255;
    expect(differs / DOTS ** 2 / edges).toBeLessThan(0.01);
  }); // prettier-ignore
  const page = polyline([[0, 0], [W, 0], [W, H], [0, H]].map(([x, y]) => ({ x: x!, y: y! })), true); // prettier-ignore
  it('covers as much as the browser has dark, to a part in two hundred', () => {
    for (const [i, [name, body]] of DRAWINGS.entries()) {
      if (/stroke/.test(body)) continue;
      // What leaves the page is not seen.
      const areas = clipAreas(sortArt(read(files[i]!), {}).areas, [page]);
      const dark = pictures[i]!.data.reduce((s, v) => s + (255 - v) / 255, 0) / DOTS ** 2;
      expect([name, Math.abs(coveredArea(areas) / dark - 1) < 0.005]).toEqual([name, true]);
    }
  });
});
