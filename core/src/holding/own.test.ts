import { testBatch } from '../test-batch';
import { markPlaces, MARK_SQUARE } from './layout';
import { ownBoard, parseMarkTable, parseReadingTable } from './own';
import { PAPERS } from './sheet-settings';

const { blank } = testBatch();
const cross = { kind: 'cross', size: 6 } as const;

describe('marks of a piece’s own', () => {
  it('are read from a table as it is typed anywhere: units, fractions, decimal commas, headings', () => {
    const made = parseMarkTable(
      'x; y; form; size\n12,5; 10; hole; 6\n# a remark\n1 1/2 in\t0.4in\tcorner\t8 mm\n\n50; 60',
    );
    expect(made).toEqual({
      ok: true,
      value: [
        { x: 12.5, y: 10, look: { kind: 'ring', size: 6 } },
        { x: expect.closeTo(38.1, 9), y: expect.closeTo(10.16, 9), look: { kind: 'corner', size: 8 } },
        { x: 50, y: 60, look: cross },
      ],
    });
    expect(parseMarkTable('3, 4, dot, 2')).toMatchObject({ value: [{ x: 3, y: 4, look: { kind: 'dot', size: 2 } }] });
    expect(parseMarkTable('3 4')).toMatchObject({ value: [{ x: 3, y: 4 }] });
  });

  it('name the line and the cell of what is wrong, and take nothing then', () => {
    const problem = (text: string): string => {
      const made = parseMarkTable(text);
      return made.ok ? 'taken' : made.problem.message;
    };
    expect(problem('1; 2\n3; four')).toMatch(/^Line 2, y: /);
    expect(problem('1')).toBe('Line 1: y is missing.');
    expect(problem('1; 2; triangle')).toMatch(/^Line 1: “triangle” is no form of a mark/);
    expect(problem('1; 2; dot; 900')).toMatch(/Line 1: a mark is 0\.5 to 100 mm/);
    expect(problem('')).toBe('The table has no lines.');
    expect(problem('1;2\n'.repeat(500))).toMatch(/more than 400 lines/);
  });

  it('make a board of one place; two at least, not at one place', () => {
    const good = ownBoard(
      blank,
      {
        marks: [
          { x: 5, y: 5, look: cross },
          { x: 55, y: 25, look: cross },
        ],
        stretches: false,
      },
      'P',
      1,
    );
    expect(good.ok && good.value.marks.map((m) => [m.id, m.at.x])).toEqual([
      [1, 5],
      [2, 55],
    ]);
    expect(good.ok && good.value.slots).toHaveLength(1);
    const code = (marks: { x: number; y: number }[]): string => {
      const made = ownBoard(blank, { marks: marks.map((m) => ({ ...m, look: cross })), stretches: false }, 'P', 1);
      return made.ok ? 'made' : made.problem.code;
    };
    expect(code([{ x: 5, y: 5 }])).toBe('too-few-marks');
    expect(
      code([
        { x: 5, y: 5 },
        { x: 5.5, y: 5 },
      ]),
    ).toBe('marks-on-one-point');
    expect(code(Array.from({ length: 13 }, (_, i) => ({ x: 4 * i, y: 0 })))).toBe('too-many-marks');
  });
});

describe('readings from a table', () => {
  it('are known marks, each once', () => {
    expect(parseReadingTable('mark; x; y\n1; 166.84; 110.13\n2; 714,70; 143', [1, 2, 3])).toEqual({
      ok: true,
      value: [
        { mark: 1, x: 166.84, y: 110.13 },
        { mark: 2, x: 714.7, y: 143 },
      ],
    });
    const problem = (text: string): string => {
      const made = parseReadingTable(text, [1, 2]);
      return made.ok ? 'taken' : made.problem.message;
    };
    expect(problem('7; 1; 2')).toBe('Line 1: there is no mark “7”; marks are 1, 2.');
    expect(problem('1; 1; 2\n1; 3; 4')).toBe('Line 2: mark 1 stands in the table twice.');
    expect(problem('1; 1')).toBe('Line 1: y is missing.');
  });
});

describe('up to twelve marks on a board', () => {
  it('stand clear of each other, and are fewer where there is no room for more', () => {
    const twelve = markPlaces(400, 280, 12);
    expect(twelve).toHaveLength(12);
    for (const a of twelve)
      for (const b of twelve)
        if (a.id < b.id) expect(Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y)).toBeGreaterThan(MARK_SQUARE);
    expect(markPlaces(110, 80, 12).length).toBeLessThan(12);
    expect(markPlaces(110, 80, 12).length).toBeGreaterThanOrEqual(4);
  });
});

describe('papers', () => {
  it('have the sizes of ISO 216: sides as 1 to √2, A0 of a square metre, halved and rounded down', () => {
    let [width, height] = [841, 1189];
    expect((width * height) / 1e6).toBeCloseTo(1, 3);
    for (let n = 1; n <= 4; n += 1) [width, height] = [Math.floor(height / 2), width];
    expect(PAPERS.A4).toEqual({ width, height });
    expect(PAPERS.A3).toEqual({ width: height, height: width * 2 });
    expect(PAPERS.Letter.width).toBeCloseTo(8.5 * 25.4, 9);
    expect(PAPERS.Letter.height).toBeCloseTo(11 * 25.4, 9);
  });
});
