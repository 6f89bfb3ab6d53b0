import { blankSizes, loosePocket, madeOf, type BlankSizes, type Made } from '../holding';
import { markSpread } from '../marks';
import { testBlank } from '../test-batch';
import { reckonBudget } from './budget';
import type { BudgetInput, SourceId } from './input';
import { seeded } from './random';
import { simulatePieces, worstCorner } from './simulate';

// Each source alone, against what is known of its law: two equal normal errors make a Rayleigh radius, two uniform ones
// a square. Variances add, so that the mean square of the radius is their sum.
const COUNT = 60_000;
const RAYLEIGH_95 = Math.sqrt(-2 * Math.log(0.05));
/** 95 % of a square of half side 1 lie within this: πR² − 4(R² acos(1/R) − √(R² − 1)) = 0.95 · 4, solved by halving. */
const squareRadius = (): number => {
  let [low, high] = [1, Math.SQRT2];
  for (let i = 0; i < 60; i += 1) {
    const r = (low + high) / 2;
    const area = Math.PI * r * r - 4 * (r * r * Math.acos(1 / r) - Math.sqrt(r * r - 1));
    if (area < 0.95 * 4) low = r;
    else high = r;
  }
  return low;
};

const measured = blankSizes(testBlank, 0.95, 0.95);
const still = (spread: number): BlankSizes => ({
  ...measured,
  length: { ...measured.length, mean: 60, spread, dof: Infinity },
  width: { ...measured.width, mean: 25, spread, dof: Infinity },
});
const marks = markSpread([
  { x: 0, y: 0 },
  { x: 200, y: 0 },
  { x: 200, y: 100 },
  { x: 0, y: 100 },
]);
const at = (x: number, y: number, angle = 0) => [
  { slot: 1, row: 0, column: 0, angle, centre: { x: marks.centre.x + x, y: marks.centre.y + y } },
];
/** A point of art on a piece that lies in the middle of the marks, and nothing that is off. */
const quiet: BudgetInput = {
  tolerance: 1,
  art: { minX: 0, maxX: 0, minY: 0, maxY: 0 },
  lies: 'drawn',
  sizes: still(0),
  pocket: { ...loosePocket(testBlank, measured, { school: 'loose' }), length: 60, width: 25, yaw: 0 },
  slots: at(0, 0),
  marks,
  sigma: 0,
  aimingGrowth: 1,
  pointer: { status: 'measured', uncertainty: 0 },
  repeatability: 0,
  outline: 0,
  laid: null,
  leftoverAngle: 0,
  pieces: COUNT,
  seed: 11,
};
const radii = (change: Partial<BudgetInput>): Float64Array => simulatePieces({ ...quiet, ...change }, COUNT);
const within95 = (change: Partial<BudgetInput>): number => radii(change)[Math.ceil(0.95 * COUNT) - 1]!;
const meanSquare = (change: Partial<BudgetInput>): number => radii(change).reduce((s, r) => s + r * r, 0) / COUNT;
/** Within so many hundredths of what is known. */
const near = (value: number, known: number, hundredths = 2): void =>
  expect(Math.abs(value / known - 1)).toBeLessThan(hundredths / 100);

