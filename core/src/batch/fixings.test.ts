import { inWay, savedAs } from '../test-held';
import DxfParser from 'dxf-parser';
import { contoursBox } from '../geometry';
import { freshPins } from '../holding';
import { readGcode, writeDxf } from '../output';
import { testAlphabets } from '../test-alphabets';
import { loadedPieces, testBatch, testMachine } from '../test-batch';
import { boat } from '../test-shapes';
import { benchSteps } from './steps';
import { bedToLoad, type BatchInput, type BatchReckoning } from '../setup';
import type { DrawingName, ProgramName } from '../ways';
import { batchDrawing, batchList, batchProgram, drawingSvg, fitGaugeDrawing, loadGcode } from './files';
import { reckonBatch } from './reckon';

const options = {
  now: new Date('2026-11-20T00:00:00Z'),
  alphabets: testAlphabets,
  labels: 'readability',
  simulatedPieces: 500,
};
const base = testBatch();
const beside = (change: Partial<BatchInput['setup']['beside']>): BatchInput => ({
  ...base,
  setup: { ...base.setup, beside: { ...base.setup.beside, ...change } },
});
const onLocator = (more: Partial<BatchInput> = {}): BatchInput =>
  inWay({ ...base, ...more }, 'locator', { frame: { width: 1100, depth: 800 } });
const pegged = (more: Partial<BatchInput>): BatchInput => inWay({ ...base, ...more }, 'pegs');
const boats = pegged({
  blank: {
    ...base.blank,
    shape: { kind: 'outline', contours: [boat], source: 'boat.svg' },
    holes: [],
    direction: { kind: 'none' },
    samples: { length: [122], width: [38], thickness: [4] },
  },
});
const get = <T>(r: { ok: true; value: T } | { ok: false; problem: { message: string } }): T => {
  if (!r.ok) throw new Error(r.problem.message);
  return r.value;
};

const text = (input: BatchInput, r: BatchReckoning, name: ProgramName): string => {
  const made = get(batchProgram(input, r, name));
  return typeof made === 'string' ? made : [...made].join('');
};

describe('parts of a fixture as files', () => {
  it('cut the trial in card as large as the blank: half a kerf outside it', () => {
    const made = get(batchDrawing(boats, reckonBatch(boats, options), 'card'));
    const box = contoursBox(made.passes[0]!.contours);
    expect(box.maxX - box.minX).toBeCloseTo(122 + testMachine.kerf, 1);
    expect(box.maxY - box.minY).toBeCloseTo(38 + testMachine.kerf, 1);
  });

  it('burn the grid on its lines, as another reader of DXF and the G-code see it', () => {
    const input = onLocator();
    const r = reckonBatch(input, options);
    const made = get(batchDrawing(input, r, 'grid'));
    const dxf = new DxfParser().parseSync(writeDxf(made.passes))!;
    const ends = dxf.entities.flatMap((e) => ('vertices' in e ? (e.vertices as { x: number; y: number }[]) : []));
    const xs = new Set(ends.map((v) => Math.round(v.x * 100) / 100));
    for (const x of r.own.locator!.xs) expect(xs.has(x)).toBe(true);
    const read = get(readGcode(text(input, r, 'grid'), testMachine.dialect.powerMax));
    expect(read.moves.count).toBeGreaterThan(100);
  });

  it('count a load’s file from the intersection where zero is set, less the pointer’s offset', () => {
    const pointerOffset = { x: 0.4, y: -0.2, height: 0, second: null, measuredAt: '2026-11-19T00:00:00Z' };
    const pieces = loadedPieces([1, 2]);
    const input = onLocator({ machine: { ...testMachine, pointerOffset }, pieces });
    const r = reckonBatch(input, options);
    const toFile = bedToLoad(input, r);
    // The head stands where the beam is the pointer's offset short of the intersection.
    const { zero } = r.own.locator!;
    const head = { x: zero.x - 0.4, y: zero.y + 0.2 };
    expect(toFile.a * head.x + toFile.e).toBeCloseTo(0, 9);
    expect(toFile.d * head.y + toFile.f).toBeCloseTo(0, 9);
    const text = [...get(loadGcode(input, r, 'cards'))].join('');
    expect(text).toContain(`zero: pointer over the grid's ${zero.x}, ${zero.y}`);
    expect(text.trimEnd()).toMatch(/G0X0Y0\nM2$/);
  });

  it('list what is sawn and where stops are glued', () => {
    const input = onLocator();
    const rows = get(batchList(input, reckonBatch(input, options), 'locator'));
    expect(rows[1]!.slice(0, 4)).toEqual(['board', '1', '1150.0', '850.0']);
    expect(rows.filter((r) => r[0]!.startsWith('stop ')).map((r) => r[5])).toHaveLength(3);
  });

  it('are refused with a sentence where nothing asked for them', () => {
    const r = reckonBatch(base, options);
    for (const name of ['pins', 'pin-gauge', 'stand'] as DrawingName[]) {
      const made = batchDrawing(base, r, name);
      expect(!made.ok && made.problem.message).toMatch(/^Choose .* first\.$/);
    }
    for (const name of ['card', 'grid', 'locator', 'marks', 'wrap'] as DrawingName[]) {
      const made = batchDrawing(base, r, name);
      expect(made.ok ? '' : made.problem.code).toBe('no-such-file');
    }
    expect(drawingSvg(fitGaugeDrawing(base))).toContain('<svg');
    const disc = pegged({ blank: { ...base.blank, shape: { kind: 'disc', diameter: 40 } } });
    const round = reckonBatch(disc, options);
    expect(round.board).toBeNull();
    expect(round.boardProblem!.message).toContain('A disc can turn');
  });
});

