import { pieceShapes } from '../../artwork';
import { boxOf, rigid, type Vec } from '../../geometry';
import type { BatchInput, WayId } from '../../setup';
import { loadedPieces } from '../../test-batch';
import { inWay } from '../../test-held';
import { EXAMPLES } from '../../test-ways';
import { burnedBox, exactly, programOf, readAt, reckon, saved, stepOf, toldOf, waitsOf } from '../../test-reckon';

// Boat tags of 60 × 25 on a bed of 900 × 600 whose zero is at the back left with y towards the operator. Where work lies is
// told by reading its marks; what its file burns is worked out by hand from there, in the machine's own numbers.
const AIMED = ['fence', 'pegs', 'sheet', 'marked'] as const satisfies readonly WayId[];

/** One piece of a batch in one way: laid by a shift and a turn about its own zero, saved where that is asked. */
const laid = (id: (typeof AIMED)[number], degrees: number, at: Vec, slot = 1): BatchInput => {
  const one: BatchInput = { ...exactly(EXAMPLES[id]), roster: Array.from({ length: 24 }, () => ({ name: 'KESTREL', seat: 'LANE 1' })) }; // prettier-ignore
  const kept = id === 'marked' ? one : saved(one);
  const aimed = readAt(kept, rigid((degrees * Math.PI) / 180, at.x, at.y));
  // The marks of a piece's own are read on it alone.
  return { ...aimed, pieces: loadedPieces([id === 'marked' ? 1 : slot]) };
};

describe.each(AIMED)('%s: a file', (id) => {
  it.each([
    [0, { x: 120, y: 90 }],
    [90, { x: 700, y: 40 }],
    [-30, { x: 100, y: 320 }],
    [17.5, { x: 250, y: 60 }],
  ])('of work turned by %d° about %j burns each piece’s art where it lies', (degrees, at) => {
    const input = laid(id, degrees, at, id === 'marked' ? 1 : 7);
    const r = reckon(input);
    if (id === 'marked' && degrees === 90) {
      // Two marks, a quarter turn: it may as well be that they were read in each other's place.
      expect(waitsOf(input, 'place')).toMatch(/turned by 90°\. Were they read in each other’s place\?/);
      return;
    }
    const { centre, angle } = r.board!.slots.find((s) => s.slot === (id === 'marked' ? 1 : 7))!;
    // What is burned of a sheet is the cut, half a kerf outside the piece's 60 × 25; else the letters' own outlines.
    const grow = input.machine.kerf / 2;
    const rim = [[-1, -1], [1, -1], [1, 1], [-1, 1]].map(([i, j]) => ({ x: i! * (30 + grow), y: j! * (12.5 + grow) })); // prettier-ignore
    const letters = r.art ? pieceShapes(r.art, input.blank.zones[0]!, r.art.pieces[0]!) : null;
    const ink = id === 'sheet' ? rim : [...letters!.filled, ...letters!.drawn].flat();
    const turn = (p: Vec, by: number): Vec => ({ x: p.x * Math.cos(by) - p.y * Math.sin(by), y: p.x * Math.sin(by) + p.y * Math.cos(by) }); // prettier-ignore
    const onBed = (p: Vec): Vec => {
      const inBoard = turn(p, angle);
      const turned = turn({ x: centre.x + inBoard.x, y: centre.y + inBoard.y }, (degrees * Math.PI) / 180);
      return { x: turned.x + at.x, y: 600 - (turned.y + at.y) };
    };
    const wanted = boxOf(ink.map(onBed));
    const burned = burnedBox(programOf(input));
    // Lines lie 0.1 mm apart, and the outermost reach of a letter may fall between two of them; a piece's own rounded
    // corners keep out of a turned box.
    const most = id !== 'sheet' ? 0.12 : degrees % 90 === 0 ? 0.002 : 3;
    for (const [edge, sign] of [
      ['minX', 1],
      ['minY', 1],
      ['maxX', -1],
      ['maxY', -1],
    ] as const) {
      // prettier-ignore
      const inside = (burned[edge] - wanted[edge]) * sign;
      expect([edge, inside > -0.01 && inside < most ? 'within' : inside]).toEqual([edge, 'within']);
    }
  });

  it('waits mark by mark, for the first once more, and for the walk', () => {
    const input = { ...laid(id, 0, { x: 120, y: 90 }), pieces: id === 'marked' ? loadedPieces([1]) : [] };
    const marks = reckon(input).board!.marks;
    const read = (count: number): BatchInput => ({ ...input, readings: input.readings.slice(0, count) });
    const place = marks.filter((m) => m.role === 'place');
    place.forEach((m, i) => expect(waitsOf(read(i), 'place')).toBe(`aim at mark ${m.id}`));
    expect(waitsOf(read(marks.length), 'place')).toBe('read mark 1 again');
    expect(waitsOf(input, 'place')).toBe('walk the outline');
    expect(waitsOf({ ...input, ticks: ['place.walk'] }, 'place')).toBe('');
    // Read again a millimetre off: work or head moved in between.
    const off = input.readings.map((one) => (one.purpose === 'reread' ? { ...one, x: one.x + 1 } : one));
    expect(waitsOf({ ...input, readings: off }, 'place')).toBe('mark 1 did not come back: the work or the head has moved'); // prettier-ignore
  });
});