describe('a source by itself', () => {
  it('nothing off is nothing off', () => expect(within95({})).toBe(0));

  it('a measured pointer, and outlines found in a picture, are normal both ways', () => {
    near(within95({ pointer: { status: 'measured', uncertainty: 0.1 } }), 0.1 * RAYLEIGH_95);
    near(within95({ outline: 0.1 }), 0.1 * RAYLEIGH_95);
  });

  it('an unmeasured pointer, and the machine’s return, are anywhere within their bounds', () => {
    near(within95({ repeatability: 0.1 }), 0.1 * squareRadius(), 1);
    near(within95({ pointer: { status: 'unmeasured', uncertainty: 0.1 } }), 0.1 * Math.sqrt(3) * squareRadius(), 1);
    expect(radii({ repeatability: 0.1 })[COUNT - 1]!).toBeLessThanOrEqual(0.1 * Math.SQRT2);
  });

  it('aiming is σ²/n each way in the middle of the marks, and turns with the distance from it', () => {
    const sigma = 0.05;
    near(meanSquare({ sigma }), (2 * sigma ** 2) / 4);
    for (const [x, y] of [
      [300, 0],
      [0, -200],
      [150, 80],
    ] as const)
      // prettier-ignore
      near(meanSquare({ sigma, slots: at(x, y) }), sigma ** 2 * (2 / 4 + (x ** 2 + y ** 2) / marks.spread));
    // Scales that are read from the marks too weigh more.
    near(meanSquare({ sigma, aimingGrowth: 1.5 }), (1.5 ** 2 * 2 * sigma ** 2) / 4);
  });

  it('a size goes half to each side of the middle that the art is set from', () => {
    near(meanSquare({ lies: 'against', sizes: still(0.2) }), (2 * 0.2 ** 2) / 4);
  });

  it('what a loose pocket leaves is anywhere in it', () => {
    const pocket = { ...quiet.pocket, length: 61, width: 25.6, yaw: 0 };
    near(meanSquare({ lies: 'loose', pocket }), (0.5 ** 2 + 0.3 ** 2) / 3);
    expect(radii({ lies: 'loose', pocket })[COUNT - 1]!).toBeLessThanOrEqual(Math.hypot(0.5, 0.3) + 1e-9);
  });

  it('a turn in the pocket moves what is far from its middle: ψ²(x² + y²)/3', () => {
    const art = { minX: 20, maxX: 20, minY: 5, maxY: 5 };
    // So tight that the turned piece has no room to shift as well.
    const pocket = { ...quiet.pocket, yaw: 0.01 };
    near(meanSquare({ lies: 'loose', art, pocket }), (0.01 ** 2 * (20 ** 2 + 5 ** 2)) / 3);
  });

  it('a turn that is left after the work was turned moves pieces by their distance', () => {
    near(within95({ leftoverAngle: 0.001, slots: at(120, 50) }), 0.001 * 130, 0.01);
  });

  it('lies the same way on a piece that lies turned', () => {
    const turned = (angle: number) => meanSquare({ sigma: 0.05, slots: at(100, 40, angle) });
    near(turned(Math.PI / 2), turned(0), 2);
  });
});

describe('what holds a piece was made', () => {
  const made: Made = { kerf: 0.2, kerfMeasured: false, place: 0.06, seating: 0.09, line: 0.08 };
  // Uniform errors of ± a have variance a²/3; a wall goes out by half of what the kerf is wider.
  const wall = made.kerf ** 2 / 12 + made.place ** 2 / 3;

  it('its corner stands elsewhere by half a kerf and a wall each way, and pieces bear on it as they are pushed', () => {
    near(meanSquare({ lies: 'against', made }), 2 * (wall + made.seating ** 2 / 3));
    // Half a kerf goes the same way along and across: both walls are one cut.
    const kerfOnly = { ...made, place: 0, seating: 0 };
    expect(Math.max(...radii({ lies: 'against', made: kerfOnly }))).toBeCloseTo((Math.SQRT2 * made.kerf) / 2, 3);
    near(within95({ lies: 'against', made: kerfOnly }), Math.SQRT2 * 0.95 * 0.1, 1);
  });

  it('a loose pocket’s middle goes by half of what its walls do, and half of the room they gain is float', () => {
    // A disc: it turns as it likes, and only shifts are looked at.
    const pocket = { ...quiet.pocket, length: 61, width: 61, yaw: null };
    // One axis, thrown by hand: walls a and b outwards, and a place anywhere between them.
    const r = seeded(8);
    const within = (a: number): number => a * (2 * r.uniform() - 1);
    let square = 0;
    for (let i = 0; i < 200_000; i += 1) {
      const kerf = within(made.kerf) / 2;
      const [low, high] = [-0.5 - kerf - within(made.place), 0.5 + kerf + within(made.place)];
      square += (low + (high - low) * r.uniform()) ** 2 / 200_000;
    }
    near(meanSquare({ lies: 'loose', pocket, made }), 2 * square);
    near(2 * square, 2 * (0.5 ** 2 / 3 + made.kerf ** 2 / 36 + (2 * made.place ** 2) / 9));
  });

  it('is told as it is thrown, source by source, and nothing where nothing holds it', () => {
    const said = (change: Partial<BudgetInput>): [string, number][] => reckonBudget({ ...quiet, ...change, made }).sources.filter((s) => s.u > 0).map((s) => [s.id, s.u]); // prettier-ignore
    expect(Object.fromEntries(said({ lies: 'against' }))).toEqual({
      cut: expect.closeTo(Math.sqrt(2 * wall), 9),
      seating: expect.closeTo((Math.SQRT2 * made.seating) / Math.sqrt(3), 9),
    });
    const pocket = { ...quiet.pocket, length: 61, width: 26, yaw: 0 };
    expect(Object.fromEntries(said({ lies: 'loose', pocket }))).toMatchObject({
      cut: expect.closeTo(Math.sqrt(2 * (made.kerf ** 2 / 36 + (2 * made.place ** 2) / 9)), 9),
    });
    expect(reckonBudget({ ...quiet, lies: 'drawn', made: null }).sources.map((s) => s.id)).toEqual(expect.not.arrayContaining(['cut', 'seating'])); // prettier-ignore
    const [cut] = reckonBudget({ ...quiet, lies: 'against', made }).sources.filter((s) => s.id === 'cut');
    expect([cut!.origin, cut!.halve]).toEqual(['assumed', 'Cut a gauge strip and measure the kerf.']);
  });

  it.each<[SourceId, Partial<Made>]>([
    ['cut', { kerf: 0.1, place: 0.03 }],
    ['seating', { seating: 0.045 }],
  ])('%s halved is what the simulation scales', (id, halved) => {
    const against = { lies: 'against' } as const;
    const scaled = simulatePieces({ ...quiet, ...against, made }, 2_000, { id, factor: 0.5 });
    expect([...scaled]).toEqual([...simulatePieces({ ...quiet, ...against, made: { ...made, ...halved } }, 2_000)]);
  });

  it('is known to half a step of its gauge once its kerf was measured', () => {
    const of = (kerfMeasuredAt: string | null) => madeOf({ kerf: 0.16, kerfMeasuredAt, repeatability: 0.04 });
    expect([of(null), of('2026-11-20')].map((m) => [m.kerf, m.kerfMeasured, m.place, m.line])).toEqual([
      [0.1, false, 0.04, 0.08],
      [0.025, true, 0.04, 0.08],
    ]);
  });
});

