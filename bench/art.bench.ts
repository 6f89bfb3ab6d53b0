import { Resvg } from '@resvg/resvg-js';
import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import { densities, FRESH_TREATMENT, gcodeChunks, Halftone, layArt, Moves, PictureRows, readArt, sortArt, stylesOf, type Blank, type Grey, type ZoneContent } from '@bistre/core'; // prettier-ignore
import { median, table, type Row } from './table';

const rows: Row[] = [];
const plain = (svg: string): string => new Resvg(svg, { font: { loadSystemFonts: false } }).toString();

// A file of 4.6 MB: a thousand rings of a hundred curves in nine colours, each with the line to where it begins.
const ring = (i: number): string => {
  const [x, y] = [100 * (i % 32), 100 * Math.floor(i / 32)];
  const at = (a: number): string =>
    `${(x + 40 + 30 * Math.cos(a)).toFixed(2)} ${(y + 40 + 30 * Math.sin(a)).toFixed(2)}`;
  const curves = Array.from({ length: 100 }, (_, k) => {
    const a = (2 * Math.PI * (k + 1)) / 100;
    return `C${at(a - 0.05)} ${at(a - 0.02)} ${at(a)}`;
  });
  return `<path fill="#00${(i % 9) + 1}0${i % 9}0" d="M${x} ${y}${curves.join('')}Z"/>`;
};
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="320mm" height="320mm" viewBox="0 0 3200 3200">${Array.from({ length: 1000 }, (_, i) => ring(i)).join('')}</svg>`; // prettier-ignore

// The floor: made plain, its XML walked and its paths parsed, nothing made of it.
const floor = await median(3, () => {
  const parser = new SaxesParser();
  parser.on('opentag', (tag) => {
    const { d } = tag.attributes as Record<string, string>;
    if (d) svgpath(d).abs();
  });
  parser.write(plain(svg)).close();
});
let art = readArt('rings.svg', svg, plain);
const read = await median(3, () => {
  art = readArt('rings.svg', svg, plain);
  if (!art.ok) throw new Error(art.problem.message);
  stylesOf(art.value.shapes);
});
rows.push({
  what: `${(svg.length / 1e6).toFixed(1)} MB of 100,000 curves read and its styles told`,
  measured: `${read.toFixed(0)} ms`,
  against: `2 s; ${floor.toFixed(0)} ms to make it plain and parse it alone`,
  good: read < 2000,
});

if (!art.ok) throw new Error(art.problem.message);
const { shapes, unit } = art.value;
const zone = { id: 'z', name: 'face', x: 0, y: 0, width: 90, height: 90, margin: 1, across: 'centre', down: 'middle', keepOuts: [] } as const; // prettier-ignore
const blank = { name: 'tile', holes: [{ x: 46, y: 46, diameter: 4 }], zones: [zone] } as unknown as Blank;
const square = [-50, 50].flatMap((x) => (x < 0 ? [{ x, y: -50 }, { x, y: 50 }] : [{ x, y: 50 }, { x, y: -50 }])); // prettier-ignore
const content: ZoneContent = { kind: 'artwork', id: 'c', zoneId: 'z', artworkId: 'a', revision: 1, size: { kind: 'fit' }, turn: 0, mirrored: false }; // prettier-ignore
const anew = await median(3, () => sortArt([...shapes], {}));
const lay = (): unknown => layArt({ id: 'a', name: 'rings', revision: 1, shapes, roles: {}, unit }, content, { zone, blank, outline: [{ closed: true, vertices: square }] }); // prettier-ignore
lay();
const again = await median(5, lay);
rows.push({
  what: 'the same laid in a zone again, as a batch is changed',
  measured: `${again.toFixed(0)} ms`,
  against: `a third of sorting it anew, ${anew.toFixed(0)} ms`,
  good: again < anew / 3,
});

// Twenty million dots: each shade looked up and handed to the kernel is the floor; on the work the picture lies a hundredth askew.
const [WIDTH, HEIGHT] = [5_000, 4_000];
const photo: Grey = { width: WIDTH, height: HEIGHT, pixels: Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => 128 + 60 * Math.sin((i % WIDTH) / 300) + ((i * 7) % 9)) }; // prettier-ignore
const wanted = densities(FRESH_TREATMENT);
const kernel = await median(3, () => {
  const tone = new Halftone(FRESH_TREATMENT.kernel, WIDTH);
  const row = new Float32Array(WIDTH);
  const dots = new Uint8Array(WIDTH);
  for (let y = 0; y < HEIGHT; y += 1) {
    for (let x = 0; x < WIDTH; x += 1) row[x] = wanted[photo.pixels[y * WIDTH + x]!]!;
    tone.row(row, dots);
  }
});
const askew = { a: 0.1 * Math.cos(0.01), b: 0.1 * Math.sin(0.01), c: -0.1 * Math.sin(0.01), d: 0.1 * Math.cos(0.01), e: 60, f: 70 }; // prettier-ignore
let stretches = 0;
const dotted = await median(3, () => {
  const lines = new PictureRows(photo, askew, FRESH_TREATMENT, 0.1);
  stretches = 0;
  for (let k = lines.grid.lines[0]; k <= lines.grid.lines[1]; k += 1) stretches += lines.line(k).length / 2;
});
rows.push({
  what: `20 million dots askew on flat work, ${(stretches / 1e6).toFixed(1)} million stretches`,
  measured: `${dotted.toFixed(0)} ms`,
  against: `1.5 times the kernel and its shades alone, ${kernel.toFixed(0)} ms`,
  good: dotted < 1.5 * kernel,
});

// Five hundred pieces of two thousand segments each.
const moves = new Moves();
for (let piece = 0; piece < 500; piece += 1)
  for (let i = 0; i < 2_000; i += 1) {
    const [x, y, a] = [20 * (piece % 25), 20 * Math.floor(piece / 25), (2 * Math.PI * i) / 2_000];
    if (i === 0) moves.rapid(x + 8, y);
    else moves.push(x + 8 * Math.cos(a), y + 8 * Math.sin(3 * a), 200, 0.4);
  }
const job = { title: 'bench', toFile: { a: 1, b: 0, c: 0, d: -1, e: 0, f: 600 }, dialect: { powerMax: 1000, laserOn: 'M4', arcs: false, decimals: 3 }, park: { x: 0, y: 0 }, notes: [] } as const; // prettier-ignore
let length = 0;
let largest = 0;
const streamed = await median(3, () => {
  length = 0;
  for (const chunk of gcodeChunks(moves, job)) {
    length += chunk.length;
    largest = Math.max(largest, process.memoryUsage.rss());
  }
});
let joined = 0;
const strings = await median(1, () => {
  const lines: string[] = [];
  for (let i = 0; i < moves.count; i += 1)
    lines.push(`${moves.speed[i]! < 0 ? 'G0' : 'G1'} X${moves.x[i]!.toFixed(3)} Y${(600 - moves.y[i]!).toFixed(3)} F${(moves.speed[i]! * 60).toFixed(0)} S${(moves.power[i]! * 1000).toFixed(0)}`); // prettier-ignore
  joined = lines.join('\n').length;
});
rows.push(
  {
    what: `500 pieces of 2,000 segments to ${(length / 1e6).toFixed(0)} MB of G-code`,
    measured: `${streamed.toFixed(0)} ms`,
    against: `a third of one string a move joined at the end, ${strings.toFixed(0)} ms for ${(joined / 1e6).toFixed(0)} MB`,
    good: streamed < strings / 3,
  },
  {
    what: '… largest memory meanwhile, what was measured before it included',
    measured: `${(largest / 1e6).toFixed(0)} MB`,
    against: 'under 400 MB',
    good: largest < 400e6,
  },
);
table(rows);
