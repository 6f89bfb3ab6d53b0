import { apply, flatten } from '../geometry';
import { reckonCradle, type CradleChoice } from './cradle';
import { tapeCheck } from './cross-check';
import { correctionWords, letterFAs, ORIENTATIONS, orientationMap, pictureToFile, UPRIGHT, type Orientation } from './orientation'; // prettier-ignore
import { RING_READING, ringFactor, ringIsDoubtful } from './ring';
import { travelFor } from './taper';
import { bandWidth, fitInto, linesBox } from './wrap';

describe('a cradle, drawn by hand', () => {
  const choice: CradleChoice = {
    diameter: 30,
    length: 100,
    fit: { thickness: 4, slot: 4.4, working: [] } as unknown as CradleChoice['fit'],
    crestHeight: null,
    pieces: 2,
    kerf: 0.2,
  };
  const made = (change: Partial<CradleChoice> = {}) => {
    const r = reckonCradle({ ...choice, ...change });
    if (!r.ok) throw new Error(r.problem.message);
    return r.value;
  };
  // The board under the stock: 2 · 4 mm, so that the crest lies at 38. The saddle's radius is 15.3 and its lowest point at 8;
  // it takes 0.66 of it, so that its upper edge stands at 8 + 10.098 = 18.098.
  const top = 18.098;
  const k = 0.1;
  const points = (i: number, of = made()) => of.contours[i]!.vertices.map(({ x, y }) => [x, y].map((v) => Number(v.toFixed(6)))); // prettier-ignore
  const near = (list: readonly (readonly number[])[]) => list.map((p) => p.map((v) => expect.closeTo(v, 4) as unknown));

  it('stands as high as it must, its pieces a board and a finger apart', () => {
    const { crest, pitch, width, height, slot } = made();
    expect([crest, pitch, slot]).toEqual([38, 38, 4.4]);
    // Two pieces and four thicknesses; four boards, 3 mm and a kerf between them.
    expect(width).toBeCloseTo(92, 9);
    expect(height).toBeCloseTo(4 * (top + 3.2) - 3.2, 9);
  });

  it.each([
    [30, 0.2, null],
    [30, 0, null],
    [12.7, 0.3, 40],
    [80, 0.15, 120],
  ])('%f mm of stock stands where it is said once its saddle is cut, kerf %f', (diameter, kerf, crestHeight) => {
    const { contours, crest } = made({ diameter, kerf, crestHeight });
    const saddle = flatten(contours[0]!, 0.0005);
    const lip = contours[0]!.vertices.findIndex((v) => v.bulge);
    const cx = (contours[0]!.vertices[lip]!.x + contours[0]!.vertices[lip + 1]!.x) / 2;
    const R = diameter / 2;
    // The beam takes half a kerf on either side of its way: the stock is let down until it is so far from it.
    const way = saddle.filter((p) => Math.abs(p.x - cx) < R * 1.1 && p.y > crest - diameter - 0.5);
    let [low, high] = [0, crest + R];
    for (let i = 0; i < 50; i += 1) {
      const y = (low + high) / 2;
      if (Math.min(...way.map((p) => Math.hypot(p.x - cx, p.y - y))) + kerf / 2 < R) low = y;
      else high = y;
    }
    expect(low + R).toBeCloseTo(crest, 2);
  });

  it('has saddles with slots from below, half their height, and an arc for each piece', () => {
    // Half of the chord of the beam’s way, half a kerf inside: at 18.198, 5.102 under the saddle’s middle.
    const half = Math.sqrt(15.2 ** 2 - 5.102 ** 2);
    const arc = (middle: number) => [[middle + half, top + k], [middle - half, top + k]]; // prettier-ignore
    const slot = (at: number) => [[at - 2.2 + k, -k], [at - 2.2 + k, top / 2 + k], [at + 2.2 - k, top / 2 + k], [at + 2.2 - k, -k]]; // prettier-ignore
    expect(points(0)).toEqual(near([[-k, -k], ...slot(8), ...slot(84), [92 + k, -k], [92 + k, top + k], ...arc(65), ...arc(27), [-k, top + k]])); // prettier-ignore
    // The bulge is the tangent of a quarter of the sweep, clockwise into the board.
    const { bulge } = made().contours[0]!.vertices.find((v) => v.bulge)!;
    expect(bulge).toBeCloseTo(-Math.tan(Math.acos(5.102 / 15.2) / 2), 9);
    expect(points(1).map(([x, y]) => [x, y! - (top + 3.2)])).toEqual(near(points(0)));
  });

  it('has rails of seven tenths of the length, with slots from above where the saddles stand', () => {
    const y0 = 2 * (top + 3.2);
    const slot = (at: number) => [[at + 2.2 - k, y0 + top + k], [at + 2.2 - k, y0 + top / 2 - k], [at - 2.2 + k, y0 + top / 2 - k], [at - 2.2 + k, y0 + top + k]]; // prettier-ignore
    expect(points(2)).toEqual(near([[-k, y0 - k], [70 + k, y0 - k], [70 + k, y0 + top + k], ...slot(62), ...slot(8), [-k, y0 + top + k]])); // prettier-ignore
    expect(points(3).map(([x, y]) => [x, y! - (top + 3.2)])).toEqual(near(points(2)));
    // Short stock: the two saddles still find room on it.
    expect(Math.max(...points(2, made({ length: 20 })).map(([x]) => x!))).toBeCloseTo(24 + k, 6);
  });

  it('is higher where the focus is, and refused where that is too low', () => {
    expect(made({ crestHeight: 50 }).crest).toBe(50);
    const low = reckonCradle({ ...choice, crestHeight: 37.9 });
    expect(!low.ok && low.problem.message).toBe('With 8.00 mm of board under it the crest lies at 38.00 mm at least; 37.90 mm was asked for.'); // prettier-ignore
    expect(reckonCradle({ ...choice, diameter: 0 }).ok).toBe(false);
    expect(reckonCradle({ ...choice, length: 0 }).ok).toBe(false);
  });
});