describe('a stop corner', () => {
  const fence = exactly(EXAMPLES.fence);
  it('leaves the room to push beside the largest piece, and a wall to the next', () => {
    // 60 + 0.3 allowed for + 3 to push, and 3 between.
    const { pocket, board } = reckon(fence);
    const { slots } = board!;
    expect([pocket.length, pocket.width]).toEqual([expect.closeTo(63.3, 9), expect.closeTo(28.3, 9)]);
    expect(slots[1]!.centre.x - slots[0]!.centre.x).toBeCloseTo(66.3, 9);
    // A piece in its front left corner: the pocket's middle is half of the rest away.
    expect(pocket.offset).toEqual({ x: expect.closeTo(1.65, 9), y: expect.closeTo(1.65, 9) });
    const wide = reckon(inWay(fence, 'fence', { pushRoom: 5 }));
    expect(wide.pocket.length).toBeCloseTo(65.3, 9);
    expect(wide.pocket.offset.x).toBeCloseTo(2.65, 9);
  });
  it('has no float, no yaw: half of what sizes differ by is what is left', () => {
    const r = reckon(fence);
    expect([r.pocket.floatX, r.pocket.floatY, r.pocket.yaw]).toEqual([0, 0, 0]);
    expect(r.budget.sources.map((s) => s.id)).not.toContain('float');
    // ± 0.3 of the catalogue, either way alike: 0.3 / √3 for each size, half of it at the middle, two ways.
    expect(r.budget.sources.find((s) => s.id === 'size')!.u).toBeCloseTo((0.3 / Math.sqrt(3) / 2) * Math.SQRT2, 9);
    // Measured pieces: half the standard deviation of each, as the fourth piece shows it beside three, √(1 + 1/3).
    const measured = { ...fence, blank: { ...fence.blank, samples: { length: [60, 60.2, 60.4], width: [25, 25.1, 25.2], thickness: [1.5] } } }; // prettier-ignore
    expect(reckon(measured).budget.sources.find((s) => s.id === 'size')!.u).toBeCloseTo(
      (Math.sqrt(4 / 3) * Math.hypot(0.2, 0.1)) / 2,
      9,
    );
  });
  it('of a disc lets it turn', () => {
    const disc: BatchInput = { ...fence, blank: { ...fence.blank, shape: { kind: 'disc', diameter: 40 }, holes: [], direction: { kind: 'none' } } }; // prettier-ignore
    expect(reckon(disc).pocket).toMatchObject({ yaw: null, floatX: 0, floatY: 0 });
  });
});

