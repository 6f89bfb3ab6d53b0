import { batchDrawing, batchProgram } from '../../batch';
import { apply, boxOf, contoursBox, rigid, segment } from '../../geometry';
import type { BatchInput } from '../../setup';
import { drawnOn } from '../../test-drawn';
import { loadedPieces } from '../../test-batch';
import { inWay } from '../../test-held';
import { burnedBox, exactly, programOf, reckon, stepOf, toldOf, waitsOf } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';

// Boat tags of 60 × 25, 1.5 thick, on a bed of 900 × 600 whose zero is back left with y towards the operator: every figure
// here follows from those by hand.
describe('a board on the bed', () => {
  const board = exactly(EXAMPLES.pockets);
  it('lies in the middle until its marks say where', () => {
    const r = reckon(board);
    const at = apply(r.boardToBed, { x: 0, y: 0 });
    expect(at).toEqual({ x: (900 - r.board!.width) / 2, y: (600 - r.board!.height) / 2 });
    expect([r.placed, r.place.placement]).toEqual([false, null]);
  });
  it('has art in its zone while nothing is lettered, and the whole piece while there is no zone', () => {
    const bare = { ...board, roster: [], setup: { ...board.setup, lettering: { ...board.setup.lettering, lines: [] } } }; // prettier-ignore
    // A zone of 50 × 22 about 3.5, 0, its margin 1.5.
    expect(reckon(bare).artBox).toEqual({ minX: -20, maxX: 27, minY: -9.5, maxY: 9.5 });
    const none = { ...bare, blank: { ...bare.blank, zones: [] } };
    expect(reckon(none).artBox).toEqual({ minX: -30, maxX: 30, minY: -12.5, maxY: 12.5 });
  });
  it('is focused on a blank: the bed goes by what that is higher or lower than the board', () => {
    expect(stepOf(board, 'place.focus')!.figure).toMatchObject({ value: '1.50', unit: 'mm up' });
    const thick = { ...board, blank: { ...board.blank, thickness: 4 } };
    expect(stepOf(thick, 'place.focus')!.figure).toMatchObject({ value: '1.00', unit: 'mm down' });
    // Laid on the board instead of in it, the blank is always higher.
    expect(stepOf(exactly(EXAMPLES.pegs), 'place.focus')!.figure).toMatchObject({ value: '1.50', unit: 'mm down' });
  });
  it('names what stands in the head’s path, and the questions its samples raise', () => {
    const tall = { ...board, setup: { ...board.setup, beside: { ...board.setup.beside, tallThings: [{ label: 'magnet', x: 60, y: 60, radius: 8, height: 30 }] } } }; // prettier-ignore
    expect(toldOf(tall)).toContain('magnet stands in the head’s path: it would be hit.');
    const low = { ...tall, setup: { ...tall.setup, beside: { ...tall.setup.beside, tallThings: [{ label: 'magnet', x: 60, y: 60, radius: 8, height: 1 }] } } }; // prettier-ignore
    expect(toldOf(low)).not.toContain('magnet');
    const odd = { ...board, blank: { ...board.blank, samples: { length: [60, 60.1, 25], width: [25], thickness: [1.5] } } }; // prettier-ignore
    expect(reckon(odd).questions.length).toBeGreaterThan(0);
  });
  it('takes the largest where every piece is measured, and asks for those that are not', () => {
    const measured = (n: number): BatchInput => ({
      ...board,
      quantity: 8,
      spares: 1,
      setup: { ...board.setup, beside: { ...board.setup.beside, coverage: 1 } },
      blank: { ...board.blank, samples: { length: Array.from({ length: n }, (_, i) => 60 + i / 100), width: Array.from({ length: n }, () => 25), thickness: [1.5] } }, // prettier-ignore
    });
    const all = reckon(measured(9));
    expect([all.sizes.length.upper, all.pocket.length, all.questions]).toEqual([60.08, 61.08, []]);
    expect(reckon(measured(5)).questions).toEqual([
      expect.objectContaining({ message: expect.stringContaining('5 of 9 pieces are measured') }),
    ]);
  });
  it('says what it takes where fewer places fit than were asked for', () => {
    const many = inWay(board, 'pockets', { extent: { kind: 'count', count: 900 } });
    const { slots, otherWay } = reckon(many).board!;
    expect(toldOf(many)).toContain(`900 places were asked for; a board for this bed of ${board.machine.bed.width} × ${board.machine.bed.height} mm takes ${slots.length}, ${otherWay} with the pieces turned.`); // prettier-ignore
  });
  it('counts its loads: so many at once until all are burned', () => {
    const few = inWay({ ...board, quantity: 24 }, 'pockets', { extent: { kind: 'count', count: 10 } });
    const r = reckon(few);
    // The first alone.
    expect(r.planned).toEqual([1, 10, 10, 3]);
    expect(stepOf(few, 'run.load-next')!.title).toBe('Lay in 10 pieces');
    const first = { ...few, firstApproved: false };
    expect(stepOf(first, 'run.load-next')!.title).toMatch(/one|1|first/i);
  });
  it('is cut by a drawing of its own size', () => {
    const r = reckon(board);
    const drawing = batchDrawing(board, r, 'board');
    if (!drawing.ok) throw new Error(drawing.problem.message);
    const edge = contoursBox(drawing.value.passes.flatMap((p) => p.contours));
    expect(edge.maxX - edge.minX).toBeCloseTo(r.board!.width + board.machine.kerf, 1);
  });
});

