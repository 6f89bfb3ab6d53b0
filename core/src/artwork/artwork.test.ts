import DxfParser from 'dxf-parser';
import { boxHeight, boxWidth, circle, contoursBox, flatten, polygonArea, roundedRectangle } from '../geometry';
import { writeDxf, writeSvg } from '../output';
import { testBlank } from '../test-batch';
import { testAlphabets } from '../test-alphabets';
import { batchArt, pieceShapes } from './pieces';
import { readDxfOutline } from './outline-dxf';
import { readSvg } from '../test-plain';

const svg = (body: string, attributes = 'width="60mm" height="30mm" viewBox="0 0 60 30"'): string =>
  `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${body}</svg>`;

describe('outlines from SVG', () => {
  it('reads shapes through nested transforms in real millimetres', () => {
    const read = readSvg(
      svg('<g transform="translate(5 5)"><g transform="scale(2)"><rect width="20" height="8" rx="2"/></g></g>'),
    );
    expect(read.ok && [read.value.width, read.value.height, read.value.unit]).toEqual([
      expect.closeTo(40, 6),
      expect.closeTo(16, 6),
      'mm',
    ]);
    if (read.ok)
      expect(Math.abs(polygonArea(flatten(read.value.contours[0]!)))).toBeCloseTo(640 - (4 - Math.PI) * 16, 0);
  });
  it('reads curves, with the largest outline first', () => {
    const read = readSvg(
      svg('<circle cx="10" cy="10" r="2"/><path d="M0 0h50v25h-50z"/><path d="M5 5c0 10 20 10 20 0z"/>'),
    );
    expect(read.ok && read.value.contours.length).toBe(3);
    expect(read.ok && read.value.width).toBeCloseTo(50, 6);
  });
  it('takes inches as inches and asks when no unit is stated', () => {
    const inch = readSvg(svg('<rect width="2" height="1"/>', 'width="2in" height="1in" viewBox="0 0 2 1"'));
    expect(inch.ok && inch.value.width).toBeCloseTo(50.8, 6);
    const bare = readSvg(svg('<rect width="96" height="48"/>', 'viewBox="0 0 96 48"'));
    expect(bare.ok && [bare.value.unit, bare.value.width]).toEqual(['unstated', expect.closeTo(25.4, 6)]);
    expect(bare.ok && bare.value.notes.join()).toContain('does not state');
  });
  it.each([
    ['a script', svg('<script>1</script>'), /<script>/],
    ['a handler', svg('<rect onload="x()" width="9" height="9"/>'), /script/],
    ['an entity', '<!DOCTYPE svg [<!ENTITY a "b">]><svg/>', /entities/],
    [
      'a picture',
      svg('<image href="http://x/y.png"/>'),
      /no closed outline.*A picture in the file is left out: bring it in by itself/,
    ],
    ['nothing closed', svg('<path d="M0 0L10 10"/>'), /no closed outline/],
    ['a truncated file', svg('<rect width="5" height="5"/>').slice(0, -10), /not complete XML/],
    ['a bad path', svg('<path d="M0 0L x"/>'), /Line 1/],
    ['a speck', svg('<rect width=".1" height=".1"/>'), /between 0.5 mm/],
    ['no XML at all', 'GIF89a', /not complete XML/],
    ['deep nesting', svg('<g>'.repeat(80) + '</g>'.repeat(80)), /nested/],
    ['references', svg('<use href="other.svg#a"/>'), /Line 1: The file refers to another file/],
    ['50 MB', ' '.repeat(50_000_000), /at most 8 MB/],
  ])('refuses %s', (_name, text, sentence) => {
    const read = readSvg(text);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.problem.message).toMatch(sentence);
  });
});

