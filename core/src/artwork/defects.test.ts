import { testBatch } from '../test-batch';
import { testAlphabets } from '../test-alphabets';
import { avoidDefects, offUsable, type PieceLook } from './defects';
import { batchArt, pieceShapes } from './pieces';

const { blank, setup, roster } = testBatch();
const zone = blank.zones[0]!;
const art = batchArt(blank, zone, setup.lettering, roster, testAlphabets);
const look = (defects: PieceLook['defects']): PieceLook[] => [{ ordinal: 2, side: 'one', defects }];
const touching = (
  points: readonly { x: number; y: number }[],
  d: { x: number; y: number; diameter: number },
): boolean => points.some((p) => Math.hypot(p.x - d.x, p.y - d.y) < d.diameter / 2);

describe('defects of single pieces', () => {
  it('move the art of their own piece only, the least that clears them, inside its zone', () => {
    const { box } = art.pieces[1]!;
    const line = art.pieces[1]!.set.lines[0]!;
    const defect = { x: zone.x + line.origin.x + line.width - 0.5, y: zone.y + line.bottom + 0.5, diameter: 1.5 };
    const moved = avoidDefects(art, zone, look([defect]));
    expect(moved.problems).toEqual(art.problems);
    const shift = moved.pieces[1]!.shift!;
    expect(Math.hypot(shift.x, shift.y)).toBeGreaterThan(0);
    expect(moved.pieces.filter((p) => p.shift)).toHaveLength(1);
    const { filled, drawn } = pieceShapes(moved, zone, moved.pieces[1]!);
    expect(touching([...filled, ...drawn].flat(), defect)).toBe(false);
    const room = { x: zone.width / 2 - zone.margin, y: zone.height / 2 - zone.margin };
    expect(moved.pieces[1]!.box.maxX).toBeLessThanOrEqual(zone.x + room.x + 1e-9);
    expect(moved.pieces[1]!.box.minX).toBeGreaterThanOrEqual(zone.x - room.x - 1e-9);
    // By brute force: no shift on a finer grid, a tenth shorter, clears it.
    const least = Math.hypot(shift.x, shift.y) - 0.75;
    for (let x = -least; x <= least; x += 0.25)
      for (let y = -least; y <= least; y += 0.25)
        if (Math.hypot(x, y) < least) {
          const lines = moved.pieces[1]!.set.lines;
          const clear = lines.every((l) => {
            const dx = Math.max(zone.x + l.origin.x + x - defect.x, 0, defect.x - zone.x - l.origin.x - l.width - x);
            const dy = Math.max(zone.y + l.bottom + y - defect.y, 0, defect.y - zone.y - l.top - y);
            return Math.hypot(dx, dy) >= defect.diameter / 2 + 0.5;
          });
          const inside =
            box.minX + x >= zone.x - room.x &&
            box.maxX + x <= zone.x + room.x &&
            box.minY + y >= zone.y - room.y &&
            box.maxY + y <= zone.y + room.y;
          expect(clear && inside).toBe(false);
        }
  });

  it('are named where nothing is clear of them, and leave other art as it was', () => {
    const all = avoidDefects(art, zone, look([{ x: zone.x, y: zone.y, diameter: 40 }]));
    expect(all.problems.map((p) => p.message).join()).toMatch(
      /Piece 2, “PUFFIN.*its defect lies under what it carries/,
    );
    expect(avoidDefects(art, zone, look([]))).toBe(art);
    const beside = avoidDefects(art, zone, look([{ x: zone.x, y: zone.y + 60, diameter: 4 }]));
    expect(beside.pieces[1]!.shift).toBeUndefined();
  });

  it('keep art on the part that can be engraved, and name what leaves it', () => {
    const { box } = art.pieces[1]!;
    const line = art.pieces[1]!.set.lines[0]!;
    const defect = { x: zone.x + line.origin.x + line.width - 0.5, y: zone.y + line.bottom + 0.5, diameter: 1.5 };
    const free = avoidDefects(art, zone, look([defect]));
    const held = avoidDefects(art, zone, look([defect]), (b) => b.minX >= box.minX - 0.01);
    expect(held.pieces[1]!.shift).not.toEqual(free.pieces[1]!.shift);
    expect(offUsable(art, zone, () => true, 'an edge')).toEqual([]);
    expect(offUsable(art, zone, (b) => b.maxX < zone.x, 'a notch')[0]!.message).toContain(
      'the lettering runs over a notch.',
    );
  });
});