describe('a board and its steps', () => {
  const board = exactly(EXAMPLES.pockets);
  it('is cut in the middle of the bed, by a file in the machine’s own numbers', () => {
    const made = batchProgram(board, reckon(board), 'board');
    if (!made.ok) throw new Error(made.problem.message);
    const text = typeof made.value === 'string' ? made.value : [...made.value].join('');
    const { width, height } = reckon(board).board!;
    const numbers = (letter: string): number[] => [...text.matchAll(new RegExp(`^(?![(;]).*${letter}(-?[\\d.]+)`, 'gm'))].map((m) => Number(m[1])); // prettier-ignore
    const ends = (v: number[]): number[] => [Math.min(...v), Math.max(...v)];
    // Its edge, and half the kerf outside it; the head’s park is elsewhere.
    const inside = (v: number[], middle: number, size: number): number[] => ends(v.filter((x) => Math.abs(x - middle) < size / 2 + 1)); // prettier-ignore
    const [x0, x1] = inside(numbers('X'), 450, width);
    const [y0, y1] = inside(numbers('Y'), 300, height);
    expect([(x0! + x1!) / 2, (y0! + y1!) / 2]).toEqual([expect.closeTo(450, 2), expect.closeTo(300, 2)]);
    expect(x1! - x0!).toBeCloseTo(width + board.machine.kerf, 1);
    expect(y1! - y0!).toBeCloseTo(height + board.machine.kerf, 1);
  });
  it('asks for the kerf while nobody measured it, and no longer then', () => {
    expect([stepOf(board, 'hold.gauge'), stepOf(board, 'hold.kerf')].every(Boolean)).toBe(true);
    const known = { ...board, machine: { ...board.machine, kerfMeasuredAt: '2026-11-01T00:00:00.000Z' } };
    expect([stepOf(known, 'hold.gauge'), stepOf(known, 'hold.kerf')]).toEqual([undefined, undefined]);
  });
  it('that is as thick as the blank needs no move of the bed', () => {
    const even = { ...board, blank: { ...board.blank, thickness: 3 } };
    expect(stepOf(even, 'place.focus')!.detail).toBe('Blank and board stand equally high.');
    expect(stepOf(even, 'place.focus')!.figure!.value).toBe('0.00');
  });
  it('turned as work is turned back by hand, until it lies well', () => {
    const marks = reckon(board).board!.marks;
    const readings = (angle: number): BatchInput['readings'] =>
      marks.map(({ at }, i) => {
        const p = apply(rigid(angle, 100, 80), at);
        return { id: `r${i}`, mark: i + 1, x: p.x, y: 600 - p.y, source: 'typed', at: '2026-11-20T08:00:00.000Z', by: 'Odile', purpose: 'place' }; // prettier-ignore
      });
    const turned = (angle: number): BatchInput => ({ ...board, readings: readings(angle), setup: { ...board.setup, place: { school: 'work', model: 'auto' } } }); // prettier-ignore
    const { figure } = stepOf(turned(0.02), 'place.turn')!;
    const reach = Math.hypot(marks[1]!.at.x - marks[0]!.at.x, marks[1]!.at.y - marks[0]!.at.y);
    // The chord of 0.02 rad over the marks’ distance.
    expect(figure!.value).toBe((2 * reach * Math.sin(0.01)).toFixed(1));
    expect(stepOf(turned(0), 'place.turn')).toBeUndefined();
    expect(stepOf({ ...turned(0.02), setup: { ...board.setup, place: { school: 'file', model: 'auto' } } }, 'place.turn')).toBeUndefined(); // prettier-ignore
    // Where the work is turned the files lie straight.
    const map = reckon(turned(0.02)).boardToBed;
    expect(Math.atan2(map.b, map.a)).toBeCloseTo(0, 9);
    expect(reckon(turned(0.02)).budget.sources.some((s) => s.id === 'angle')).toBe(true);
  });
  it('leaves free what is rounded out of focus', () => {
    const rounded = inWay(exactly(EXAMPLES.pegs), 'pegs', { shoulder: 3 });
    // Rounded by 3, half of 2.4 in focus: 3 − √(3² − 1.8²) = 0.6 from the edge.
    expect(reckon(rounded).own.usable!.inset).toBeCloseTo(0.6, 6);
  });
});