describe('outlines from DXF', () => {
  const shape = [
    {
      name: 'outline',
      kind: 'cut' as const,
      contours: [roundedRectangle({ x: 10, y: 5 }, 60, 25, 3), circle({ x: 0, y: 5 }, 2)],
    },
  ];
  it('reads back what was written, arcs as arcs', () => {
    const read = readDxfOutline(writeDxf(shape));
    expect(read.ok && [read.value.width, read.value.height, read.value.unit]).toEqual([
      expect.closeTo(60, 5),
      expect.closeTo(25, 5),
      'mm',
    ]);
    if (read.ok)
      expect(Math.abs(polygonArea(flatten(read.value.contours[0]!, 0.001)))).toBeCloseTo(1500 - (4 - Math.PI) * 9, 1);
  });
  it('joins loose lines and arcs into an outline', () => {
    const line = (x1: number, y1: number, x2: number, y2: number): string =>
      `0\nLINE\n8\n0\n10\n${x1}\n20\n${y1}\n11\n${x2}\n21\n${y2}\n`;
    const text = `0\nSECTION\n2\nENTITIES\n${line(0, 0, 20, 0)}${line(0, 10, 0, 0)}${line(20, 10, 0, 10)}0\nARC\n8\n0\n10\n20\n20\n5\n40\n5\n50\n270\n51\n90\n0\nHATCH\n8\n0\n0\nENDSEC\n0\nEOF\n`;
    const read = readDxfOutline(text);
    expect(read.ok && read.value.contours.length).toBe(1);
    expect(read.ok && read.value.width).toBeCloseTo(25, 6);
    expect(read.ok && read.value.notes.join(' ')).toMatch(/1 × HATCH left out.*does not state its unit/);
  });
  it.each([
    ['cut short', writeDxf(shape).slice(0, 900), /cut short/],
    ['not DXF', 'hello\nworld\n', /group code/],
    ['a word for a number', writeDxf(shape).replace(/\n40\n2\.0+/, '\n40\nwide'), /“wide” in CIRCLE is not a number/],
  ])('refuses a file that is %s', (_n, text, sentence) => {
    const read = readDxfOutline(text);
    expect(!read.ok && read.problem.message).toMatch(sentence);
  });
  it('is read by dxf-parser too, with layers, millimetres and the same size', () => {
    const parsed = new DxfParser().parseSync(writeDxf(shape))!;
    expect(parsed.header.$INSUNITS).toBe(4);
    expect(Object.keys((parsed.tables as unknown as { layer: { layers: object } }).layer.layers)).toEqual(['OUTLINE']);
    const poly = parsed.entities.find((e) => e.type === 'POLYLINE') as unknown as {
      vertices: { x: number; y: number; bulge?: number }[];
    };
    const box = contoursBox([{ closed: true, vertices: poly.vertices }]);
    expect(boxWidth(box)).toBeCloseTo(60, 2);
    expect(boxHeight(box)).toBeCloseTo(25, 2);
    expect((parsed.entities.find((e) => e.type === 'CIRCLE') as unknown as { radius: number }).radius).toBeCloseTo(
      2,
      6,
    );
  });
  it('goes through SVG and back', () => {
    const read = readSvg(writeSvg('t', 80, 40, shape));
    expect(read.ok && [read.value.width, read.value.height]).toEqual([expect.closeTo(60, 3), expect.closeTo(25, 3)]);
  });
});

describe('art on pieces', () => {
  const [zone] = testBlank.zones;
  const settings = {
    lines: [{ column: 'name', alphabet: 'b612-bold', capHeight: 6 }],
    gap: 1,
    narrowest: 0.8,
    smallest: 1.5,
  };
  it('puts names into the zone, clear of the hole', () => {
    const art = batchArt(testBlank, zone!, settings, [{ name: 'KESTREL' }, { name: 'OYSTERCATCHER' }], testAlphabets);
    expect(art.problems).toEqual([]);
    for (const piece of art.pieces)
      for (const line of pieceShapes(art, zone!, piece).filled)
        for (const p of line) expect(Math.abs(p.x - 3.5)).toBeLessThanOrEqual(23.6);
  });
  it('names the piece whose art meets a keep-out', () => {
    const art = batchArt(
      testBlank,
      { ...zone!, keepOuts: [{ x: 0, y: 0, width: 5, height: 5 }] },
      settings,
      [{ name: 'KNOT' }],
      testAlphabets,
    );
    expect(art.problems[0]!.message).toContain('Piece 1, “KNOT”: the lettering runs into keep-out 1');
  });

  it('speaks of an outline that crosses itself, and of none that does not', () => {
    const read = (d: string): string => {
      const made = readSvg(
        `<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40"><path d="${d}"/></svg>`,
      );
      return made.ok ? made.value.notes.join() : made.problem.message;
    };
    expect(read('M0 0L30 20L30 0L0 20Z')).toMatch(/One outline crosses itself/);
    expect(read('M0 0L30 0L30 20L0 20Z')).not.toMatch(/crosses/);
  });
});