describe('a machine’s own axes', () => {
  const axes = { scale: 0.001, lean: 0.0016, measured: false, from: 'marks' } as const;
  // Both scales uniform ± s, and half of the lean both ways: (s²/3 + λ²/12) times the distance squared.
  const square = (x: number, y: number): number => (0.001 ** 2 / 3 + 0.0016 ** 2 / 12) * (x * x + y * y);
  it.each([
    [300, 0],
    [0, 200],
    [180, -90],
  ])('are off between the marks and %d, %d from their middle', (x, y) => {
    near(meanSquare({ axes, slots: at(x, y) }), square(x, y));
    const { sources } = reckonBudget({ ...quiet, axes, slots: at(x, y) });
    expect(sources.find((s) => s.id === 'axes')!.u).toBeCloseTo(Math.sqrt(square(x, y)), 9);
  });
  it('of a board that it cut itself are felt over the art alone, wherever it lies', () => {
    const art = { minX: 24, maxX: 24, minY: 7, maxY: 7 };
    for (const slots of [at(0, 0), at(300, 100, 0.7)]) {
      near(meanSquare({ axes: { ...axes, from: 'piece' }, art, slots }), square(24, 7));
      expect(reckonBudget({ ...quiet, axes: { ...axes, from: 'piece' }, art, slots }).sources.find((s) => s.id === 'axes')!.u).toBeCloseTo(Math.sqrt(square(24, 7)), 9); // prettier-ignore
    }
  });
  it('halved are what the simulation scales', () => {
    const scaled = simulatePieces({ ...quiet, axes, slots: at(200, 80) }, 2_000, { id: 'axes', factor: 0.5 });
    expect([...scaled]).toEqual([...simulatePieces({ ...quiet, axes: { ...axes, scale: 0.0005, lean: 0.0008 }, slots: at(200, 80) }, 2_000)]); // prettier-ignore
  });
});