describe('work longer than the bed', () => {
  it('takes the next name when one is done, and ticks what was read', () => {
    const three: BatchInput = { ...exactly(EXAMPLES.long), quantity: 3, roster: [{ name: 'A' }, { name: 'B' }, { name: 'C' }] }; // prettier-ignore
    expect(reckon(three).onTheBoard.map((o) => o.ordinal)).toEqual([1]);
    const one = { ...three, pieces: loadedPieces([1]).map((p) => ({ ...p, state: 'done' as const })) };
    expect(reckon(one).onTheBoard.map((o) => o.ordinal)).toEqual([2]);
    const on = { ...three, pieces: loadedPieces([1]), ticks: ['run.segment-1'] };
    const read = { id: 'r', mark: 1, x: 100, y: 100, source: 'typed', at: '2026-11-20T08:00:00.000Z', by: 'Odile', purpose: 'place' } as const; // prettier-ignore
    const done = (input: BatchInput) => ['place.mark-1', 'place.mark-2'].map((id) => stepOf(input, id)!.done);
    expect([done(on), done({ ...on, readings: [read] }), done({ ...on, readings: [{ ...read, purpose: 'reread' }] })]).toEqual([[false, false], [true, false], [false, false]]); // prettier-ignore
  });
  const long = exactly(EXAMPLES.long);
  it('is laid so that its first segment’s middle is the bed’s, and pushed on by what lies between middles', () => {
    // 570 of 600: 15 left at the front, so that y towards the operator begins at 15; 300 wide from 300 on.
    expect(stepOf(long, 'place.segment-1-lay')!.detail).toMatch(/^Its corner at the beginning comes to 300, 15;/);
    const ends = reckon(long).own.long!.plan!.segments.map((s) => [s.from, s.to] as const);
    const middle = ([from, to]: readonly [number, number]): number => (from + to) / 2;
    ends.slice(1).forEach((end, i) => {
      const by = (middle(end) - middle(ends[i]!)).toFixed(0);
      expect(stepOf({ ...long, pieces: loadedPieces([1]) }, `place.segment-${i + 2}-lay`)!.title).toBe(`Push the work on by ${by} mm`); // prettier-ignore
    });
    const moved = inWay({ ...long, pieces: loadedPieces([1]) }, 'long', { loading: 'moves' });
    expect(stepOf(moved, 'place.segment-2-lay')!.title).toBe(`Move the work on by ${(middle(ends[1]!) - middle(ends[0]!)).toFixed(0)} mm`); // prettier-ignore
  });
  it('says its seams, what they cross, and the room it takes', () => {
    expect(stepOf(long, 'hold.seams')!.figure).toMatchObject({ value: '4', unit: 'segments' });
    expect(stepOf(long, 'hold.seams')!.detail).toMatch(
      /They cross 3 lines and cut through 0\.0 mm of filled shapes\.$/,
    );
    // 2000 − 585 of it stand out at either end.
    expect(stepOf(long, 'hold.room')!.detail).toMatch(/^142 cm in front, 142 cm behind\./);
    const short = { ...long, blank: { ...long.blank, shape: { kind: 'rectangle', length: 500, width: 300, cornerRadius: 0 } } } as BatchInput; // prettier-ignore
    expect(stepOf(short, 'hold.seams')).toMatchObject({ detail: 'It fits as it is: no seam is needed.', figure: { value: '1', unit: 'segment' } }); // prettier-ignore
    const one = drawnOn(long, [{ kind: 'line', contour: segment({ x: 10, y: 25 }, { x: 700, y: 25 }) }]);
    expect(stepOf(one, 'hold.seams')!.detail).toContain('They cross 1 line and');
  });
  it('through a front door is turned round once, end for end', () => {
    const door = inWay({ ...long, pieces: loadedPieces([1]), blank: { ...long.blank, shape: { kind: 'rectangle', length: 1100, width: 300, cornerRadius: 0 } } } as BatchInput, 'long', { loading: 'front' }); // prettier-ignore
    expect(stepOf(door, 'place.segment-2-lay')!.title).toBe('Turn the work round, end for end');
    const [first, second] = reckon(door).own.long!.plan!.segments;
    expect(Math.abs(first!.angle - second!.angle)).toBeCloseTo(Math.PI, 9);
  });
  it('goes segment by segment: its marks, then its files, each only when it is its turn', () => {
    const on = { ...long, pieces: loadedPieces([1]) };
    const second = { ...on, ticks: ['run.segment-1'] };
    const files = (input: BatchInput, id: string) => stepOf(input, id)!.files?.map(([f]) => f);
    expect([files(on, 'run.segment-1'), files(on, 'run.segment-2')]).toEqual([['load.gcode'], []]);
    expect([files(second, 'run.segment-1'), files(second, 'run.segment-2')]).toEqual([[], ['load.gcode']]);
    expect(stepOf(second, 'place.mark-1')!.done).toBe(false);
    expect(stepOf(second, 'run.segment-4')!.detail).toMatch(/to 2000 mm: the last one\.$/);
    expect(reckon(second).board!.marks).toHaveLength(2);
    expect(reckon(on).placed).toBe(true);
    expect(reckon(second).placed).toBe(false);
    const burned = { ...on, ticks: [1, 2, 3, 4].map((i) => `run.segment-${i}`) };
    expect(reckon(burned).own.long!.burned).toBe(true);
  });
});

