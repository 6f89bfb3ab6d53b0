import { plainSvg } from '../work/plain-svg';
import { boxCentre, contoursBox, readArt } from '@bistre/core';
import sharp from 'sharp';

/** Frames of 20 × 20 mm side by side, each drawn in another way; librsvg, through sharp, says which of them are full. */
const WAYS = [
  '',
  'fill="none" stroke="black" stroke-width="0.2"',
  'style="fill:none;stroke:black;stroke-width:0.2"',
  'class="line"',
  'class="line" style="fill:#444"',
  'class="line" id="full"',
  'fill="none" class="full"',
  'stroke="black" fill="#222"',
];
const STYLE = '<style>.line { fill: none; stroke: black } .full { fill: black } #full { fill: black }</style>';
const frames = WAYS.map((look, i) => `<rect x="${30 * i + 5}" y="5" width="20" height="20" ${look}/>`);
const inherited = `<g fill="none" stroke="black"><rect x="${30 * WAYS.length + 5}" y="5" width="20" height="20"/></g>`;
const width = 30 * (WAYS.length + 1);
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="30mm" viewBox="0 0 ${width} 30">${STYLE}${frames.join('')}${inherited}</svg>`;

describe('art that is filled or drawn as lines', () => {
  it('is told as librsvg draws it: dark in the middle, or dark at its edge alone', async () => {
    const { data, info } = await sharp(Buffer.from(svg)).flatten({ background: 'white' }).greyscale().raw().toBuffer({ resolveWithObject: true }); // prettier-ignore
    const k = info.width / width;
    const dark = (x: number, y: number): boolean => data[Math.round(y * k) * info.width + Math.round(x * k)]! < 128;
    const read = readArt('frames.svg', svg, plainSvg);
    if (!read.ok) throw new Error(read.problem.message);
    // From the lower left corner of the first frame, which stands 5 mm in.
    const told = read.value.shapes.map((s) => ({ at: boxCentre(contoursBox(s.contours)), area: s.fill !== null }));
    expect(told).toHaveLength(WAYS.length + 1);
    const drawn = told.map(({ at }) => dark(at.x + 5, 15));
    expect(told.map((t) => t.area)).toEqual(drawn);
    expect(drawn.filter(Boolean)).toHaveLength(5);
  });
});
