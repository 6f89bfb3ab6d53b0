import sharp from 'sharp';
import {
  addRows,
  contourLength,
  distanceToContour,
  emptyInk,
  flatten,
  freshTrace,
  paperOf,
  pictureHead,
  polygonArea,
  tracedPieces,
  traceSheet,
  type Traced,
} from '@bistre/core';
import { SAMPLE_DPI, sampleDrawing, sampleSheet } from '../demo/badges';
import { foreignJobs } from '../work/foreign';

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
    const head = pictureHead(png, 'crew-badges.png');
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

  it('reads no more than the head of a file: what is no picture, has no end or too many dots is refused by name', async () => {
    const png = await sampleSheet();
    expect(pictureHead(Buffer.from('GIF89a, or something like it, and then some more'), 'a.gif')).toMatchObject({
      problem: { message: 'a.gif is no PNG, JPEG or WebP. Save the picture as one of them.' },
    });
    expect(pictureHead(png.subarray(0, 20), 'cut.png')).toMatchObject({ problem: { code: 'not-a-picture' } });
    const huge = Buffer.from(png);
    huge.writeUInt32BE(12_000, 16);
    huge.writeUInt32BE(9_000, 20);
    expect(pictureHead(huge, 'huge.png')).toMatchObject({ problem: { code: 'too-many-dots' } });
  });

  it('knows the size of a JPEG and a WebP of every kind, and the density that a JPEG was told [files by another library]', async () => {
    const plain = sharp({ create: { width: 321, height: 123, channels: 4, background: '#24a8' } });
    const upright = await plain.clone().flatten().jpeg().withMetadata({ density: 300, orientation: 6 }).toBuffer();
    expect(pictureHead(upright, 'a.jpg')).toEqual({ ok: true, value: { width: 321, height: 123, dotsPerInch: 300 } });
    // As a program writes it that keeps to the older note [ITU-T T.871]: 118 dots to the centimetre.
    const bare = await plain.clone().flatten().jpeg().toBuffer();
    const jfif = Buffer.concat([Buffer.from('ffd8ffe000104a46494600010202007600760000', 'hex'), bare.subarray(bare.indexOf(Buffer.from('ffdb', 'hex')))]); // prettier-ignore
    expect(pictureHead(jfif, 'c.jpg')).toMatchObject({ value: { width: 321, dotsPerInch: expect.closeTo(118 * 2.54, 6) } }); // prettier-ignore
    expect((await sharp(jfif).metadata()).density).toBeCloseTo(118 * 2.54, 0);
    const untold = await plain.clone().flatten().jpeg({ progressive: true }).toBuffer();
    expect(pictureHead(untold, 'b.jpg')).toEqual({ ok: true, value: { width: 321, height: 123, dotsPerInch: null } });
    for (const how of [{ lossless: true }, { lossless: false }])
      for (const flat of [true, false]) {
        const webp = await (flat ? plain.clone().flatten() : plain.clone()).webp(how).toBuffer();
        expect(pictureHead(webp, 'c.webp')).toEqual({
          ok: true,
          value: { width: 321, height: 123, dotsPerInch: null },
        });
      }
    const turned = await plain.clone().flatten().webp().withMetadata({ orientation: 6 }).toBuffer();
    expect(turned.subarray(12, 16).toString('latin1')).toBe('VP8X');
    expect(pictureHead(turned, 'd.webp')).toMatchObject({ value: { width: 321, height: 123 } });
    expect(pictureHead(untold.subarray(0, 60), 'cut.jpg')).toMatchObject({ problem: { code: 'not-a-picture' } });
  });
});

describe('a sheet from its drawing', () => {
  const choices = { ...freshTrace };
  it('has the same pieces and marks as its picture has, to the picture’s own doubt', async () => {
    const drawing = await foreignJobs.sheet({ fileName: 'badges.svg', text: sampleDrawing(), choices });
    expect(drawing.sheet).toMatchObject({ width: expect.closeTo(297, 3), height: expect.closeTo(210, 3), edge: 0 });
    expect(drawing.notes).toEqual([]);
    const png = await sampleSheet();
    const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const rows = { top: 0, count: info.height, rgba: data };
    const ink = emptyInk(info.width, info.height);
    addRows(ink, rows, paperOf(rows, info.width));
    const made = traceSheet(ink, { name: 'badges.png', dot: 297 / info.width }, choices);
    if (!made.ok) throw new Error(made.problem.message);
    const [a, b] = [tracedPieces(drawing.sheet), tracedPieces(made.value.sheet)];
    expect(a).toHaveLength(15);
    a.forEach((piece, i) => {
      const [mine, its] = [piece, b[i]!].map((p) => Math.abs(polygonArea(flatten(p.outline)))) as [number, number];
      expect(Math.abs(mine / its - 1)).toBeLessThan(0.004);
      expect(Math.hypot(piece.at.x - b[i]!.at.x, piece.at.y - b[i]!.at.y)).toBeLessThan(3 * made.value.sheet.uncertainty); // prettier-ignore
      // Every corner that the picture shows lies on the drawing’s line.
      const off = b[i]!.outline.vertices.map((v) => distanceToContour(v, piece.outline));
      expect(off.reduce((s, d) => s + d, 0) / off.length).toBeLessThan(2 * made.value.sheet.uncertainty);
      expect(Math.max(...off)).toBeLessThan(0.25);
    });
    const marks = ({ sheet }: Traced) => sheet.shapes.filter((s) => s.role === 'mark');
    expect(marks(drawing).map((m) => m.look)).toEqual(marks(made.value).map((m) => ({ ...m.look, size: expect.closeTo(m.look!.size, 0) }))); // prettier-ignore
    marks(drawing).forEach((m, i) => expect(Math.hypot(m.at.x - marks(made.value)[i]!.at.x, m.at.y - marks(made.value)[i]!.at.y)).toBeLessThan(0.08)); // prettier-ignore
  });
  it('that states no unit says so; one that cannot be read is refused in words', async () => {
    const bare = sampleDrawing().replace('width="297mm" height="210mm"', 'width="1122.52" height="793.7"');
    const { notes, sheet } = await foreignJobs.sheet({ fileName: 'badges.svg', text: bare, choices });
    expect(notes[0]).toBe('The file states no unit: see that the sheet is as large as it was printed.');
    expect(sheet.width).toBeCloseTo(297, 1);
    await expect(foreignJobs.sheet({ fileName: 'a.svg', text: '<svg', choices })).rejects.toMatchObject({ status: 422 }); // prettier-ignore
  });
});