describe('a sheet on both faces', () => {
  const panel = exactly(EXAMPLES.panel);
  const corner = (zeroCorner: BatchInput['machine']['zeroCorner'], yRuns: BatchInput['machine']['yRuns']) => stepOf({ ...panel, machine: { ...panel.machine, zeroCorner, yRuns } }, 'place.lay')!.detail; // prettier-ignore
  it('lies in the middle; its corner nearest the machine’s zero is told in the machine’s numbers', () => {
    // 300 × 200 on 900 × 600: 300 and 200 from each edge.
    expect(corner('back-left', 'toward')).toMatch(/its back left corner at 300, 200\./);
    expect(corner('front-left', 'away')).toMatch(/its front left corner at 300, 200\./);
    const wide = inWay(panel, 'panel', { width: 400 });
    expect(stepOf(wide, 'place.lay')!.detail).toMatch(/at 250, 200\./);
    // Its marks stand 9.35 mm from its edges, nearer than any piece; one as large as the bed has nowhere to go.
    expect(stepOf(panel, 'place.lay')!.detail).toContain('It may lie off by 9 mm: so much room is left');
    expect(stepOf(inWay(panel, 'panel', { width: 900, height: 600 }), 'place.lay')!.detail).toContain(
      'It must lie just there',
    );
  });
  it('has its marks where they lie once it is turned', () => {
    const words = (turn: 'page' | 'over') => ['1', '2', '3'].map((i) => /^It lies (.*) now\./.exec(stepOf(inWay(panel, 'panel', { turn }), `place.mark-${i}`)!.detail!)![1]); // prettier-ignore
    // Front left, back right, front right before; a page turn changes left and right, over front and back.
    expect(words('page')).toEqual(['front right', 'back left', 'front left']);
    expect(words('over')).toEqual(['back left', 'front right', 'back right']);
    expect(stepOf(panel, 'place.turned')!.detail).toMatch(/^Like a page of a book/);
    expect(stepOf(inWay(panel, 'panel', { turn: 'over' }), 'place.turned')!.detail).toMatch(/^Over: its front edge/);
  });
  it('counts what is taken, and what is cut out how far apart', () => {
    expect(stepOf(panel, 'run.load-next')!.title).toBe('Take the next sheet: 24 pieces');
    expect(stepOf({ ...panel, quantity: 5 }, 'run.load-next')!.title).toBe('Take the next sheet: 5 pieces');
    expect(stepOf(panel, 'hold.material')!.detail).toMatch(/^\d+ pieces are cut out of it, 1 mm apart\./);
    const on = { ...panel, pieces: loadedPieces([1, 2]) };
    expect(stepOf(on, 'place.side-one')!.files!.map(([f]) => f)).toEqual(['load.gcode']);
    const turned = { ...on, ticks: ['place.turned'] };
    expect(stepOf(turned, 'place.side-one')).toMatchObject({ done: true, files: [] });
    expect(stepOf(turned, 'run.load-1')!.title).toBe('Burn the second file: side two and the outlines');
    const holes = inWay(on, 'panel', { carry: 'holes' });
    expect(stepOf(holes, 'place.turned')!.title).toBe('Turn every piece in its own hole');
    expect(stepOf(holes, 'place.mark-1')).toBeUndefined();
  });
});

