import { contourBox, flatten, insidePolygon } from '../geometry';
import { freshPins, pinGauge, pinsAsThings, pinsOnScrap, reckonPins, shankFromGauge, SHANK_STEPS } from './pins';

const head = { nozzleGap: 6, headRadius: 18, focusRange: 2 };
const work = { width: 400, height: 300, top: 3, surface: 3, warp: 0 };
const path = [
  { x: 40, y: 40 },
  { x: 360, y: 40 },
  { x: 360, y: 260 },
  { x: 40, y: 260 },
];
const make = (change: Partial<typeof freshPins> = {}, of: Partial<typeof work> = {}, on = head, along = path) => {
  const made = reckonPins({ ...freshPins, ...change }, { ...work, ...of }, on, along, []);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};

describe('hold-down pins', () => {
  it('are sized from cell and depth [common practice: a shank just under 7, 18 mm in 22 mm]', () => {
    const pins = make();
    expect(pins.shank).toBeCloseTo(6.8, 9);
    expect(pins.length - work.top).toBeCloseTo(18, 9);
  });

  it('stand nearer together the more the board is bowed: what is left between them stays in focus', () => {
    expect(make().places).toHaveLength(4);
    const bowed = make({}, { warp: 6 });
    expect(bowed.places.length).toBeGreaterThan(8);
    // By the parabola itself: a bow of 6 mm over 400 mm, between neighbours.
    expect(6 * (bowed.spacing / 400) ** 2).toBeCloseTo(head.focusRange / 2, 9);
  });

  it('keep off the path when the head would meet them, and say when there is no place', () => {
    const low = { ...head, nozzleGap: 3 };
    const aside = make({}, {}, low, [
      { x: 10, y: 10 },
      { x: 60, y: 10 },
      { x: 60, y: 290 },
      { x: 10, y: 290 },
    ]);
    expect(aside.places.some((p) => p.moved > 0)).toBe(true);
    for (const { at } of aside.places) expect(at.x).toBeGreaterThan(60 + low.headRadius);
    const all = make({}, {}, low, [
      { x: 0, y: 0 },
      { x: 400, y: 0 },
      { x: 400, y: 300 },
      { x: 0, y: 300 },
    ]);
    expect(all.places).toHaveLength(0);
    expect(all.blocked).toBe(4);
    expect(pinsAsThings(make())).toHaveLength(4);
  });

  it('lie on scrap by the dozen, none in another', () => {
    const pins = make();
    const laid = pinsOnScrap(pins, freshPins, 0.15);
    expect(laid).toHaveLength(12);
    for (const c of laid) {
      const box = contourBox(c);
      expect(box.minX).toBeGreaterThan(0);
      expect(box.maxX).toBeLessThan(freshPins.scrap.width);
      expect(box.maxY).toBeLessThan(freshPins.scrap.height);
    }
    for (const a of laid)
      for (const b of laid) if (a !== b) for (const p of flatten(a)) expect(insidePolygon(p, flatten(b))).toBe(false);
  });

  it('take their shank from the gauge, and refuse what breaks or does not hold', () => {
    expect(pinGauge(7, 0.15).at(-1)!.closed).toBe(true);
    expect(shankFromGauge(7, 5)).toBeCloseTo(7 + SHANK_STEPS[4]!, 9);
    expect(shankFromGauge(7, 99)).toBeNull();
    expect(make({ shank: 6.7 }).shank).toBe(6.7);
    const thin = reckonPins({ ...freshPins, cell: 2 }, work, head, path, []);
    expect(!thin.ok && thin.problem.message).toContain('breaks');
    const shallow = reckonPins({ ...freshPins, depth: 8 }, work, head, path, []);
    expect(!shallow.ok && shallow.problem.message).toContain('6 mm is the least');
  });
});
