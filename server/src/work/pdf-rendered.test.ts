import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import PDFDocument from 'pdfkit';
import { clipAreas, contourLength, coveredArea, readArt, sortArt, type ArtShape, type ReadArt } from '@bistre/core';
import { asRead, differing, dots, dotsOf, DOTS, DRAWINGS, H, held, root, W } from '../testing/art-drawings';
import { plainSvg } from './plain-svg';

// PDFs by two other writers (cairo, by way of librsvg, and pdfkit), read by ours and shown by poppler, another reader
// altogether: 20 dots to the millimetre. The reader ships as a module only and runs in its thread: here in a process of its own.
const READ = `
  import { readFileSync } from 'node:fs';
  import { gunzipSync } from 'node:zlib';
  const { foreignJobs } = await import(process.argv[1]);
  const out = [];
  for (const file of JSON.parse(readFileSync(0, 'utf8')))
    out.push(await foreignJobs.art({ name: 'art.pdf', bytes: Buffer.from(file, 'base64'), ofBytes: true }).then((art) => ({ art: { ...JSON.parse(art.facts), ...JSON.parse(gunzipSync(art.shapes)) } }), (e) => ({ problem: e.problem ?? String(e) })));
  process.stdout.write(JSON.stringify(out));`;

type Read = { readonly art: ReadArt } | { readonly problem: { readonly code: string; readonly message: string } };
const readAll = (files: readonly Buffer[]): Read[] =>
  JSON.parse(
    execFileSync(process.execPath, ['--input-type=module', '-e', READ, resolve('server/dist/foreign.mjs')], {
      input: JSON.stringify(files.map((f) => f.toString('base64'))),
      maxBuffer: 1e9,
    }).toString(),
  ) as Read[];
const artOf = (read: Read): ReadArt => {
  if ('problem' in read) throw new Error(JSON.stringify(read.problem));
  return read.art;
};

const byCairo = (svg: string): Buffer => execFileSync('rsvg-convert', ['-f', 'pdf'], { input: svg, maxBuffer: 1e8 });
const byPdfkit = async (draw: (doc: PDFKit.PDFDocument) => void, options: PDFKit.PDFDocumentOptions = {}): Promise<Buffer> => {
  const doc = new PDFDocument({ size: [(W * 72) / 25.4, (H * 72) / 25.4], margin: 0, ...options });
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const done = new Promise((end) => doc.on('end', end));
  doc.scale(72 / 25.4);
  // The specks that hold it where it is.
  doc.polygon([0, H], [0.02, H], [0.02, H - 0.02]).polygon([W, 0], [W - 0.02, 0], [W - 0.02, 0.02]).fill('#000');
  draw(doc);
  doc.end();
  await done;
  return Buffer.concat(parts);
}; // prettier-ignore

const B612 = require.resolve('@fontsource/b612/files/b612-latin-700-normal.woff');