describe('blanks that a photograph found', () => {
  const photo = exactly(EXAMPLES.photo);
  const seen = (part: object) => inWay(photo, 'photo', {}, part);
  const blank = (x: number, part: object = {}) => ({ x, y: 100, angle: 0, ask: false, why: '', doubt: 0.1, turn: 0.002, ...part }); // prettier-ignore
  it('are burned where they lie, those first that were not yet', () => {
    const r = reckon({ ...photo, pieces: loadedPieces([1]).map((p) => ({ ...p, state: 'done' as const })) });
    expect([r.own.photo!.found, r.own.photo!.free]).toEqual([3, 2]);
    expect(r.onTheBoard.map((o) => o.slot.slot)).toEqual([2, 3]);
    // Before the last photograph: its places are new.
    const again = reckon({ ...seen({ afterLoad: 1 }), pieces: loadedPieces([1]).map((p) => ({ ...p, state: 'done' as const })) }); // prettier-ignore
    expect(again.own.photo!.free).toBe(3);
  });
  it('wait for answers, and for a photograph', () => {
    const asks = seen({ blanks: [blank(80, { ask: true }), blank(200)] });
    expect([reckon(asks).placed, stepOf(asks, 'hold.photo-ask')!.title]).toEqual([false, 'Answer for one blank']);
    expect(stepOf(seen({ blanks: [blank(80, { ask: true }), blank(200, { ask: true })] }), 'hold.photo-ask')!.title).toBe('Answer for 2 blanks'); // prettier-ignore
    expect(stepOf(photo, 'hold.photo-ask')).toBeUndefined();
    expect(waitsOf(asks, 'hold')).toMatch(/answer for 1 of the blanks|answer/);
    const none = seen({ blanks: [] });
    expect(reckon(none).boardProblem!.code).toBe('no-photo');
    expect(stepOf(none, 'hold.photo-take')).toMatchObject({ title: 'Take a photograph of the whole bed', done: false, detail: expect.stringContaining('about 700 mm over the bed') }); // prettier-ignore
  });
  it('are off by what the picture leaves: the middle’s doubt, and the turn’s at the art’s corner', () => {
    const r = reckon(seen({ blanks: [blank(80, { doubt: 0.1, turn: 0.004 }), blank(200, { doubt: 0.02, turn: 0 })] }));
    const { minX, maxX, minY, maxY } = r.artBox;
    const reach = Math.hypot(Math.max(maxX, -minX), Math.max(maxY, -minY));
    const u = Math.hypot(0.1, (reach * 0.004) / Math.SQRT2);
    expect(r.budget.sources.find((s) => s.id === 'outline')!.u).toBeCloseTo(Math.SQRT2 * u, 9);
    // Nothing is seen better than 0.05, and 0.2 is taken before anything was.
    const sharp = reckon(seen({ blanks: [blank(80, { doubt: 0.001, turn: 0 })] }));
    expect(sharp.budget.sources.find((s) => s.id === 'outline')!.u).toBeCloseTo(Math.SQRT2 * 0.05, 9);
    const unseen = reckon(seen({ blanks: [] }));
    expect(unseen.budget.sources.find((s) => s.id === 'outline')!.u).toBeCloseTo(Math.SQRT2 * 0.2, 9);
    // The bed’s corner, 541 mm out, 1.5 mm up, under a camera 700 high.
    expect(r.own.photo!.forgotten).toBeCloseTo((Math.hypot(450, 300) * 1.5) / (700 - 1.5), 9);
  });
  it('on a printed sheet are aimed at by its crosses, 43 in and 15 up from its corners', () => {
    const sheet = inWay(photo, 'photo', { marksOn: 'sheet', sheet: 'A3' });
    const { board } = reckon(sheet);
    expect(board!.marks.map((m) => [m.at.x, m.at.y])).toEqual([[43, 15], [420 - 43, 297 - 15], [420 - 43, 15]]); // prettier-ignore
    expect([board!.width, board!.height]).toEqual([420, 297]);
    expect(apply(reckon(sheet).boardToBed, { x: 0, y: 0 })).toEqual({ x: 240, y: 151.5 });
    expect(reckon(sheet).placed).toBe(false);
  });
});

