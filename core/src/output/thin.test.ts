import { forScreen } from './thin';

const ring = (n: number, r: number) => Array.from({ length: n }, (_, i) => ({ x: r * Math.cos((2 * Math.PI * i) / n), y: r * Math.sin((2 * Math.PI * i) / n) })); // prettier-ignore

describe('lines for the screen', () => {
  it('stay as they are where they are few', () => {
    const lines = [ring(4_000, 10)];
    expect(forScreen(lines, 20)).toBe(lines);
  });
  it('lose the corners that no dot could show, and no more than half a dot of their form', () => {
    const [thin] = forScreen([ring(60_000, 10)], 20);
    expect(thin!.length).toBeLessThan(10_000);
    expect(thin!.length).toBeGreaterThan(2_500);
    // A thousand dots for 20 mm: between two corners the circle bows by less than a hundredth of a dot.
    for (let i = 1; i < thin!.length; i += 1) {
      const [a, b] = [thin![i - 1]!, thin![i]!];
      expect(10 - Math.hypot((a.x + b.x) / 2, (a.y + b.y) / 2)).toBeLessThan(0.02 / 100);
    }
  });
  it('keep their ends, and sharp corners within their reach', () => {
    const zigzag = Array.from({ length: 9_000 }, (_, i) => ({ x: i / 100, y: i % 2 }));
    const [thin] = forScreen([zigzag], 90);
    expect([thin![0], thin!.at(-1), thin!.length]).toEqual([zigzag[0], zigzag.at(-1), 9_000]);
  });
});