describe('a PDF is read as another reader shows it', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bistre-pdf-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  const shown = (pdf: Buffer) => {
    const file = join(folder, 'page');
    writeFileSync(`${file}.pdf`, pdf);
    execFileSync('pdftocairo', ['-r', String(DOTS * 25.4), '-png', '-singlefile', '-f', '1', '-l', '1', '-cropbox', `${file}.pdf`, file]); // prettier-ignore
    return dotsOf(readFileSync(`${file}.png`));
  };

  let cairo: { readonly pdf: Buffer; readonly read: Read }[];
  beforeAll(() => {
    expect(existsSync('server/dist/foreign.mjs')).toBe(true);
    const files = DRAWINGS.map(([, body]) => byCairo(held(root(body))));
    const read = readAll(files);
    cairo = files.map((pdf, i) => ({ pdf, read: read[i]! }));
  });

  it.each(DRAWINGS.map(([name], i) => [name, i] as const))('%s: nothing is off by more than 0.05 mm', async (_, i) => {
    const { pdf, read } = cairo[i]!;
    const found = differing(await shown(pdf), await dots(asRead(artOf(read).shapes)));
    expect(found.ink).toBeGreaterThan(2_000);
    expect(found.off).toBe(0);
  });

  /** All that is filled, and the length of all that is drawn. */
  const much = (shapes: readonly ArtShape[]) => {
    const fills = sortArt(
      shapes.map((s) => ({ ...s, stroke: null })),
      {},
    ).areas;
    const lines = shapes.filter((s) => s.stroke !== null).flatMap((s) => s.contours);
    return { fills, round: fills.reduce((l, c) => l + contourLength(c), 0), drawn: lines.reduce((l, c) => l + contourLength(c), 0) }; // prettier-ignore
  };
  it.each(DRAWINGS.map(([name], i) => [name, i] as const))('%s: the SVG and its PDF come to the same, to 0.01 mm', (_, i) => {
    const svg = readArt('a.svg', held(root(DRAWINGS[i]![1])), plainSvg);
    if (!svg.ok) throw new Error(svg.problem.message);
    const [a, b] = [much(svg.value.shapes), much(artOf(cairo[i]!.read).shapes)];
    // How wide what differs would be if it lay all along the outlines.
    const differs = coveredArea(a.fills) + coveredArea(b.fills) - 2 * coveredArea(clipAreas(a.fills, b.fills));
    expect(differs / Math.max(1, a.round)).toBeLessThan(0.01);
    expect(Math.abs(a.drawn - b.drawn)).toBeLessThan(0.01 + 2e-4 * a.drawn);
  }); // prettier-ignore

  it('of another writer, with clips, rules, turns, dashes and letters whose font is in it', async () => {
    const files = await Promise.all([
      byPdfkit((doc) => {
        doc.save().translate(20, 15).rotate(25).rect(-8, -5, 16, 10).fill('#1b3a57').restore();
        doc.save().circle(45, 20, 9).clip().rect(40, 8, 9, 30).fill('#00aa00').restore();
        doc.path('M4 30 L24 30 L14 38 Z M8 31.5 L20 31.5 L14 36 Z').fill('#000', 'even-odd');
      }),
      byPdfkit((doc) => {
        doc.font(B612).fontSize(9).text('Skerry', 4, 4, { lineBreak: false, characterSpacing: 0.5 });
        doc.save().rotate(-12, { origin: [30, 25] }).fontSize(6).text('Größe 27', 10, 24, { lineBreak: false, horizontalScaling: 80 } as PDFKit.Mixins.TextOptions).restore(); // prettier-ignore
      }),
      byPdfkit((doc) => {
        doc.lineWidth(0.6).moveTo(4, 4).bezierCurveTo(20, 38, 40, -10, 56, 30).stroke('#400020');
        doc.circle(30, 20, 8).lineWidth(1).fillAndStroke('#333366', '#000000');
      }),
    ]);
    for (const [i, read] of readAll(files).entries()) {
      const found = differing(await shown(files[i]!), await dots(asRead(artOf(read).shapes)));
      expect([i, found.off, found.ink > 1_000]).toEqual([i, 0, true]);
    }
  });

  it('names what of it is no drawing: letters without their font, pictures, pages, layers that are off', async () => {
    const speck = await import('sharp').then((s) => s.default({ create: { width: 2, height: 2, channels: 3, background: 'red' } }).png().toBuffer()); // prettier-ignore
    const [read] = readAll([
      await byPdfkit((doc) => {
        doc.rect(10, 10, 20, 10).fill('#000');
        doc.font('Helvetica').fontSize(5).text('Sound', 4, 4, { lineBreak: false });
        doc.image(speck, 40, 20, { width: 5 });
        doc.addPage().rect(0, 0, 9, 9).fill('#000');
      }),
    ]);
    const { notes, unit, width } = artOf(read!);
    expect([unit, width]).toEqual(['mm', expect.closeTo(W, 2)]);
    expect(notes).toEqual([
      'The first of its 2 pages is read.',
      'Text is left out, for its letters are not in the file: “Sound”. Have it sent with its fonts embedded, or as paths.',
      'A picture is left out: only what is drawn is read.',
    ]);
  });

  it('or is refused in words: locked, damaged, of no drawing, none at all', async () => {
    const locked = await byPdfkit((doc) => doc.rect(1, 1, 9, 9).fill('#000'), {
      userPassword: 'cox',
      ownerPassword: 'rows',
    });
    const whole = await byPdfkit((doc) => doc.rect(1, 1, 9, 9).fill('#000'));
    const empty = execFileSync('rsvg-convert', ['-f', 'pdf'], { input: root('<g/>') });
    const said = readAll([locked, whole.subarray(0, 60), empty, Buffer.from('not a PDF'), Buffer.alloc(0)]).map((r) => ('problem' in r ? r.problem : null)); // prettier-ignore
    expect(said.map((p) => p?.code)).toEqual([
      'locked-pdf',
      'damaged-pdf',
      'nothing-seen',
      'damaged-pdf',
      'damaged-pdf',
    ]);
    expect(said[0]!.message).toBe('The PDF is locked by a password. Have it sent without one, or unlock it and save it anew.'); // prettier-ignore
  });
});