describe('pieces that lie turned, off the middle, with art off theirs', () => {
  const c = { x: 20, y: 5 };
  const art = { minX: c.x, maxX: c.x, minY: c.y, maxY: c.y };
  const angle = 0.7;
  /** The art’s place from the marks’ middle, for a piece at (x, y). */
  const from = (x: number, y: number) => ({
    x: x + c.x * Math.cos(angle) - c.y * Math.sin(angle),
    y: y + c.x * Math.sin(angle) + c.y * Math.cos(angle),
  });

  it('a turn that is left moves the art by its own distance from the marks’ middle', () => {
    const b = from(60, 30);
    near(within95({ leftoverAngle: 0.002, art, slots: at(60, 30, angle) }), 0.002 * Math.hypot(b.x, b.y), 0.01);
  });
  it('a turn of the piece and one of the burn undo each other', () => {
    // In the middle of the marks: |a − ψ| · |c| with ψ anywhere in ± f.
    const pocket = { ...quiet.pocket, yaw: 0.01 };
    const [a, f] = [0.01, 0.01];
    near(meanSquare({ lies: 'loose', art, pocket, leftoverAngle: a, slots: at(0, 0, angle) }), (a ** 2 + f ** 2 / 3) * (c.x ** 2 + c.y ** 2)); // prettier-ignore
  });
  it('a shift of the marks and a size go each their own way', () => {
    near(
      meanSquare({ lies: 'against', sizes: still(0.2), sigma: 0.05, art, slots: at(0, 0, angle) }),
      2 * 0.1 ** 2 + 0.05 ** 2 * (2 / 4 + (c.x ** 2 + c.y ** 2) / marks.spread),
    );
  });
});

describe('a piece laid to three points', () => {
  // What a contact that is off by 1 mm does to the piece, mm and rad: given, not found here.
  const response = [
    { x: 0.9, y: 0.1, turn: 0.004 },
    { x: 0.05, y: 0.6, turn: -0.02 },
    { x: -0.05, y: 0.4, turn: 0.02 },
  ];
  const points = [
    { at: { x: -30, y: 0 }, normal: { x: 1, y: 0 }, by: 'line' },
    { at: { x: -20, y: -12.5 }, normal: { x: 0, y: 1 }, by: 'line' },
    { at: { x: 20, y: -12.5 }, normal: { x: 0, y: 1 }, by: 'pin' },
  ];
  const laid = (change: object): Partial<BudgetInput> => ({
    lies: 'against',
    laid: {
      eye: 0,
      outline: { error: 0 },
      returns: null,
      seat: { points, response },
      ...change,
    } as unknown as BudgetInput['laid'],
  });
  const c = { x: 20, y: 5 };
  const art = { minX: c.x, maxX: c.x, minY: c.y, maxY: c.y };
  const moved = (r: (typeof response)[number], x: number, y: number): number =>
    Math.hypot(r.x - r.turn * y, r.y + r.turn * x);

  it('by eye is off where there is a line to lay it to, and nowhere else', () => {
    const sum = moved(response[0]!, c.x, c.y) ** 2 + moved(response[1]!, c.x, c.y) ** 2;
    near(meanSquare({ ...laid({ eye: 0.2 }), art }), (0.2 ** 2 / 3) * sum);
  });
  it('by a card that was cut is off at every point', () => {
    const sum = response.reduce((s, r) => s + moved(r, c.x, c.y) ** 2, 0);
    near(meanSquare({ ...laid({ outline: { error: 0.2 } }), art }), (0.2 ** 2 / 3) * sum);
  });
  it('is off where contacts and lines were made elsewhere, pushed home badly or laid in a wide line', () => {
    const made: Made = { kerf: 0.2, kerfMeasured: false, place: 0.06, seating: 0.09, line: 0.08 };
    const kinds = { ...laid({}), art };
    const contacts = (input: Partial<BudgetInput>): Partial<BudgetInput> => ({ ...input, laid: { ...input.laid!, seat: { ...input.laid!.seat, points: points.map((p) => ({ ...p, by: p.by === 'pin' ? 'contact' : 'line' })) as never } } }); // prettier-ignore
    const [lineA, lineB, contact] = response.map((r) => moved(r, c.x, c.y) ** 2) as [number, number, number];
    const known = { cut: (0.06 ** 2 / 3) * (lineA + lineB + contact), line: (0.08 ** 2 / 3) * (lineA + lineB), seating: (0.09 ** 2 / 3) * contact }; // prettier-ignore
    near(meanSquare({ ...contacts(kinds), made }), known.cut + known.line + known.seating);
    const { sources } = reckonBudget({ ...quiet, ...contacts(kinds), made });
    for (const id of ['cut', 'line', 'seating'] as const) expect(sources.find((s) => s.id === id)!.u).toBeCloseTo(Math.sqrt(known[id]), 9); // prettier-ignore
  });
  it('of another size moves by what each point stands off the middle', () => {
    // Longer: the first point −30 · 1 a length; wider: the others −12.5 a width.
    const longer = response[0]!;
    const [b, d] = [response[1]!, response[2]!];
    const wider = { x: b.x + d.x, y: b.y + d.y, turn: b.turn + d.turn };
    near(
      meanSquare({ ...laid({}), sizes: still(0.2), art }),
      (30 * (0.2 / 60) * moved(longer, c.x, c.y)) ** 2 + (12.5 * (0.2 / 25) * moved(wider, c.x, c.y)) ** 2,
    );
  });
  it('in a frame that goes back to its stops: by Student’s t, about the machine’s zero', () => {
    const place = { x: marks.centre.x + 60 + c.x, y: marks.centre.y + 30 + c.y };
    const sum = response.reduce((s, r) => s + moved(r, place.x, place.y) ** 2, 0);
    // The variance of t is ν / (ν − 2).
    near(meanSquare({ ...laid({ returns: { u: 0.05, dof: 12, seat: { response } } }), art, slots: at(60, 30) }), (0.05 ** 2 * 12 * sum) / 10); // prettier-ignore
  });
});

