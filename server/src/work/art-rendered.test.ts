import { readArt } from '@bistre/core';
import { asRead, differing, dots, DOTS, DRAWINGS, H, held, root, W } from '../testing/art-drawings';
import { plainSvg } from './plain-svg';

// What is read of a drawing against what librsvg, another reader altogether, shows of it: 20 dots to the millimetre, so that a
// dot is 0.05 mm. (Places to turn about and clip paths of clip paths, which it does not know, are checked by value in
// core/src/artwork/svg.test.ts.) Each file is drawn black on white; it is compared as it came and as the shapes that were read of it.
const off = async (svg: string): Promise<{ off: number; ink: number }> => {
  const read = readArt('drawing.svg', held(svg), plainSvg);
  if (!read.ok) throw new Error(read.problem.message);
  return differing(await dots(held(svg)), await dots(asRead(read.value.shapes)));
};

describe('a drawing is read as another reader shows it', () => {
  it.each(DRAWINGS)('%s: nothing is off by more than 0.05 mm', async (_, body) => {
    const found = await off(root(body));
    expect(found.ink).toBeGreaterThan(2_000);
    expect(found.off).toBe(0);
  });
  it('whatever its root says of size, origin and fit', async () => {
    const body = '<path d="M-5-5h40l-20 30z"/><circle cx="20" cy="5" r="6"/>';
    for (const fit of [
      '',
      'preserveAspectRatio="none"',
      'preserveAspectRatio="xMinYMax"',
      'preserveAspectRatio="xMaxYMid slice"',
    ]) {
      const drawing = root(body, `width="${W}mm" height="${H}mm" viewBox="-10 -10 60 60" ${fit}`);
      const read = readArt('a.svg', drawing, plainSvg);
      if (!read.ok) throw new Error(read.problem.message);
      const shown = await dots(drawing);
      // By size alone: how large what is seen is, where none of it is cut off.
      const xs = Array.from({ length: shown.width }, (_, x) => x).filter((x) => Array.from({ length: shown.height }, (_, y) => y).some((y) => shown.data[y * shown.width + x]! < 128)); // prettier-ignore
      if (!/slice/.test(fit)) expect((xs.at(-1)! - xs[0]! + 1) / DOTS).toBeCloseTo(read.value.width, 0);
      expect(read.value.width).toBeCloseTo({ '': 40 * (40 / 60), 'preserveAspectRatio="none"': 40, 'preserveAspectRatio="xMinYMax"': 40 * (40 / 60), 'preserveAspectRatio="xMaxYMid slice"': 40 }[fit]!, 2); // prettier-ignore
    }
  });
  it('and the check sees a shift of two dots', async () => {
    const moved = root('<rect x="10.1" y="10" width="20" height="20"/>');
    const [a, b] = [await dots(root('<rect x="10" y="10" width="20" height="20"/>')), await dots(moved)];
    expect(a.data.equals(b.data)).toBe(false);
  });
});