describe('pegs and lines', () => {
  const pegs = exactly(EXAMPLES.pegs);
  it('carry what the outline was off by on the card, its assumed 0.3 before that', () => {
    const card = (gap: number | null): number => reckon(inWay(pegs, 'pegs', {}, { card: gap })).budget.sources.find((s) => s.id === 'card')!.u; // prettier-ignore
    expect(card(0.3)).toBeCloseTo(card(null), 9);
    expect(card(0.6) / card(0.3)).toBeCloseTo(2, 1);
  });
  it('are refused to a disc, and to a blank that is not its card', () => {
    const disc: BatchInput = { ...pegs, blank: { ...pegs.blank, shape: { kind: 'disc', diameter: 40 } } };
    expect(reckon(disc).boardProblem).toMatchObject({ code: 'round', message: 'A disc can turn against any line. Cut pockets for it, or give it a notch.' }); // prettier-ignore
    const off = (gap: number): string => toldOf(inWay(pegs, 'pegs', {}, { card: gap }));
    expect(off(1.01)).toContain('The blank and its card are 1.01 mm apart: this is not its outline.');
    expect(off(1)).not.toContain('card');
  });
  it('cannot hold an outline turned over that is not its own mirror image', () => {
    const turnedOver = (shape: BatchInput['blank']['shape']): string => toldOf({ ...pegs, blank: { ...pegs.blank, shape }, setup: { ...pegs.setup, looks: { pieces: [2, 5].map((n) => ({ ordinal: n, side: 'two' as const, defects: [] })) } } }); // prettier-ignore
    const plate = (points: readonly (readonly [number, number])[]): BatchInput['blank']['shape'] => ({ kind: 'outline', source: 'plate.svg', contours: [{ closed: true, vertices: points.map(([x, y]) => ({ x, y })) }] }); // prettier-ignore
    // Half of a leaning plate is not the other half; a straight one is.
    expect(turnedOver(plate([[-40, -15], [30, -15], [40, 15], [-30, 15]]))).toContain('Pieces 2, 5 lie on side two: turned over, this outline does not meet its pegs and lines.'); // prettier-ignore
    expect(
      turnedOver(
        plate([
          [-40, -15],
          [40, -15],
          [30, 15],
          [-30, 15],
        ]),
      ),
    ).not.toContain('side two');
  });
  it('are tried in card, then cut', () => {
    expect(waitsOf(pegs, 'hold')).toBe('lay a blank on the trial in card');
    expect(waitsOf(saved(inWay(pegs, 'pegs', {}, { card: 0.2 })), 'hold')).toBe('cut the board');
    expect(waitsOf({ ...saved(inWay(pegs, 'pegs', {}, { card: 0.2 })), ticks: ['hold.cut'] }, 'hold')).toBe('');
    // The blank's own outline, half a kerf outside it.
    const outline = boxOf(pegs.blank.shape.kind === 'outline' ? pegs.blank.shape.contours[0]!.vertices : []);
    const cut = burnedBox(programOf(pegs, 'card'));
    expect(cut.maxX - cut.minX).toBeGreaterThan(outline.maxX - outline.minX);
    expect(cut.maxX - cut.minX).toBeLessThan(outline.maxX - outline.minX + 2 * pegs.machine.kerf);
    expect(stepOf(inWay(pegs, 'pegs', {}, { card: 0.2 }), 'hold.card-gap')!.done).toBe(true);
  });
});

