import { layArt, type Artwork, type ArtworkContent } from '../artwork';
import { benchSteps, gateOf } from '../batch';
import { rigid } from '../geometry';
import { blankOutline } from '../holding';
import { loadedPieces } from '../test-batch';
import { burnedBox, programOf, readAt, reckon, saved, exactly } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import type { BatchInput } from './input';

const square = [{ x: 0, y: 0 }, { x: 40, y: 0 }, { x: 40, y: 20 }, { x: 0, y: 20 }]; // prettier-ignore
const crest: Artwork = { id: 'a', name: 'Crest', revision: 1, roles: {}, unit: 'mm', shapes: [{ contours: [{ closed: true, vertices: square }], rule: 'nonzero', fill: '#000000', stroke: null, width: 0 }] }; // prettier-ignore
const content = (change: Partial<ArtworkContent> = {}): ArtworkContent => ({ kind: 'artwork', id: 'c', zoneId: from.blank.zones[0]!.id, artworkId: 'a', revision: 1, size: { kind: 'width', width: 64 }, turn: 0, mirrored: false, ...change }); // prettier-ignore
const example = exactly(EXAMPLES.pockets);
const from = { ...example, blank: { ...example.blank, holes: [], zones: [{ ...example.blank.zones[0]!, x: 0, y: 0, keepOuts: [] }] } }; // prettier-ignore
// A tag of 60 × 25 mm, its zone about its middle.
const { zone, sizes } = reckon(from);
const on = (change: Partial<ArtworkContent> = {}, ordinals = [1, 2]): BatchInput => {
  const input = { ...from, roster: [], pieces: loadedPieces(ordinals), artworks: [crest], setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents: [content(change)] } }; // prettier-ignore
  return readAt(saved(input), rigid(0, 120, 90));
};
const reasons = (input: BatchInput): string[] => gateOf(input, reckon(input), 'load').map((p) => p.message);
const backing = (input: BatchInput) => benchSteps(input, reckon(input)).find((s) => s.id === 'run.backing');

describe('art that reaches over the edge', () => {
  it('is refused unless it is said to be on purpose; then it is laid as it is, and says how far', () => {
    expect(zone).toMatchObject({ x: 0, y: 0 });
    expect([sizes.length.mean, sizes.width.mean]).toEqual([60, 25]);
    const under = { zone: zone!, blank: from.blank, outline: blankOutline(from.blank, sizes) };
    const held = layArt(crest, content(), under)!;
    expect(held.problems).toEqual([
      expect.stringMatching(/^Crest, 64\.0 × 32\.00 mm, leaves .*\. Make it smaller, turn it or move it\.$/),
      expect.stringMatching(/^Crest lies over the edge of /),
    ]);
    const laid = layArt(crest, content({ over: true }), under)!;
    expect(laid.problems).toEqual([]);
    // 64 × 32 about the middle of 60 × 25: 2 and 3.5 mm over.
    expect(laid.beyond).toBeCloseTo(3.5, 6);
    expect(laid.box).toEqual(held.box);
    // On the piece and in its zone it is like any other.
    expect(layArt(crest, content({ over: true, size: { kind: 'width', width: 10 } }), under)!.beyond).toBeUndefined();
  });
  it('still keeps clear of holes', () => {
    const drilled = { ...from.blank, holes: [{ x: 20, y: 0, diameter: 4 }] };
    const laid = layArt(crest, content({ over: true }), { zone: zone!, blank: drilled, outline: blankOutline(drilled, sizes) })!; // prettier-ignore
    expect(laid.problems).toEqual(['Crest lies over hole 1 of the blank.']);
  });
  it('asks for a backing sheet before the load, and only then', () => {
    expect(backing(on({ over: true }))).toMatchObject({ title: 'Lay a backing sheet under the pieces', figure: { value: '3.5', unit: 'mm' }, caution: expect.stringMatching(/safety sheet/) }); // prettier-ignore
    expect(backing(on({ over: true }))!.detail).toMatch(/^Crest is burned over the edge on purpose\./);
    expect(backing(on({ size: { kind: 'fit' } }))).toBeUndefined();
  });
  it('is burned past the edge where nothing lies beside it, and held back where it would burn the next piece', () => {
    const { board } = reckon(on({ over: true }));
    const [a, b] = board!.slots;
    const apart = Math.hypot(b!.centre.x - a!.centre.x, b!.centre.y - a!.centre.y);
    const gap = apart - (Math.abs(a!.centre.x - b!.centre.x) > 1 ? 60 : 25);
    expect(gap).toBeGreaterThan(3.6);
    expect(reasons(on({ over: true }))).toEqual([]);
    const box = burnedBox(programOf(on({ over: true }, [1])));
    expect(box.maxX - box.minX).toBeCloseTo(64, 1);
    expect(box.maxY - box.minY).toBeGreaterThan(31.8);
    // Larger than its piece and the wall together.
    const wide = { over: true, size: { kind: 'width', width: 60 + 2 * gap + 4 } } as const;
    expect(reasons(on(wide))).toEqual(['Crest reaches over the edge of its piece and onto the one beside it, at 2 places. Leave more room between the pieces, or make it smaller.']); // prettier-ignore
    expect(reasons(on({ ...wide, over: null }))[0]).toMatch(/leaves/);
  });
});
