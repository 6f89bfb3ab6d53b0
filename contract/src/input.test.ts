import { contoursBox, pointerDoubt, type FaceChoice } from '@bistre/core';
import { batchInput, inputWithoutArt, machineOf, type BatchDocument } from '.';

const ID = 'a0000000-0000-4000-8000-000000000001';
const at = (x: number, y: number) => ({ x, y });
const square = { contours: [{ closed: true, vertices: [at(0, 0), at(20, 0), at(20, 10), at(0, 10)] }], rule: 'nonzero' as const, width: 0 }; // prettier-ignore
const crest = {
  id: ID,
  name: 'Crest',
  revision: 2,
  roles: { 'stroke #0000ff': 'guide' as const },
  unit: 'mm' as const,
  shapes: [
    { ...square, fill: '#000000', stroke: null },
    { ...square, fill: null, stroke: '#ff0000' },
    { ...square, fill: null, stroke: '#0000ff' },
  ],
};
const face = { zoneId: 'z', reads: 'around' as const, repeats: 1, wraps: false };
const of = (revision: number, more: object = {}) => ({ ...face, content: { kind: 'artwork' as const, artworkId: ID, revision, name: 'Crest', ...more } }); // prettier-ignore
const documentOf = (faces: readonly object[], artworks: readonly object[]): BatchDocument => ({ blank: { samples: [], spec: {} }, machine: { profile: {}, changes: [] }, feeders: [], artRecipes: [], serials: [], shopSteps: [], ticks: [], approval: { wanted: false, given: null, differences: 0 }, setup: { faces, held: { way: 'cradle', choice: {} } }, artworks }) as unknown as BatchDocument; // prettier-ignore
const inputOf = (faces: readonly object[], artworks: readonly object[] = [crest]) =>
  batchInput(documentOf(faces, artworks));
const facesOf = (...of: Parameters<typeof inputOf>) => inputOf(...of).setup.faces;

const contoursOf = (f: FaceChoice | undefined) => (f?.content.kind === 'art' ? f.content.contours : []);

describe('a machine on which something was changed', () => {
  const at = (day: number): string => `2026-11-${String(day).padStart(2, '0')}T08:00:00.000Z`;
  const offset = { x: 0.4, y: -0.2, height: 0, second: null, measuredAt: at(5) };
  const machine = (what: string, day: number) => machineOf({ id: ID, name: 'Bench A', version: 1, profile: { pointerOffset: offset, kerfMeasuredAt: null, square: null }, changes: [{ id: ID, what, note: '', at: at(day), by: 'Odile' }] } as never); // prettier-ignore
  const doubt = (of: ReturnType<typeof machine>) => pointerDoubt(of.pointerOffset, 0.04, new Date(at(25)));

  it('is trusted no more than one whose pointer nobody measured, and still aimed by what was found', () => {
    const lens = machine('lens', 20);
    expect(lens.pointerOffset).toMatchObject({ x: 0.4, y: -0.2 });
    // ± 0.3 mm, evenly: its variance is that of a side of 0.6, w² / 12 [JCGM 100:2008, 4.3.7].
    expect(doubt(lens)).toMatchObject({ status: 'unmeasured' });
    expect(doubt(lens).uncertainty ** 2).toBeCloseTo(0.6 ** 2 / 12, 12);
  });

  it('is trusted as before where that came earlier, or has nothing to do with the pointer', () => {
    for (const one of [machine('lens', 4), machine('belts', 20)]) expect(doubt(one)).toEqual({ status: 'measured', uncertainty: 0.04 }); // prettier-ignore
  });
});

describe('artworks whose shapes were not fetched', () => {
  const { shapes: _shapes, ...bare } = crest;
  it('are never taken for ones of which nothing is burned', () => {
    expect(() => inputOf([of(2)], [bare])).toThrow('The shapes of Crest were not fetched.');
  });
  it('are not asked for by what asks of the blank, the machine and its drive alone', () => {
    const input = inputWithoutArt(documentOf([of(2)], [bare]));
    expect([input.setup.faces, input.setup.contents, input.artAmiss]).toEqual([[], null, []]);
  });
});

describe('artworks on a round blank', () => {
  it('are reckoned as they are drawn: areas closed, lines as lines, guides not at all', () => {
    const [found] = facesOf([of(2, { size: 'true' })]);
    expect(found).toMatchObject({ ...face, content: { kind: 'art', name: 'Crest', size: 'true' } });
    expect(contoursOf(found).map((c) => [c.closed, c.vertices.length])).toEqual([
      [true, 4],
      [false, 5],
    ]);
  });
  it('are as large as somebody said of a file without a unit', () => {
    const [found] = facesOf([of(2)], [{ ...crest, unit: 'unstated', scale: 25.4 }]);
    const { maxX, maxY } = contoursBox(contoursOf(found));
    expect([maxX, maxY]).toEqual([expect.closeTo(508, 6), expect.closeTo(254, 6)]);
  });
  it('are left out where their revision is not there, or nothing of them is burned; the rest stays', () => {
    const names = { ...face, content: { kind: 'lettering' as const } };
    expect(facesOf([of(1), names])).toEqual([names]);
    const guides = {
      ...crest,
      roles: { 'fill #000000': 'guide', 'stroke #ff0000': 'guide', 'stroke #0000ff': 'guide' },
    };
    expect(facesOf([of(2), names], [guides])).toEqual([names]);
    // And no file leaves without them unsaid.
    expect(inputOf([of(1)]).artAmiss).toEqual(['Crest is not on the Shelf. Choose another.']);
    expect(inputOf([of(2)], [guides]).artAmiss).toEqual([expect.stringMatching(/^All of Crest is a guide/)]);
    const open = { ...crest, unit: 'unstated' };
    expect(inputOf([of(2, { size: 'true' })], [open]).artAmiss).toEqual([
      expect.stringMatching(/^Crest states no unit/),
    ]);
    expect(inputOf([of(2, { size: 'true' })], [{ ...open, scale: 1 }]).artAmiss).toEqual([]);
    expect(inputOf([of(2)], [open]).artAmiss).toEqual([]);
  });
});
