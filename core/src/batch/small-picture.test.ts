import { nominalSize } from '../holding';
import { EXAMPLES } from '../test-ways';
import { reckon } from '../test-reckon';
import { WAY_IDS } from '../ways';
import { smallPicture, type SmallPicture } from '.';

/** Every corner that a path goes to. */
const corners = (d: string): readonly (readonly [number, number])[] =>
  [...d.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)].map(([, x, y]) => [Number(x), Number(y)] as const);
const inside = ({ box }: SmallPicture, d: string, by: number): boolean =>
  corners(d).every(([x, y]) => x > box.minX - by && x < box.maxX + by && y > box.minY - by && y < box.maxY + by);

describe.each(WAY_IDS)('the small picture of a piece held by %s', (way) => {
  const input = EXAMPLES[way];
  const r = reckon(input);
  const picture = smallPicture(r);

  it('is as large as the piece, and small to send', () => {
    const { box } = picture;
    const [width, height] = r.own.round
      ? [Math.max(...r.own.round.shape.profile.map((p) => p.at)), Math.max(...r.own.round.shape.profile.map((p) => p.diameter))] // prettier-ignore
      : input.blank.shape.kind === 'outline'
        ? [nominalSize(input.blank.shape).length, nominalSize(input.blank.shape).width]
        : [r.sizes.length.mean, input.blank.shape.kind === 'disc' ? r.sizes.length.mean : r.sizes.width.mean];
    expect(box.maxX - box.minX).toBeCloseTo(width, 1);
    expect(box.maxY - box.minY).toBeCloseTo(height, 1);
    expect(picture.fill.length + picture.line.length + picture.cut.length).toBeLessThan(9_000);
  });

  it('has all that is engraved on the piece, and nothing beside it', () => {
    for (const d of [picture.fill, picture.line]) expect(inside(picture, d, 0.5)).toBe(true);
  });
});

it('a disc is whole: its box is that of its arc, not of the corners that the arc is drawn by', () => {
  const { box } = smallPicture(reckon({ ...EXAMPLES.pockets, blank: { ...EXAMPLES.pockets.blank, shape: { kind: 'disc', diameter: 40 }, holes: [], samples: { length: [], width: [], thickness: [] } } })); // prettier-ignore
  expect([box.minX, box.minY, box.maxX, box.maxY]).toEqual([-20, -20, 20, 20].map((v) => expect.closeTo(v, 6)));
});
