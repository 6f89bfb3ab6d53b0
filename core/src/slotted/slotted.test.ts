import { contourBox, contoursBox } from '../geometry';
import { fitGauge, freshStock, GAUGE_STEPS, reckonStand, roomFromGauge, slotFit, stockProblem } from './slotted';

const fit = (readings: number[], room: number | null = null) => {
  const made = slotFit({ readings, room }, 3);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};

describe('slotted parts', () => {
  it('have slots for the thickest place of the board', () => {
    expect(fit([3.02, 3.05, 2.98]).slot).toBeCloseTo(3.15, 9);
    expect(fit([3.02, 3.05, 2.98]).loosest).toBeCloseTo(0.17, 9);
    expect(fit([3.02], 0.2).slot).toBeCloseTo(3.22, 9);
  });

  // Common practice: a slot for 0.20 in stock is loose at 0.18 in and impossible at 0.21 in.
  it('do not go together with stock out of range', () => {
    const { slot } = fit([0.2 * 25.4]);
    expect(stockProblem(slot, 0.2 * 25.4)).toBeNull();
    expect(stockProblem(slot, 0.18 * 25.4)).toContain('rattles');
    expect(stockProblem(slot, 0.21 * 25.4)).toContain('does not go into');
  });

  it('are refused before they are cut where one board has no one slot', () => {
    const varies = slotFit({ readings: [2.7, 3.2], room: null }, 3);
    expect(!varies.ok && varies.problem.message).toContain('rattle by 0.60 mm');
    expect(slotFit(freshStock, 0.8).ok).toBe(false);
    expect(slotFit({ readings: [18], room: null }, 3).ok).toBe(false);
  });

  it('take their room from the gauge', () => {
    expect(roomFromGauge(4)).toBe(GAUGE_STEPS[3]);
    expect(roomFromGauge(0)).toBeNull();
    const comb = fitGauge(3, 0.15).at(-1)!;
    expect(contourBox(comb).maxX).toBeCloseTo(GAUGE_STEPS.length * 11 + 8 + 0.075, 9);
  });

  it('make a stand whose strips cross each other at half height', () => {
    const made = reckonStand({ width: 200, depth: 120, height: 30 }, fit([3]), 0.2);
    if (!made.ok) throw new Error(made.problem.message);
    // 200 mm is spanned by ⌈200/90⌉ + 1 = 4 strips across, 120 mm by 3 along.
    expect([made.value.along, made.value.across]).toEqual([3, 4]);
    const up = made.value.contours[0]!;
    const down = made.value.contours[3]!;
    const notch = (ys: number[]): number[] =>
      [...new Set(ys.map((y) => Math.round(y * 1000) / 1000))].sort((a, b) => a - b);
    const y0 = contourBox(down).minY + 0.1;
    // Kerf taken out of each slot: together they are a whole height, none left over.
    const upFoot = notch(up.vertices.map((v) => v.y))[1]!;
    const downFoot = notch(down.vertices.map((v) => v.y - y0))[1]!;
    expect(upFoot + 0.1).toBeCloseTo(15, 3);
    expect(downFoot - 0.1).toBeCloseTo(15, 3);
    // A slot as cut: drawn width + kerf is the slot.
    const xs = up.vertices
      .filter((v) => Math.abs(v.y - upFoot) < 1e-6)
      .map((v) => v.x)
      .sort((a, b) => a - b);
    expect(xs[1]! - xs[0]! + 0.2).toBeCloseTo(3.1, 9);
    expect(contoursBox(made.value.contours).maxX).toBeCloseTo(200.1, 6);
    expect(reckonStand({ width: 200, depth: 120, height: 8 }, fit([3]), 0.2).ok).toBe(false);
    expect(reckonStand({ width: 40, depth: 40, height: 90 }, fit([3]), 0.2).ok).toBe(false);
  });
});