describe('a piece that was measured', () => {
  it('is off at its worst corner by its shift and its turn together', () => {
    const art = { minX: -20, maxX: 30, minY: -5, maxY: 10 };
    expect(worstCorner(art, 0.3, 0, 0)).toBeCloseTo(0.3, 12);
    // Corner (30, −5): 0.1 + 0.01 · 5 across its length, 0.2 + 0.01 · 30 up.
    expect(worstCorner(art, 0.1, 0.2, 0.01)).toBeCloseTo(Math.hypot(0.15, 0.5), 12);
    // Turned the other way, corner (−20, 10).
    expect(worstCorner(art, 0.1, 0.2, -0.01)).toBeCloseTo(Math.hypot(0.2, 0.4), 12);
  });
});

describe('what halving a source gives', () => {
  const change: Partial<BudgetInput> = {
    sigma: 0.05,
    repeatability: 0.04,
    pointer: { status: 'measured', uncertainty: 0.1 },
    outline: 0.03,
  };
  it('is the same as reckoning with half of it, to what a smaller simulation can tell', () => {
    const { ifHalved, largest } = reckonBudget({ ...quiet, ...change });
    expect(largest.id).toBe('pointer');
    const half = reckonBudget({ ...quiet, ...change, pointer: { status: 'measured', uncertainty: 0.05 } });
    near(ifHalved, half.predicted, 1);
  });
  it.each<[SourceId, Partial<BudgetInput>]>([
    ['aiming', { sigma: 0.025 }],
    ['return', { repeatability: 0.02 }],
    ['outline', { outline: 0.015 }],
    ['pointer', { pointer: { status: 'measured', uncertainty: 0.05 } }],
  ])('of %s is what the simulation scales', (id, halved) => {
    const scaled = simulatePieces({ ...quiet, ...change }, 2_000, { id, factor: 0.5 });
    expect([...scaled]).toEqual([...simulatePieces({ ...quiet, ...change, ...halved }, 2_000)]);
  });
  it('adds in squares: shares sum to one, the sum to what is said of each', () => {
    const { sources } = reckonBudget({ ...quiet, ...change });
    const sum = Math.sqrt(sources.reduce((s, p) => s + p.u ** 2, 0));
    expect(sources.reduce((s, p) => s + p.share, 0)).toBeCloseTo(1, 9);
    for (const p of sources) expect(p.share).toBeCloseTo((p.u / sum) ** 2, 9);
    // Radial standard uncertainties: both axes together.
    const u = Object.fromEntries(sources.map((p) => [p.id, p.u]));
    expect(u['pointer']).toBeCloseTo(Math.SQRT2 * 0.1, 9);
    expect(u['return']).toBeCloseTo((Math.SQRT2 * 0.04) / Math.sqrt(3), 9);
    expect(u['outline']).toBeCloseTo(Math.SQRT2 * 0.03, 9);
    const worst = Object.fromEntries(sources.map((p) => [p.id, p.worst]));
    expect(worst['pointer']).toBeCloseTo(3 * Math.SQRT2 * 0.1, 9);
  });
});
