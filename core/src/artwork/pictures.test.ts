import { batchDrawing, batchProgram, estimateTime, gateOf } from '../batch';
import { asDrawn, runFile } from '../bench-sim/run';
import { apply, compose, distance, rigid } from '../geometry';
import { slotTransform } from '../holding';
import { readGcode } from '../output';
import { FRESH_TREATMENT, type Grey } from '../picture';
import { picturesOf, placedPieces, trueOutline, type BatchInput } from '../setup';
import { loadedPieces, testBatch } from '../test-batch';
import { readAt, reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import type { PictureContent } from './content';
import { pictureDots, withDots } from './pictures';

/** A crest of 200 × 160 dots: a dark disc left of the middle, grey under it, white beside. */
const CREST: Grey = { width: 200, height: 160, pixels: Uint8Array.from({ length: 32_000 }, (_, i) => { const [x, y] = [i % 200, Math.floor(i / 200)]; return Math.hypot(x - 60, y - 60) < 40 ? 20 : y > 120 ? 140 : 255; }) }; // prettier-ignore
const HELD = new Map([['p', CREST]]);
const picture: PictureContent = { kind: 'picture', id: 'c', zoneId: 'face', pictureId: 'p', name: 'crest', width: 200, height: 160, darkness: 0.3, treatment: FRESH_TREATMENT, size: { kind: 'width', width: 20 }, turn: 0, mirrored: false }; // prettier-ignore

const carrying = (change: Partial<PictureContent> = {}, on = [1, 2]): BatchInput => {
  const from = testBatch();
  const bare = { ...from, roster: [], pieces: loadedPieces(on), setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents: [{ ...picture, ...change }] } }; // prettier-ignore
  return readAt(bare, rigid(0.004, 60, 70));
};
const gcode = (input: BatchInput, pictures = HELD) => {
  const made = batchProgram(input, reckon(input), 'load', { pictures });
  return made.ok ? [...made.value].join('') : made.problem;
};
const movesOf = (input: BatchInput) => {
  const text = gcode(input);
  if (typeof text !== 'string') throw new Error(text.message);
  const read = readGcode(text, 1000);
  if (!read.ok) throw new Error(read.problem.message);
  return read.value.moves;
};