describe('pins and stands under flat work', () => {
  it('come with their steps, and pins hold a bow down', () => {
    const bowed = beside({ boardWarp: 4 });
    expect(reckonBatch(bowed, options).heights.warpOk).toBe(false);
    const input = beside({ boardWarp: 4, pins: freshPins, stand: { width: 200, depth: 150, height: 25 } });
    const r = reckonBatch(input, options);
    expect(r.fixings.pins!.blocked).toBe(0);
    expect(r.heights.warpOk).toBe(true);
    const steps = benchSteps(input, r).map((s) => s.id);
    expect(steps).toEqual(expect.arrayContaining(['hold.pin-gauge', 'hold.pins', 'hold.pins-in', 'hold.stand']));
    expect(r.heights.collisions.filter((c) => c.thing.label.startsWith('pin'))).toHaveLength(
      r.fixings.pins!.places.length,
    );
    expect(drawingSvg(get(batchDrawing(input, r, 'pins')))).toContain('mm');
  });

  it('are not cut where the stock does not hold together', () => {
    const input = beside({
      stand: { width: 200, depth: 150, height: 25 },
      stock: { thickness: 3, readings: [2.6, 3.2], room: null },
    });
    const r = reckonBatch(input, options);
    expect(r.fixings.stand).toBeNull();
    expect(r.warnings.map((w) => w.message).join()).toContain('rattle');
    const made = batchDrawing(input, r, 'stand');
    expect(!made.ok && made.problem.message).toContain('rattle');
  });
});

describe('pegs and lines against what is seen of pieces', () => {
  const looked = (input: BatchInput): BatchInput => ({
    ...input,
    setup: { ...input.setup, looks: { pieces: [{ ordinal: 3, side: 'two', defects: [] }] } },
  });
  it('take a symmetric outline turned over, and name pieces whose outline does not meet them then', () => {
    expect(
      reckonBatch(looked(boats), options)
        .warnings.map((w) => w.message)
        .join(),
    ).not.toContain('turned over');
    const lopsided = {
      ...boats,
      blank: {
        ...boats.blank,
        shape: {
          kind: 'outline' as const,
          contours: [{ ...boat, vertices: boat.vertices.map((v) => (v.y > 15 ? { ...v, y: v.y + 9 } : v)) }],
          source: 'odd.svg',
        },
      },
    };
    expect(
      reckonBatch(looked(lopsided), options)
        .warnings.map((w) => w.message)
        .join(),
    ).toContain('Piece 3 lies on side two');
  });
  it('say when the trial in card shows another outline', () => {
    const apart = (card: number | null): string =>
      reckonBatch(inWay(boats, 'pegs', {}, { card }), options)
        .warnings.map((w) => w.message)
        .join();
    expect(apart(1.4)).toContain('not its outline');
    expect(apart(0.4)).not.toContain('not its outline');
    expect(apart(null)).not.toContain('not its outline');
  });
  it('a board that is cut keeps its pegs, and says when the outline is another', () => {
    const first = reckonBatch(boats, options);
    const fixture = savedAs(inWay(boats, 'pegs', { contacts: first.own.lines!.contacts }), first.basis);
    const moved = { ...boats, fixture, setup: { ...boats.setup, lettering: { ...boats.setup.lettering, lines: [] } } };
    const kept = reckonBatch(moved, options);
    expect(kept.own.lines!.pegs).toEqual(first.own.lines!.pegs);
    expect(kept.outOfDate).toEqual([]);
    const other = {
      ...moved,
      blank: { ...moved.blank, shape: { kind: 'rectangle' as const, length: 90, width: 38, cornerRadius: 2 } },
    };
    expect(reckonBatch(other, options).outOfDate[0]).toContain('The blank was');
  });
});
