import { contoursBox, flatten, polygonArea, type Contour } from '../geometry';
import { plain } from '../test-plain';
import { readSvgArt } from './outline-svg';
import { withoutArcs } from './svg-curves';
import { transformAttribute } from './svg-css';

// Sizes by hand from what SVG 2 and CSS say of each; a pixel is 25.4 / 96 mm [CSS Values 3, 6.2].
const PX = 25.4 / 96;
const read = (body: string, root = 'width="100mm" height="60mm" viewBox="0 0 100 60"') => {
  const made = readSvgArt(`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${root}>${body}</svg>`, plain); // prettier-ignore
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
/** Left, bottom, right and top of all that is seen. */
const box = (body: string, root?: string): number[] => {
  const b = contoursBox(read(body, root).shapes.flatMap((s) => s.contours));
  return [b.minX, b.minY, b.maxX, b.maxY].map((v) => Math.round(v * 1000) / 1000);
};
const area = (contours: readonly Contour[]): number => contours.reduce((s, c) => s + polygonArea(flatten(c, 0.001)), 0);

describe('a drawing as its standard says it', () => {
  it.each([
    ['a rectangle in millimetres where none is stated', '<rect width="60mm" height="10mm"/>', '', [0, 0, 60, 10]],
    ['one in millimetres of a drawing in pixels', '<rect width="60mm" height="10mm"/>', 'width="100mm" height="60mm"', [0, 50, 60, 60]],
    ['percent of the viewBox', '<rect width="10%" height="50%"/>', undefined, [0, 30, 10, 60]],
    ['a hidden path', '<rect width="9" height="9"/><path display="none" d="M0 0h99v59h-99z"/>', undefined, [0, 51, 9, 60]],
    ['one hidden by its class', '<style>.off{display:none}</style><rect width="9" height="9"/><path class="off" d="M0 0h99v59h-99z"/>', undefined, [0, 51, 9, 60]],
    ['a nested viewBox', '<svg x="10" y="10" width="40" height="40" viewBox="0 0 10 10"><rect width="10" height="5"/></svg>', undefined, [10, 30, 50, 50]],
    ['a nested one that is fitted whole', '<svg width="40" height="20" viewBox="0 0 10 10"><rect width="10" height="10"/></svg>', undefined, [10, 40, 30, 60]],
    ['a transform of its style', '<rect width="10" height="4" style="transform: translate(20px, 10px) rotate(90deg)"/>', undefined, [16, 40, 20, 50]],
    ['a transform of its class, in millimetres', '<style>.m{transform:translateX(10mm) scale(2)}</style><rect class="m" width="10" height="4"/>', 'width="100mm" height="60mm"', [10, 60 - 8 * PX, 10 + 20 * PX, 60]],
    ['about a place of its own', '<rect width="10" height="4" transform="rotate(180)" transform-origin="20 10"/>', undefined, [30, 40, 40, 44]],
    ['the same thing used twice', '<defs><rect id="r" width="5" height="5"/></defs><use xlink:href="#r"/><use href="#r" x="30" y="20"/>', undefined, [0, 35, 35, 60]],
    ['a symbol fitted where it is used', '<symbol id="s" viewBox="0 0 2 2"><rect width="2" height="2"/></symbol><use href="#s" x="10" width="20" height="20"/>', undefined, [10, 40, 30, 60]],
    ['what is cut by a clip path', '<clipPath id="c"><rect x="5" y="5" width="10" height="10"/></clipPath><g clip-path="url(#c)"><rect width="50" height="8"/></g>', undefined, [5, 52, 15, 55]],
    ['what is cut by a clip path within a clip path', '<clipPath id="a"><rect x="10" y="5" width="30" height="30"/></clipPath><clipPath id="b" clip-path="url(#a)"><circle cx="38" cy="20" r="14"/></clipPath><rect width="60" height="40" clip-path="url(#b)"/>', undefined, [24, 26, 40, 54]],
    ['what is cut by half of its own box', '<clipPath id="c" clipPathUnits="objectBoundingBox"><rect x=".25" width=".5" height="1"/></clipPath><g transform="translate(10 0)"><ellipse cx="30" cy="20" rx="24" ry="12" clip-path="url(#c)"/></g>', undefined, [28, 28, 52, 52]],
    ['a drawing that is as wide as it likes', '<rect width="200" height="100"/>', 'width="50mm" height="50mm" viewBox="0 0 200 100" preserveAspectRatio="none"', [0, 0, 50, 50]],
    ['one that is fitted to the top', '<rect width="200" height="100"/>', 'width="50mm" height="50mm" viewBox="0 0 200 100" preserveAspectRatio="xMidYMin"', [0, 25, 50, 50]],
    ['one whose origin lies elsewhere', '<rect x="-10" y="-10" width="5" height="5"/>', 'width="10cm" height="60mm" viewBox="-10 -10 100 60"', [0, 55, 5, 60]],
    ['points', '<rect width="72" height="36"/>', 'width="144pt" height="72pt" viewBox="0 0 144 72"', [0, 12.7, 25.4, 25.4]],
  ] as const)('%s', (_, body, root, wanted) => {
    expect(box(body, root)).toEqual(wanted.map((v) => expect.closeTo(v, 2)));
  }); // prettier-ignore

  it('elliptic corners, circles and arcs to a thousandth', () => {
    // A rectangle of 40 × 20 with corners of 8 × 3: less (4 − π) ab; chords 0.005 within take two thirds of that of 36 mm.
    const rounded = -area(read('<rect width="40" height="20" rx="8" ry="3"/>').shapes[0]!.contours);
    const whole = 800 - (4 - Math.PI) * 24;
    expect(rounded).toBeLessThan(whole);
    expect(rounded).toBeGreaterThan(whole - (2 / 3) * 0.005 * 36);
    // A circle of 80 mm: every point of it lies 40 from its middle, chords 0.005 within.
    const [round] = read('<circle cx="50" cy="30" r="40"/>').shapes;
    for (const v of round!.contours[0]!.vertices) expect(Math.hypot(v.x - 50, v.y - 30)).toBeCloseTo(40, 4);
    const arc = read('<path d="M10 30A40 40 0 0 1 90 30" fill="none" stroke="#f00"/>').shapes[0]!.contours[0]!;
    for (const v of arc.vertices) expect(Math.hypot(v.x - 50, v.y - 30)).toBeCloseTo(40, 4);
    expect(contoursBox([arc]).maxY).toBeCloseTo(70, 2);
  });
  it('arcs whose radii are too short, nought, turned, and the long way round', () => {
    const ends = (d: string) => withoutArcs(d)!.match(/-?[\d.]+ -?[\d.]+$/)![0];
    for (const d of ['M0 0A1 1 0 0 1 10 0', 'M0 0A0 5 0 0 1 10 0', 'M0 0A8 3 40 1 0 10 0', 'M0 0a8 3 40 1 1 10 0'])
      expect(ends(d)).toBe('10 0');
    // Too short: grown until they reach, half a circle of 5 [SVG 2, B.2.5].
    const grown = read('<path d="M20 20A1 1 0 0 1 30 20Z"/>').shapes[0]!.contours;
    expect(Math.abs(area(grown))).toBeCloseTo((Math.PI * 25) / 2, 1);
    const long = read('<path d="M20 20A10 10 0 1 1 30 20Z"/>').shapes[0]!.contours;
    // The larger part of a circle of 10 beyond a chord of 10: πr² − (r² asin ½ − 5 × √75).
    expect(Math.abs(area(long))).toBeCloseTo(Math.PI * 100 - (100 * Math.asin(0.5) - 5 * Math.sqrt(75)), 0);
  });
  it('keeps paints, fill rules and widths of strokes as they are drawn', () => {
    const { shapes } = read('<g transform="scale(2)"><path d="M0 0h9v9h-9zM2 2h4v4h-4z" fill-rule="evenodd" fill="RED" stroke="rgb(0,128,0)" stroke-width="0.5"/></g><rect width="5" height="5" fill="none" stroke="blue" stroke-opacity="0"/><rect width="5" height="5" fill="none" stroke="blue"/>'); // prettier-ignore
    expect(shapes.map(({ fill, stroke, width, rule }) => [fill, stroke, width, rule])).toEqual([
      ['#ff0000', '#008000', 1, 'evenodd'],
      [null, '#0000ff', 1, 'nonzero'],
    ]);
    expect(read('<linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="1"/></linearGradient><rect width="9" height="9" fill="url(#g)"/>').shapes[0]!.fill).toBe('more than one colour'); // prettier-ignore
  });
  it('takes out of a style what moves, and nothing else', () => {
    const [shape] = read('<rect width="10" height="4" style="text-transform:none;fill:#102030;transform:translate(5px,0);stroke:none"/>').shapes; // prettier-ignore
    expect([shape!.fill, shape!.stroke, contoursBox(shape!.contours).minX]).toEqual(['#102030', null, 5]);
    const sheet = read('<style>.a{text-transform:none;fill:#405060;transform-origin:1px 1px;transform:rotate(90deg)}</style><rect class="a" x="1" y="1" width="10" height="4"/>').shapes[0]!; // prettier-ignore
    expect([sheet.fill, contoursBox(sheet.contours).maxX]).toEqual(['#405060', expect.closeTo(1, 6)]);
  });
  it('cuts lines and areas to a clip path, those within it are as they were', () => {
    const clip = '<clipPath id="c"><circle cx="20" cy="20" r="10"/></clipPath>';
    const { shapes } = read(`${clip}<g clip-path="url(#c)"><path d="M0 20H60" fill="none" stroke="#000"/><rect x="10" y="10" width="20" height="20"/></g>`); // prettier-ignore
    expect(shapes.map((s) => contoursBox(s.contours).maxX - contoursBox(s.contours).minX)).toEqual([expect.closeTo(20, 2), expect.closeTo(20, 2)]); // prettier-ignore
    expect(shapes[0]!.contours[0]!.closed).toBe(false);
    expect(Math.abs(area(shapes[1]!.contours))).toBeCloseTo(Math.PI * 100, 0);
  });
  it('names its texts and counts its pictures, and what is not seen of it', () => {
    const file = read('<text x="1" y="9">Skerry Sound</text><text>1st</text><image width="4" height="4" href="data:image/png;base64,AA=="/><rect width="9" height="9"/><rect width="9" height="9" visibility="hidden"/><g display="none"><rect width="5" height="5"/><rect width="3" height="3"/></g>'); // prettier-ignore
    expect(file.notes).toEqual([
      'Text is left out: “Skerry Sound”, “1st”. Turn it into outlines where it was drawn, or carry it as lettering.',
      'A picture in the file is left out: bring it in by itself.',
    ]);
    expect([file.shapes.length, file.hidden]).toEqual([1, 3]);
  });
  it.each([
    ['translate(2mm, 3px) rotate(0.25turn)', `translate(${2 * (96 / 25.4)} 3) rotate(90)`],
    ['scale(2)', 'scale(2 2)'],
    ['matrix(1, 0, 0, 1, 5, 6)', 'matrix(1 0 0 1 5 6)'],
    ['skewX(200grad)', 'skewX(180)'],
    ['none', ''],
    ['translate(50%)', null],
    ['rotate3d(1, 0, 0, 9deg)', null],
    ['rotate(9deg) nonsense', null],
  ])('the style “%s” is the attribute %j', (css, attribute) => expect(transformAttribute(css)).toBe(attribute));
  it.each([
    ['<rect width="9" height="9" style="transform:translate(50%)"/>', /Line 1: The transform “translate\(50%\)” in its style cannot be read/],
    ['<rect width="9" height="9" transform="rotate(9)" style="transform-origin: center"/>', /The place “center” that a transform turns about/],
    ['<g onclick="x()"/>', /contains a script/],
  ])('%s is refused', (body, words) => expect(() => read(body)).toThrow(words)); // prettier-ignore
});
