import sharp from 'sharp';
import {
  addRows,
  contourLength,
  emptyInk,
  flatten,
  freshTrace,
  paperOf,
  pngHead,
  polygonArea,
  tracedPieces,
  traceSheet,
  type Traced,
} from '@bistre/core';
import { SAMPLE_DPI, sampleSheet } from '../demo/badges';

const DPI = 300;
const DOT = 25.4 / DPI;

const traced = async (png: Buffer): Promise<Traced> => {
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const rows = { top: 0, count: info.height, rgba: data };
  const ink = emptyInk(info.width, info.height);
  addRows(ink, rows, paperOf(rows, info.width));
  const made = traceSheet(ink, { name: 'drawn.png', dot: DOT }, freshTrace);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};

/** A sheet of 120 × 90 mm drawn by librsvg through sharp. */
const drawn = (shapes: string, dots = 1): Promise<Buffer> =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${Math.round((120 / 25.4) * DPI)}" height="${Math.round((90 / 25.4) * DPI)}" viewBox="0 0 120 90"><rect width="120" height="90" fill="#fff"/>${shapes}</svg>`,
    ),
  )
    .blur(dots > 1 ? dots : false)
    .png()
    .toBuffer();

/** Forms with the area and the length of their outline by the rules of geometry. */
const FORMS: readonly { name: string; svg: string; area: number; length: number }[] = [
  { name: 'a circle', svg: '<circle cx="60" cy="45" r="25" fill="#246"/>', area: Math.PI * 625, length: Math.PI * 50 },
  {
    name: 'a rectangle turned by 30°',
    svg: '<rect x="35" y="30" width="50" height="30" fill="#246" transform="rotate(30 60 45)"/>',
    area: 1500,
    length: 160,
  },
  {
    name: 'a rectangle with rounded corners',
    svg: '<rect x="30" y="25" width="60" height="40" rx="8" fill="#246"/>',
    area: 60 * 40 - (4 - Math.PI) * 64,
    length: 2 * (60 + 40) - 8 * 8 + 2 * Math.PI * 8,
  },
  {
    name: 'an ellipse, pale on white',
    svg: '<ellipse cx="60" cy="45" rx="40" ry="20" fill="#f0d9a8"/>',
    area: Math.PI * 40 * 20,
    // Ramanujan's second approximation, good to a millionth here.
    length: (() => {
      const h = ((40 - 20) / (40 + 20)) ** 2;
      return Math.PI * 60 * (1 + (3 * h) / (10 + Math.sqrt(4 - 3 * h)));
    })(),
  },
];

describe('outlines of forms drawn by another library', () => {
  it.each(FORMS)('encloses the area and has the length of $name', async ({ svg, area, length }) => {
    for (const blur of [1, 2]) {
      const { sheet } = await traced(await drawn(svg, blur));
      const [piece] = tracedPieces(sheet);
      expect(tracedPieces(sheet)).toHaveLength(1);
      expect(Math.abs(polygonArea(flatten(piece!.outline))) / area).toBeGreaterThan(0.997);
      expect(Math.abs(polygonArea(flatten(piece!.outline))) / area).toBeLessThan(1.003);
      expect(contourLength(piece!.outline) / length).toBeGreaterThan(0.994);
      expect(contourLength(piece!.outline) / length).toBeLessThan(1.006);
    }
  });

  it('knows the sample sheet: size and resolution from the file, fifteen badges, four marks where they were drawn', async () => {
    const png = await sampleSheet();
    const head = pngHead(png, 'crew-badges.png');
    expect(head).toMatchObject({ ok: true, value: { width: 2339, height: 1654 } });
    expect(head.ok && head.value.dotsPerInch).toBeCloseTo(SAMPLE_DPI, 0);
    const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const rows = { top: 0, count: info.height, rgba: data };
    const ink = emptyInk(info.width, info.height);
    addRows(ink, rows, paperOf(rows, info.width));
    const made = traceSheet(ink, { name: 'crew-badges.png', dot: 25.4 / SAMPLE_DPI }, freshTrace);
    if (!made.ok) throw new Error(made.problem.message);
    const { sheet } = made.value;
    expect(tracedPieces(sheet)).toHaveLength(15);
    const marks = sheet.shapes.filter((s) => s.role === 'mark').map((s) => s.at);
    expect(marks).toHaveLength(4);
    // Drawn 14 mm from the left and from the top; a dot of the file is 0.127 mm.
    for (const [x, y] of [
      [14, 14],
      [283, 196],
      [283, 14],
      [14, 196],
    ] as const)
      expect(Math.min(...marks.map((m) => Math.hypot(m.x - x, sheet.height - m.y - y)))).toBeLessThan(0.08);
  });

  it('reads no more than the head of a file: what is no PNG, has no end or too many dots is refused by name', async () => {
    const png = await sampleSheet();
    expect(pngHead(Buffer.from('GIF89a, or something like it, and then some more'), 'a.gif')).toMatchObject({
      problem: { message: 'a.gif is not a PNG file. Save the picture as PNG.' },
    });
    expect(pngHead(png.subarray(0, 20), 'cut.png')).toMatchObject({ problem: { code: 'not-a-png' } });
    const huge = Buffer.from(png);
    huge.writeUInt32BE(12_000, 16);
    huge.writeUInt32BE(9_000, 20);
    expect(pngHead(huge, 'huge.png')).toMatchObject({ problem: { code: 'too-many-dots' } });
  });
});