describe('a picture on flat pieces', () => {
  it('is burned where it lies: the tone and the middle of its dots are the picture’s', () => {
    const input = carrying();
    const r = reckon(input);
    expect(gateOf(input, r, 'load')).toEqual([]);
    const moves = movesOf(input);
    const { interval, power, speed } = input.recipe!.engrave;
    // By its own dots: darkness, and the middle of what is dark.
    let [sum, mx, my] = [0, 0, 0];
    CREST.pixels.forEach((shade, i) => {
      const dark = 1 - shade / 255;
      sum += dark;
      mx += dark * ((i % 200) + 0.5);
      my += dark * (160 - Math.floor(i / 200) - 0.5);
    });
    const [piece] = r.art!.pieces;
    const { box } = piece!;
    expect([box.maxX - box.minX, box.maxY - box.minY]).toEqual([expect.closeTo(20, 9), expect.closeTo(16, 9)]);
    for (const { slot } of r.onTheBoard) {
      const m = compose(r.boardToBed, slotTransform(slot));
      const meant = apply(m, { x: box.minX + (mx / sum) * 0.1, y: box.minY + (my / sum) * 0.1 });
      const middle = apply(m, { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 });
      let [l, x, y] = [0, 0, 0];
      for (let i = 1; i < moves.count; i += 1) {
        // The machine counts y from the back.
        const [ax, bx, py] = [moves.x[i - 1]!, moves.x[i]!, input.machine.bed.height - moves.y[i]!];
        if (moves.power[i] === 0 || Math.abs((ax + bx) / 2 - middle.x) > 14 || Math.abs(py - middle.y) > 12) continue;
        expect([moves.speed[i], moves.power[i]]).toEqual([expect.closeTo(speed, 6), expect.closeTo(power, 3)]);
        const length = Math.abs(bx - ax);
        l += length;
        x += (length * (ax + bx)) / 2;
        y += length * py;
      }
      // Tone: burned area of all, against the darkness of the picture.
      expect((l * interval) / (20 * 16)).toBeCloseTo(sum / 32_000, 2);
      expect([x / l, y / l]).toEqual([expect.closeTo(meant.x, 1), expect.closeTo(meant.y, 1)]);
    }
  });
  it('is swept over a row of pieces at once, there and back, with run-ups that reach the speed', () => {
    const of = (sweep: 'piece' | 'row') => {
      const input = carrying();
      return movesOf({ ...input, setup: { ...input.setup, burn: { ...input.setup.burn, sweep } } });
    };
    const rapids = (m: ReturnType<typeof of>) => Array.from({ length: m.count }, (_, i) => i).filter((i) => m.speed[i]! < 0 || m.speed[i] === Infinity).length; // prettier-ignore
    const [row, piece] = [of('row'), of('piece')];
    // Both pieces lie in one row: half as many sweeps, the turn of 4 mrad aside.
    expect(row.count).toBeLessThan(piece.count);
    expect(rapids(row)).toBeLessThanOrEqual(rapids(piece));
    const { machine, recipe } = carrying();
    const lead = recipe!.engrave.speed ** 2 / (2 * machine.acceleration);
    // The first line begins with the beam off, so far before its first dot.
    const first = Array.from({ length: row.count }, (_, i) => i).find((i) => row.power[i]! > 0)!;
    expect(Math.abs(row.x[first - 1]! - row.x[first - 2]!)).toBeCloseTo(lead, 2);
    const directions = new Set<number>();
    for (let i = 1; i < row.count; i += 1) if (row.power[i]! > 0) directions.add(Math.sign(row.x[i]! - row.x[i - 1]!));
    expect([...directions].sort()).toEqual([-1, 1]);
  });
  it('takes as long as the whole of its area, and its walk goes round it', () => {
    const input = carrying({}, [1]);
    const time = estimateTime(input, reckon(input))!;
    // As a rectangle of 20 × 16 that is filled, in the same place.
    const filled = {
      closed: true,
      vertices: [
        { x: 0, y: 0 },
        { x: 20, y: 0 },
        { x: 20, y: 16 },
        { x: 0, y: 16 },
      ],
    };
    const artworks = [{ id: 'a', name: 'A', revision: 1, roles: {}, unit: 'mm' as const, shapes: [{ contours: [filled], rule: 'nonzero' as const, fill: '#000000', stroke: null, width: 0 }] }]; // prettier-ignore
    const contents = [{ ...picture, kind: 'artwork' as const, artworkId: 'a', revision: 1 }];
    const same = { ...input, artworks, setup: { ...input.setup, contents } };
    expect(time.load).toBeCloseTo(estimateTime(same, reckon(same))!.load, 6);
    for (const [i, p] of trueOutline(reckon(input)).entries()) expect(distance(p, trueOutline(reckon(same))[i]!)).toBeLessThan(1e-9); // prettier-ignore
  });
  it('waits for its dots, and is too fine where there were too many', () => {
    expect(gcode(carrying(), new Map())).toMatchObject({ code: 'no-picture' });
    const input = carrying();
    const fine = { ...input, recipe: { ...input.recipe!, engrave: { ...input.recipe!.engrave, interval: 0.002 } } };
    expect(gcode(fine)).toMatchObject({ code: 'picture-too-fine', message: expect.stringMatching(/161 million dots at 0\.002 mm/) }); // prettier-ignore
    const r = reckon(input);
    expect(pictureDots(placedPieces(r, r.onTheBoard), r.boardToBed, 0.1)).toBeGreaterThan(2 * 200 * 160);
    expect(picturesOf(input)).toEqual(['p']);
  });
  it('is in no drawing, and leaves no zone, like all else', () => {
    const input = carrying();
    expect(batchDrawing(input, reckon(input), 'load')).toMatchObject({ ok: false, problem: { code: 'picture-in-drawing' } }); // prettier-ignore
    const wide = carrying({ size: { kind: 'width', width: 60 } });
    expect(gateOf(wide, reckon(wide), 'load').map((p) => p.message).join()).toMatch(/crest, 60\.0 × 48\.00 mm, leaves face by/); // prettier-ignore
    // On a drive pictures are faces of their own.
    const flask = { ...EXAMPLES.drive, setup: { ...EXAMPLES.drive.setup, contents: [picture] } };
    expect(gateOf(flask, reckon(flask), 'load').map((p) => p.message).join()).toMatch(/A picture cannot be carried by work that is held so/); // prettier-ignore
  });
  it('is measured by the simulated machine as it was meant', () => {
    const input = carrying({ turn: Math.PI / 2, size: { kind: 'height', height: 18 } });
    const r = reckon(input);
    const meant = placedPieces(r, r.onTheBoard).map((p) => ({ ...p, shapes: withDots(p.shapes, 0.1, HELD) }));
    const run = runFile(gcode(input) as string, { seed: 1, pose: { angle: 0.004, x: 60, y: 70 }, pointer: { x: 0, y: 0 } }, input.machine, { sizes: r.sizes, pocket: r.pocket, load: 1, interval: 0.1, seating: asDrawn(r.sizes) }, meant); // prettier-ignore
    if (!run.ok) throw new Error(run.problem.message);
    expect(run.value.stray).toBeLessThan(1);
    for (const p of run.value.pieces) expect([p.dx, p.dy]).toEqual([expect.closeTo(0, 1), expect.closeTo(0, 1)]);
  });
});