describe('what stands in the way, and what aiming leaves', () => {
  it('pegs stand over the bed by the board and their height, and by a stand under it', () => {
    const tall = inWay(exactly(EXAMPLES.pegs), 'pegs', { pegHeight: 4 });
    const { boardThickness } = tall.setup.held.choice as { boardThickness: number };
    const heights = (input: BatchInput) => reckon(input).heights.collisions.filter((c) => /^peg/.test(c.thing.label)).map((c) => c.thing.height); // prettier-ignore
    expect(new Set(heights(tall))).toEqual(new Set([boardThickness + 4]));
    const lifted = { ...tall, setup: { ...tall.setup, beside: { ...tall.setup.beside, stand: { width: 200, depth: 150, height: 25 } } } }; // prettier-ignore
    expect(new Set(heights(lifted))).toEqual(new Set([boardThickness + 4 + 25]));
  });
  it('a locator is set by one point of its grid: both axes of one aim', () => {
    const r = reckon(exactly(EXAMPLES.locator));
    expect(r.budget.sources.find((s) => s.id === 'aiming')!.u).toBeCloseTo(Math.SQRT2 * r.place.sigma, 9);
  });
  it('a cup that lies still is walked round all that it carries, at walking speed, the beam off from end to end', () => {
    const walk = programOf(EXAMPLES.cradle, 'walk');
    expect(walk).not.toMatch(/M[34]|S[1-9]/);
    // 20 mm/s, in mm/min.
    expect([...new Set([...walk.matchAll(/F([\d.]+)/g)].map((m) => m[1]))]).toEqual(['1200']);
    const at = [...walk.matchAll(/X(-?[\d.]+)Y(-?[\d.]+)/g)].map((m) => ({ x: Number(m[1]), y: Number(m[2]) }));
    const still = { ...EXAMPLES.cradle, pieces: loadedPieces([1]) };
    const burned = burnedBox(programOf(still));
    expect(boxOf(at)).toEqual({ minX: expect.closeTo(burned.minX, 2), maxX: expect.closeTo(burned.maxX, 2), minY: expect.closeTo(burned.minY, 2), maxY: expect.closeTo(burned.maxY, 2) }); // prettier-ignore
    expect(at[0]).toEqual(at.at(-1));
  });
  it('a cup that lies still is burned about its own zero, which the head goes back to', () => {
    const still: BatchInput = { ...EXAMPLES.cradle, pieces: loadedPieces([1]) };
    const made = batchProgram(still, reckon(still), 'load');
    if (!made.ok) throw new Error(made.problem.message);
    const text = [...(made.value as Iterable<string>)].join('');
    const last = text.split('\n').filter((l) => /X|Y/.test(l) && !/^[(;]/.test(l)).at(-1)!; // prettier-ignore
    expect(last).toMatch(/X0(?!\.?[1-9])/);
    expect(last).toMatch(/Y0(?!\.?[1-9])/);
  });
});

describe('pieces by their own marks, printed sheets, locators', () => {
  it('a piece’s own marks are read on it alone', () => {
    const r = reckon(exactly(EXAMPLES.marked));
    expect([r.board!.width, r.board!.height, r.board!.slots.length]).toEqual([60, 25, 1]);
    expect(r.planned.every((n) => n === 1)).toBe(true);
  });
  it('a locator’s frame is set by its grid: zero at the first intersection, no mark aimed at', () => {
    const r = reckon(exactly(EXAMPLES.locator));
    expect([r.placed, r.board!.marks.length]).toEqual([true, expect.any(Number)]);
    expect(apply(r.boardToBed, { x: 10, y: 10 })).toEqual({ x: expect.closeTo(10, 9), y: expect.closeTo(10, 9) });
    expect(stepOf(exactly(EXAMPLES.locator), 'hold.glue-front')!.detail).toMatch(/^Left: 25 mm from the left edge, 5 mm from the front\. Right: 545 mm from the left edge, 5 mm from the front\./); // prettier-ignore
    // The grid’s far corner from its zero: a tenth of a degree over 380 · √2.
    expect(stepOf(exactly(EXAMPLES.locator), 'hold.back')!.detail).toContain(`as ${((0.1 * Math.PI) / 180 * 380 * Math.SQRT2).toFixed(1)} mm`); // prettier-ignore
  });
  it('a printed sheet’s pieces are as large as they are drawn, whatever the samples say', () => {
    const r = reckon(EXAMPLES.sheet);
    expect([r.sizes.length.mean, r.sizes.width.mean]).toEqual([60, 25]);
    expect(stepOf(EXAMPLES.sheet, 'burn.set')!.detail).toBe('Cutting: 70 % at 12 mm/s, 1 pass. The file carries it.');
  });
});
