import { Resvg } from '@resvg/resvg-js';
import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import { layArt, readArt, sortArt, stylesOf, type Blank, type ZoneContent } from '@bistre/core';
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
table(rows);