describe('a printed sheet', () => {
  const sheet = exactly(EXAMPLES.sheet);
  const held = (choice: object): BatchInput => inWay(sheet, 'sheet', choice);
  it('holds as many as its paper has room for between its marks, and the rest on the next', () => {
    const r = reckon(sheet);
    expect([r.board!.width, r.board!.height]).toEqual([297, 210]);
    expect(r.planned).toEqual([r.board!.slots.length, 24 - r.board!.slots.length]);
    const own = reckon(held({ paper: 'own', own: { width: 400, height: 300 } })).board!;
    expect([own.width, own.height]).toEqual([400, 300]);
    expect(reckon(held({ landscape: false })).board!).toMatchObject({ width: 210, height: 297 });
  });
  it('is cut inside the printed edge by its inset', () => {
    const cut = (inset: number) => burnedBox(programOf({ ...readAt(saved(held({ inset })), rigid(0, 100, 100)), pieces: loadedPieces([1]) })); // prettier-ignore
    const [plain, inner] = [cut(0), cut(0.5)];
    expect(inner.minX - plain.minX).toBeCloseTo(0.5, 2);
    expect(plain.maxY - inner.maxY).toBeCloseTo(0.5, 2);
    // 60 + a kerf.
    expect(plain.maxX - plain.minX).toBeCloseTo(60 + sheet.machine.kerf, 2);
  });
  it('asks for more bleed where the cut may miss the print by more', () => {
    const { predicted } = reckon(held({ bleed: 0.01, inset: 0 })).budget;
    const short = (bleed: number, inset: number): string => toldOf(held({ bleed, inset }));
    expect(short(0.01, 0)).toContain(`The cut may miss the print by ${predicted.toFixed(2)} mm; bleed and inset together are 0.01 mm. Give ${(predicted - 0.01).toFixed(2)} mm more, or paper will show.`); // prettier-ignore
    expect(short(1, 0)).not.toContain('paper will show');
    expect(short(0, 1)).not.toContain('paper will show');
  });
  it('is printed, its bar measured; each further sheet is taken when the last is burned', () => {
    expect(waitsOf(sheet, 'hold')).toBe('save the sheet to the Shelf');
    expect(waitsOf(saved(sheet), 'hold')).toBe('print the sheet');
    expect(waitsOf({ ...saved(sheet), ticks: ['hold.print'] }, 'hold')).toBe('');
    const { length } = reckon(sheet).board!.slots;
    expect(stepOf(sheet, 'run.load-next')!.title).toBe(`Take the next sheet: ${length} pieces`);
    const done = loadedPieces(Array.from({ length }, (_, i) => i + 1)).map((p) => ({ ...p, state: 'done' as const }));
    expect(stepOf({ ...sheet, pieces: done }, 'run.load-next')!.title).toBe(`Take the next sheet: ${24 - length} pieces`); // prettier-ignore
  });
});

describe('a piece by marks of its own', () => {
  const marked = exactly(EXAMPLES.marked);
  const own = (marks: readonly Vec[], stretches = false): BatchInput => inWay(marked, 'marked', { own: { marks: marks.map((at) => ({ ...at, look: { kind: 'ring', size: 4 } as const })), stretches } }); // prettier-ignore
  it('needs two of them apart before it can be aimed at', () => {
    const bare = reckon(own([]));
    expect(bare.board).toBeNull();
    expect(waitsOf(own([]), 'hold')).toBe(bare.boardProblem!.message);
    expect(reckon(own([{ x: 4, y: 12 }])).board).toBeNull();
    expect(reckon(own([{ x: 4, y: 12 }, { x: 56, y: 12 }])).board!.marks.map((m) => m.at)).toEqual([{ x: 4, y: 12 }, { x: 56, y: 12 }]); // prettier-ignore
  });
  it('lies as well as its marks are far apart: the same readings, half as far apart, twice as wide at its ends', () => {
    // Two marks: the art's far corner at d from their middle lies within √(2σ²/2 + d²σ²/Σρ²), Σρ² = L²/2.
    const u = (L: number): number => reckon(own([{ x: 30 - L / 2, y: 12.5 }, { x: 30 + L / 2, y: 12.5 }])).budget.sources.find((s) => s.id === 'aiming')!.u; // prettier-ignore
    const { artBox, place } = reckon(marked);
    const d2 = Math.max(artBox.maxX, -artBox.minX) ** 2 + Math.max(artBox.maxY, -artBox.minY) ** 2;
    for (const L of [52, 26]) expect(u(L)).toBeCloseTo(Math.sqrt(place.sigma ** 2 + (d2 * 2 * place.sigma ** 2) / L ** 2), 4); // prettier-ignore
  });
  it('is taken before it is aimed at, one by one', () => {
    const order = (input: BatchInput) => ['run.load-next', 'run.load-1', 'place.mark-1'].map((id) => (stepOf(input, id) ? id : '')); // prettier-ignore
    expect(order(marked)).toEqual(['run.load-next', '', 'place.mark-1']);
    const on = { ...marked, pieces: loadedPieces([1]) };
    expect(stepOf(on, 'place.lay')!.title).toBe('Lay piece 1 on the bed');
    expect(stepOf({ ...marked, firstApproved: false }, 'run.load-next')!.title).toBe('Take the first piece');
  });
});
