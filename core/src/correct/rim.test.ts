import fc from 'fast-check';
import { burnedFromArt, rimWords } from './rim';

/** Rims of a cut box round a printed box, each as it is measured, mm: the drawn rim is 3 all round. */
const rims = (cut: { x: number; y: number }) => {
  const [print, drawn] = [{ minX: -20, maxX: 20, minY: -10, maxY: 10 }, 3];
  return {
    left: print.minX - (print.minX - drawn + cut.x),
    right: print.maxX + drawn + cut.x - print.maxX,
    near: print.minY - (print.minY - drawn + cut.y),
    far: print.maxY + drawn + cut.y - print.maxY,
  };
};

describe('a one-sided rim', () => {
  it('is narrow where the cut came nearer: told as it is measured on the piece', () => {
    const measured = rims({ x: 0.45, y: 0 });
    expect([measured.left, measured.right].map((v) => Number(v.toFixed(2)))).toEqual([2.55, 3.45]);
    expect(rimWords({ x: 0.45, y: 0 })).toMatch(/^As the sheet lies the rim is 0\.45 mm narrower at the left than drawn and as much wider at the right\./); // prettier-ignore
    expect(rimWords({ x: -0.45, y: 0 })).toMatch(/narrower at the right than drawn and as much wider at the left/);
  });

  it('of both axes tells both, and of none nothing', () => {
    expect(rimWords({ x: 0.2, y: -0.3 })).toMatch(/0\.2\d* mm narrower at the left .* and 0\.3\d* mm narrower at the far side .* wider at the near side/); // prettier-ignore
    expect(rimWords({ x: 0.04, y: -0.04 })).toBeNull();
  });

  it('always names the side that is in fact narrower', () => {
    const side = fc.double({ min: -2, max: 2, noNaN: true }).filter((v) => Math.abs(v) > 0.06);
    fc.assert(
      fc.property(side, side, (x, y) => {
        const { left, right, near, far } = rims({ x, y });
        const words = rimWords({ x, y })!;
        expect(words.includes('narrower at the left')).toBe(left < right);
        expect(words.includes('narrower at the near side')).toBe(near < far);
      }),
    );
  });
});

describe('where the art lies, as an offset of what was burned', () => {
  const art = { off: { x: 0.3, y: -0.1 }, turn: 0.002 };
  it('is itself where the art was burned, and the other way round where the piece was cut out round a print', () => {
    expect(burnedFromArt(art, 'art')).toEqual(art);
    expect(burnedFromArt(art, 'cut')).toEqual({ off: { x: -0.3, y: 0.1 }, turn: -0.002 });
    // Art lies right of the middle: its left rim is wide, so the cut was too far left.
    const { off } = burnedFromArt(art, 'cut');
    expect(rims(off).left).toBeGreaterThan(rims(off).right);
  });
});
