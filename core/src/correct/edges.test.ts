import { seeded } from '../budget';
import { boxCorners, type Vec } from '../geometry';
import { edgeDistances, findFromEdges, type EdgeDistance } from '.';

const ART = boxCorners({ minX: -20, minY: -8, maxX: 20, maxY: 8 });
const KNOWN = { length: 0, width: 0 };
const tag: Vec[] = [{ x: -30, y: -12.5 }, { x: 30, y: -12.5 }, { x: 30, y: 12.5 }, { x: -30, y: 12.5 }]; // prettier-ignore
/** A disc of 56 mm, a leaf that leans, and a plate with a slanting end. */
const disc: Vec[] = Array.from({ length: 720 }, (_, i) => ({ x: 28 * Math.cos((i * Math.PI) / 360), y: 28 * Math.sin((i * Math.PI) / 360) })); // prettier-ignore
const slanted: Vec[] = [{ x: -34, y: -14 }, { x: 30, y: -14 }, { x: 38, y: 14 }, { x: -26, y: 14 }]; // prettier-ignore

/** What a caliper would show where the art really lies: from its moved corner straight on to the edge. */
const caliper = (
  outline: readonly Vec[],
  { from, to }: EdgeDistance,
  move: { x: number; y: number; turn: number; size: number },
): number => {
  const [c, s] = [(1 + move.size) * Math.cos(move.turn), (1 + move.size) * Math.sin(move.turn)];
  const p = { x: c * from.x - s * from.y + move.x, y: s * from.x + c * from.y + move.y };
  const across = Math.abs(to.x - from.x) > Math.abs(to.y - from.y);
  const hits = outline.flatMap((a, i) => {
    const b = outline[(i + 1) % outline.length]!;
    const [u, v] = across ? [(p.y - a.y) / (b.y - a.y), 'x' as const] : [(p.x - a.x) / (b.x - a.x), 'y' as const];
    return u >= 0 && u <= 1 ? [(a[v] + u * (b[v] - a[v]) - p[v]) * Math.sign(to[v] - from[v])] : [];
  });
  return Math.min(...hits.filter((h) => h > 0));
};

describe('the art on its piece by distances to the edges', () => {
  it.each([
    ['a tag', tag, ART],
    ['a disc', disc, boxCorners({ minX: -14, minY: -8, maxX: 14, maxY: 8 })],
    ['a plate with slanting ends', slanted, ART],
  ] as const)('finds where it lies, how it is turned and its size on %s', (_, outline, art) => {
    const distances = edgeDistances(outline, art, KNOWN);
    expect(distances.length).toBeGreaterThanOrEqual(4);
    const move = { x: 0.31, y: -0.22, turn: 0.004, size: 0.002 };
    const taken = Object.fromEntries(distances.map((d) => [d.id, caliper(outline, d, move)]));
    const found = findFromEdges(distances, taken, outline, KNOWN)!;
    expect(found.off.x).toBeCloseTo(move.x, 1);
    expect(found.off.y).toBeCloseTo(move.y, 1);
    expect(Math.abs(found.turn - move.turn)).toBeLessThan(Math.max(1.5 * found.doubt.turn, 0.0004));
  });

  it('drawn as they are, nothing is off; each is as long as the drawing says', () => {
    const distances = edgeDistances(tag, ART, KNOWN);
    for (const d of distances) expect(d.drawn).toBeCloseTo(caliper(tag, d, { x: 0, y: 0, turn: 0, size: 0 }), 9);
    const found = findFromEdges(distances, Object.fromEntries(distances.map((d) => [d.id, d.drawn])), tag, KNOWN)!;
    expect(Math.hypot(found.off.x, found.off.y) + Math.abs(found.turn) + Math.abs(found.size)).toBeLessThan(1e-9);
  });

  it('a longer piece is not taken for art that is off: both edges of it are asked for', () => {
    const distances = edgeDistances(tag, ART, { length: 0.2, width: 0.1 });
    expect(new Set(distances.slice(0, 4).map((d) => d.id.split('-')[0]))).toEqual(new Set(['left', 'right', 'near', 'far'])); // prettier-ignore
    // 0.2 longer at either end, the art where it was meant.
    const taken = Object.fromEntries(distances.map((d) => [d.id, d.drawn + (/left|right/.test(d.id) ? 0.2 : 0)]));
    const found = findFromEdges(distances, taken, tag, { length: 0.2, width: 0.1 })!;
    expect(Math.abs(found.off.x)).toBeLessThan(0.01);
    expect(Math.abs(found.size)).toBeLessThan(0.005);
  });

  it('its doubts are as large as its errors: 19 of 20 lie within twice them', () => {
    const random = seeded(7);
    const distances = edgeDistances(tag, ART, KNOWN);
    let inside = 0;
    const tries = 600;
    for (let i = 0; i < tries; i += 1) {
      const move = { x: random.normal() * 0.2, y: random.normal() * 0.2, turn: random.normal() * 0.003, size: 0 };
      const taken = Object.fromEntries(distances.map((d) => [d.id, caliper(tag, d, move) + 0.06 * random.normal()]));
      const { off, doubt } = findFromEdges(distances, taken, tag, KNOWN)!;
      if (Math.abs(off.x - move.x) < 2 * doubt.x) inside += 1;
    }
    expect(inside / tries).toBeGreaterThan(0.93);
    expect(inside / tries).toBeLessThan(0.985);
  });

  it('letters are measured from what of them stands out: a stem at both ends, a foot at its own', () => {
    // K and L: a stem at the left, a foot at the right.
    const letters = [{ x: -20, y: -8 }, { x: -20, y: 8 }, { x: 14, y: 8 }, { x: 20, y: -8 }, { x: 20, y: -7.6 }]; // prettier-ignore
    const distances = edgeDistances(tag, letters, KNOWN);
    expect(distances.map((d) => d.label).filter((l) => /left edge|right edge/.test(l)).sort()).toEqual(['left edge, art’s far end', 'left edge, art’s near end', 'right edge, art’s outermost point']); // prettier-ignore
    expect(edgeDistances(tag, [], KNOWN)).toEqual([]);
  });

  it('two distances say too little; three are enough for a shift', () => {
    const distances = edgeDistances(tag, ART, KNOWN);
    const taken = (n: number) => Object.fromEntries(distances.slice(0, n).map((d) => [d.id, d.drawn]));
    expect(findFromEdges(distances, taken(2), tag, KNOWN)).toBeNull();
    expect(findFromEdges(distances, taken(3), tag, KNOWN)).not.toBeNull();
  });
});