describe('the eight ways in which an F comes out', () => {
  const matrix = (o: Orientation) => { const { a, b, c, d } = orientationMap(o); return [a + 0, b + 0, c + 0, d + 0]; }; // prettier-ignore
  it('are the eight symmetries of a square', () => {
    expect(new Set(ORIENTATIONS.map((o) => matrix(o).join())).size).toBe(8);
    expect(matrix({ quarters: 1, mirrored: false })).toEqual([0, 1, -1, 0]);
    // Left for right first, then a quarter turn anticlockwise.
    expect(matrix({ quarters: 1, mirrored: true })).toEqual([0, -1, -1, 0]);
  });
  it('have their F about its own middle, 10 by 14', () => {
    expect(letterFAs(UPRIGHT)).toEqual([[{ x: -5, y: -7 }, { x: -5, y: 7 }, { x: 5, y: 7 }], [{ x: -5, y: 1 }, { x: 2, y: 1 }]]); // prettier-ignore
    expect(letterFAs({ quarters: 2, mirrored: false })[0]).toEqual([{ x: 5, y: 7 }, { x: 5, y: -7 }, { x: -5, y: -7 }]); // prettier-ignore
  });
  it('are told in five ways', () => {
    const words = ORIENTATIONS.map((o) => correctionWords(o).split(/[.:]/)[0]);
    expect(words).toEqual([
      'Right the first time',
      'The two axes are exchanged',
      'The blank lies the other way round than was said, or both axes run backwards',
      'The two axes are exchanged',
      'The turning axis runs the other way',
      'The two axes are exchanged',
      'The head’s axis runs the other way, or the rim faces the other side',
      'The two axes are exchanged',
    ]);
  });
  it('are undone on the way to the file: the rim at the left or the right, the top moving either way', () => {
    const to = (rim: 'left' | 'right', top: 'toward' | 'away', found: Orientation = UPRIGHT) => {
      const m = pictureToFile(rim, top, found);
      // Down from the rim, and to the right round the blank.
      return [apply(m, { x: 0, y: -10 }), apply(m, { x: 5, y: 0 })].map(({ x, y }) => [x + 0, y + 0]);
    };
    // The rim at the left: what lies deeper lies farther to the right.
    expect(to('left', 'toward')).toEqual([[10, 0], [0, 5]]); // prettier-ignore
    expect(to('left', 'away')).toEqual([[10, 0], [0, -5]]); // prettier-ignore
    expect(to('right', 'toward')).toEqual([[-10, 0], [0, -5]]); // prettier-ignore
    expect(to('left', 'toward', { quarters: 2, mirrored: false })).toEqual([[-10, 0], [0, -5]]); // prettier-ignore
  });
});

describe('art round a blank', () => {
  const box = { minX: 10, maxX: 50, minY: -5, maxY: 15 };
  it('fills its room undistorted, from its own middle', () => {
    expect(fitInto(box, 80, 20)).toEqual({ scale: 1, x: -30, y: -5 });
    expect(fitInto(box, 20, 200)).toEqual({ scale: 0.5, x: -30, y: -5 });
    expect(fitInto({ ...box, maxX: 10 }, 80, 40).scale).toBe(2);
  });
  it('has the box of all its lines, empty ones left out', () => {
    expect(linesBox([[{ x: 1, y: 2 }], [], [{ x: -3, y: 9 }, { x: 0, y: 0 }]])).toEqual({ minX: -3, maxX: 1, minY: 0, maxY: 9 }); // prettier-ignore
  });
  it('goes once round, less the gap that is wanted', () => {
    expect(bandWidth(80, { kind: 'seamless', gap: 3 })).toBeCloseTo(251.327, 3);
    expect(bandWidth(80, { kind: 'gapped', gap: 3 })).toBeCloseTo(248.327, 3);
  });
  it('travels at the contact as far as it goes at its own place', () => {
    const cone = [{ at: 0, diameter: 80 }, { at: 100, diameter: 60 }]; // prettier-ignore
    expect(travelFor(10, 50, cone, 75, 72, false)).toBeCloseTo((10 * 75) / 72, 12);
    expect(travelFor(10, 25, cone, 75, 72, true)).toBeCloseTo(10, 12);
    expect(travelFor(10, 100, cone, 75, 72, true)).toBeCloseTo(12.5, 12);
  });
});

describe('what a ring and a tape say', () => {
  it('a ring that closes 2 mm over on 251.33: a correction of 0.99211 [handbook arithmetic]', () => {
    expect(ringFactor(251.33, 2)).toBeCloseTo(0.99211, 5);
    expect(ringFactor(251.33, -2)).toBeCloseTo(251.33 / 249.33, 9);
    // A rule with half millimetres is read to a quarter [common practice].
    expect(RING_READING).toBe(0.25);
    expect([60, -60, 60.1, -60.1].map((o) => ringIsDoubtful(240, o))).toEqual([false, false, true, true]);
  });
  it('a tape agrees with a caliper, or says which slip it was', () => {
    expect(tapeCheck(80, null)).toEqual({ question: null, working: [] });
    const good = tapeCheck(80, 251.6);
    expect(good.question).toBeNull();
    expect(good.working.map((w) => [w.substituted, w.result])).toEqual([
      ['251.60 / π', '80.087 mm'],
      ['80.087 / 80.000 − 1', '0.11 %'],
    ]);
    expect(tapeCheck(40, 251.33)!.question!.message).toContain('twice the 40.00 mm typed. Was a radius typed?');
  });
});
