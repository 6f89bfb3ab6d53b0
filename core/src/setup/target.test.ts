import { batchProgram, gateOf } from '../batch';
import { apply, boxOf, compose, flatten, rigid } from '../geometry';
import { slotTransform } from '../holding';
import { loadedPieces } from '../test-batch';
import { exactly, readAt, reckon, saved } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { crossAt, targetOf } from './target';

const LIE = rigid(0.03, 120, 90);
const input = { ...readAt(saved(exactly(EXAMPLES.pockets)), LIE), pieces: loadedPieces([3]) };
const r = reckon(input);
const made = targetOf(input, r);
if (!made.ok) throw new Error(made.problem.message);
const target = made.value;

describe('the target of one piece', () => {
  it('is of the piece that lies on, and of its art in its own frame', () => {
    expect([target.ordinal, target.slot.slot]).toEqual([3, 3]);
    const { length, width } = r.sizes;
    const rim = boxOf(flatten(target.outline[0]!, 0.05));
    expect(rim.maxX - rim.minX).toBeCloseTo(length.mean, 1);
    expect(rim.maxY - rim.minY).toBeCloseTo(width.mean, 1);
    // All that is burned lies within the piece.
    const art = boxOf(target.art);
    expect(art.minX).toBeGreaterThan(rim.minX);
    expect(art.maxY).toBeLessThan(rim.maxY);
    expect(target.centre.x).toBeCloseTo((art.minX + art.maxX) / 2, 9);
  });

  it('is measured from the edges by what a caliper finds between art and edge', () => {
    const rim = boxOf(flatten(target.outline[0]!, 0.05));
    const art = boxOf(target.art);
    const right = target.edges.find((e) => e.label.startsWith('right edge'))!;
    expect(right.drawn).toBeCloseTo(rim.maxX - art.maxX, 1);
    const left = target.edges.find((e) => e.label.startsWith('left edge'))!;
    expect(left.drawn).toBeCloseTo(art.minX - rim.minX, 1);
  });

  it('is walked where the piece lies: round its outline, then both strokes of the cross, the beam off throughout', () => {
    const file = batchProgram(input, r, 'target', { title: 'Boat tags', pictures: new Map() });
    if (!file.ok || typeof file.value !== 'string') throw new Error('no file');
    expect(file.value).toMatch(/^\(outline of a piece and the middle of its art, beam off\)\nG21\nG90/);
    expect(file.value).not.toMatch(/M3|M4|S[1-9]/);
    const { height } = input.machine.bed;
    const points = [...file.value.matchAll(/^G[01]X(-?[\d.]+)Y(-?[\d.]+)/gm)].map(([, x, y]) => ({ x: Number(x), y: height - Number(y) })); // prettier-ignore
    const onBed = compose(r.boardToBed, slotTransform(target.slot));
    // The strokes are the last four points, and cross at the middle of the art as it lies.
    const [a, b, c, d] = points.slice(-4);
    const middle = apply(onBed, target.centre);
    for (const [p, q] of [
      [a!, b!],
      [c!, d!],
    ] as const) {
      // prettier-ignore
      expect((p.x + q.x) / 2).toBeCloseTo(middle.x, 2);
      expect((p.y + q.y) / 2).toBeCloseTo(middle.y, 2);
      expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeCloseTo(20, 2);
    }
    // The outline is as large as the piece, turned as the board lies.
    const rim = boxOf(points.slice(0, -4));
    const expected = boxOf(flatten(target.outline[0]!, 0.05).map((p) => apply(onBed, p)));
    for (const side of ['minX', 'maxX', 'minY', 'maxY'] as const) expect(rim[side]).toBeCloseTo(expected[side], 2);
  });

  it('waits for the marks, and is held where a walk is', () => {
    const unread = { ...input, readings: [] };
    const file = batchProgram(unread, reckon(unread), 'target', { title: '', pictures: new Map() });
    expect(file.ok ? '' : file.problem.code).toBe('not-placed');
    const magnet = { label: 'magnet', x: 250, y: 200, radius: 200, height: 90 };
    const blocked = { ...input, setup: { ...input.setup, beside: { ...input.setup.beside, tallThings: [magnet] } } };
    const at = reckon(blocked);
    expect(gateOf(blocked, at, 'target').map((p) => p.code)).toEqual(gateOf(blocked, at, 'walk').map((p) => p.code));
  });

  it('of work that is done there is none', () => {
    const done = { ...input, quantity: 1, roster: input.roster.slice(0, 1), firstApproved: true, pieces: loadedPieces([1]).map((p) => ({ ...p, state: 'done' as const })) }; // prettier-ignore
    const none = targetOf(done, reckon(done));
    expect(none.ok ? '' : none.problem.code).toBe('no-piece');
  });

  it('crosses at right angles', () => {
    const [[a, b], [c, d]] = crossAt({ x: 1, y: 2 }) as [[{ x: number; y: number }, { x: number; y: number }], [{ x: number; y: number }, { x: number; y: number }]]; // prettier-ignore
    expect((b.x - a.x) * (d.x - c.x) + (b.y - a.y) * (d.y - c.y)).toBe(0);
  });
});
