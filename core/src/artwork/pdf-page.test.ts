import { contoursBox } from '../geometry';
import { plain } from '../test-plain';
import { pdfDrawing, type PdfFont, type PdfPage, type PdfStep } from './pdf-page';
import { readPdfPage } from './read-art';

const step = (name: string, ...args: readonly unknown[]): PdfStep => ({ name, args });
/** A rectangle as a page’s program draws it, and how it is painted. */
const rect = (paint: string, x: number, y: number, w: number, h: number): PdfStep => step('constructPath', paint, [new Float32Array([0, x, y, 1, x + w, y, 1, x + w, y + h, 1, x, y + h, 4])]); // prettier-ignore

// ISO 32000-1, 8.3.2.3: a unit is 1/72 inch. A page of 4 × 2 in.
const page = (steps: readonly PdfStep[], change: Partial<PdfPage> = {}): PdfPage => ({ view: [0, 0, 288, 144], rotate: 0, userUnit: 1, steps, fontOf: () => null, isShown: () => true, ...change }); // prettier-ignore
const read = (of: PdfPage) => {
  const made = readPdfPage(of, plain);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const sizes = (of: PdfPage): number[][] =>
  read(of).shapes.map((s) => { const b = contoursBox(s.contours); return [b.minX, b.minY, b.maxX, b.maxY].map((v) => Math.round(v * 1000) / 1000); }); // prettier-ignore

describe('a page of a PDF', () => {
  it('is as large as it says: 72 of its units to the inch, or so many times as much', () => {
    const inch = [rect('fill', 0, 0, 72, 72), rect('fill', 72, 72, 36, 18)];
    expect(sizes(page(inch))).toEqual([[0, 0, 25.4, 25.4], [25.4, 25.4, 38.1, 31.75]]); // prettier-ignore
    expect(sizes(page(inch, { userUnit: 2 }))[0]).toEqual([0, 0, 50.8, 50.8]);
    expect([read(page(inch)).unit, read(page(inch)).width]).toEqual(['mm', expect.closeTo(38.1, 4)]);
  });
  it('is read as it is turned, and from its own corner', () => {
    // 20 wide and 10 high, at the lower left; turned to the right it is at the upper left.
    const two = [rect('fill', 72, 36, 72, 36), rect('fill', 144, 36, 9, 9)];
    const at = (rotate: number) => sizes(page(two, { rotate }))[1];
    expect(at(0)).toEqual([25.4, 0, 28.575, 3.175]);
    expect(at(90)).toEqual([0, 0, 3.175, 3.175]);
    expect(at(180)).toEqual([0, 9.525, 3.175, 12.7]);
    expect(at(270)).toEqual([9.525, 25.4, 12.7, 28.575]);
    expect(sizes(page(two, { view: [72, 36, 288, 144] }))).toEqual(sizes(page(two)));
  });
  it('fills and draws by what its program set, by either rule, closed where it says so', () => {
    const { shapes } = read(page([
      step('setFillRGBColor', '#ff0000'), step('setStrokeRGBColor', '#00ff00'), step('setLineWidth', 7.2),
      rect('fillStroke', 0, 0, 72, 72), rect('eoFill', 80, 0, 20, 20), step('save'), step('transform', 2, 0, 0, 2, 0, 0),
      step('constructPath', 'closeStroke', [new Float32Array([0, 60, 0, 1, 70, 0, 1, 70, 10])]), step('restore'),
      step('constructPath', 'stroke', [new Float32Array([0, 200, 0, 2, 210, 0, 220, 10, 220, 20])]),
    ])); // prettier-ignore
    expect(shapes.map((s) => [s.fill, s.stroke, s.rule, Math.round(s.width * 100) / 100, s.contours[0]!.closed])).toEqual([
      ['#ff0000', '#00ff00', 'nonzero', 2.54, true],
      ['#ff0000', null, 'evenodd', 0, true],
      [null, '#00ff00', 'nonzero', 5.08, true],
      [null, '#00ff00', 'nonzero', 2.54, false],
    ]); // prettier-ignore
  });
  it('keeps to its clips, one within the other, until they are restored', () => {
    const clipped = [step('save'), step('clip'), rect('endPath', 0, 0, 36, 144), step('eoClip'), rect('endPath', 0, 0, 144, 36), rect('fill', 0, 0, 288, 144), step('restore'), rect('fill', 0, 0, 72, 9)]; // prettier-ignore
    expect(sizes(page(clipped))).toEqual([[0, 0, 12.7, 12.7], [0, 0, 25.4, 3.175]]); // prettier-ignore
  });
  it('has forms and groups in it, with their matrix and their box', () => {
    const form = [step('paintFormXObjectBegin', new Float32Array([0.5, 0, 0, 0.5, 72, 0]), new Float32Array([0, 0, 72, 72])), rect('fill', 0, 0, 200, 200), step('paintFormXObjectEnd'), rect('fill', 0, 0, 9, 9)]; // prettier-ignore
    expect(sizes(page(form))).toEqual([[25.4, 0, 38.1, 12.7], [0, 0, 3.175, 3.175]]); // prettier-ignore
    const group = [step('beginGroup', { matrix: [1, 0, 0, 1, 72, 72], bbox: null }), rect('fill', 0, 0, 9, 9), step('endGroup'), rect('fill', 0, 0, 9, 9)]; // prettier-ignore
    expect(sizes(page(group))[0]).toEqual([25.4, 25.4, 28.575, 28.575]);
  });
  it('leaves out what is not seen, and says so', () => {
    const off = { isShown: (marked: unknown) => marked !== 'off' };
    const steps = [step('beginMarkedContentProps', 'OC', 'off'), rect('fill', 0, 0, 9, 9), step('paintImageXObject', 'i'), step('endMarkedContent'), step('beginMarkedContentProps', 'Span', 'off'), rect('fill', 0, 0, 20, 9), step('endMarkedContent'), step('setGState', [['ca', 0]]), rect('fill', 0, 0, 200, 100), step('setGState', [['ca', 0.4], ['SMask', {}]]), rect('fill', 0, 0, 9, 30), step('paintInlineImageXObject'), step('paintImageMaskXObject')]; // prettier-ignore
    const { notes } = read(page(steps, off));
    expect(sizes(page(steps, off))).toEqual([[0, 0, 7.056, 3.175], [0, 0, 3.175, 10.583]]); // prettier-ignore
    expect(notes).toEqual(['2 pictures are left out: only what is drawn is read.', 'A shape is on layers that are off, and left out.', 'A soft mask is left out: what lies under it is read as if it were all there.']); // prettier-ignore
    expect(readPdfPage(page([step('paintImageXObject', 'i')]), plain)).toMatchObject({ ok: false, problem: { code: 'nothing-seen', message: 'Nothing is drawn on the page. A picture is left out: only what is drawn is read.' } }); // prettier-ignore
  });
  it('paints shadings and patterns as what is of more than one colour', () => {
    const many = [step('setFillColorN', 'Shading', 'p1'), rect('fill', 0, 0, 9, 9), step('setFillRGBColor', '#0000ff'), step('save'), step('clip'), rect('endPath', 20, 0, 9, 9), step('shadingFill', 'p2'), step('restore'), rect('fill', 0, 20, 9, 9)]; // prettier-ignore
    const [pattern, shading, plainly] = read(page(many)).shapes;
    expect([pattern!.fill, shading!.fill, plainly!.fill]).toEqual([pattern!.fill, pattern!.fill, '#0000ff']);
    expect(pattern!.fill).not.toMatch(/^#/);
  });
});

describe('letters of a PDF', () => {
  // A letter that is a box of half an em, with its foot on the line; as wide as 600 of 1000.
  const boxes: PdfFont = { name: 'Boxes', embedded: true, advance: 0.001, outlineOf: (c) => (c === 'x' ? [0, 0, 0, 1, 0.5, 0, 1, 0.5, 0.5, 1, 0, 0.5, 4] : null) }; // prettier-ignore
  const x = { fontChar: 'x', unicode: 'x', width: 600, isSpace: false, isInFont: true };
  const space = { fontChar: ' ', unicode: ' ', width: 300, isSpace: true, isInFont: true };
  const set = (...steps: readonly PdfStep[]): number[][] =>
    sizes(page([rect('fill', 0, 0, 1, 1), step('beginText'), step('setFont', 'f', 72), ...steps, step('endText')], { fontOf: () => boxes })).slice(1); // prettier-ignore
  it('stand where the program sets them, one after the other, kerned and spaced', () => {
    // ISO 32000-1, 9.4.4: advance = (w0 − Tj/1000) · Tfs + Tc + Tw, times Th.
    expect(set(step('setTextMatrix', new Float32Array([1, 0, 0, 1, 72, 36])), step('showText', [x, x]))).toEqual([[25.4, 12.7, 38.1, 25.4], [40.64, 12.7, 53.34, 25.4]]); // prettier-ignore
    expect(set(step('setCharSpacing', 7.2), step('setWordSpacing', 72), step('showText', [x, space, x]))[1]![0]).toBeCloseTo((0.6 + 0.3 + 1 + 0.2) * 25.4, 3); // prettier-ignore
    expect(set(step('showText', [x, -500, x]))[1]![0]).toBeCloseTo(1.1 * 25.4, 3);
    expect(set(step('setHScale', 50), step('showText', [x, x]))).toEqual([
      [0, 0, 6.35, 12.7],
      [7.62, 0, 13.97, 12.7],
    ]);
    expect(set(step('setTextRise', 18), step('showText', [x]))[0]).toEqual([0, 6.35, 12.7, 19.05]);
  });
  it('go on by lines', () => {
    const lines = set(step('moveText', 0, 72), step('showText', [x]), step('setLeadingMoveText', 36, -36), step('showText', [x]), step('nextLine'), step('showText', [x])); // prettier-ignore
    expect(lines.map((b) => b.slice(0, 2))).toEqual([[0, 25.4], [12.7, 12.7], [12.7, 0]]); // prettier-ignore
  });
  it('are drawn, filled or neither by their mode', () => {
    const of = (mode: number) => read(page([rect('fill', 0, 0, 9, 9), step('setFont', 'f', 72), step('setTextRenderingMode', mode), step('showText', [x])], { fontOf: () => boxes })).shapes.slice(1).map((s) => [s.fill !== null, s.stroke !== null]); // prettier-ignore
    expect([0, 1, 2, 3].map(of)).toEqual([[[true, false]], [[false, true]], [[true, true]], []]);
  });
  it('that the file has no outlines of are named once, as far as a person needs them', () => {
    const lost: PdfFont = { ...boxes, embedded: false };
    const glyphs = (text: string) => [...text].map((c) => ({ ...x, unicode: c }));
    const steps = [rect('fill', 0, 0, 1, 1), step('setFont', 'f', 9), step('showText', glyphs('Skerry')), step('showText', glyphs('Skerry')), step('showText', glyphs('y'.repeat(60)))]; // prettier-ignore
    const { notes } = pdfDrawing(page(steps, { fontOf: () => lost }));
    expect(notes).toEqual([`Text is left out, for its letters are not in the file: “Skerry”, “${'y'.repeat(40)}…”. Have it sent with its fonts embedded, or as paths.`]); // prettier-ignore
    // Of no font at all as well.
    expect(pdfDrawing(page(steps)).notes).toEqual(notes);
  });
});
