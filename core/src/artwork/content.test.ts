import fc from 'fast-check';
import {
  apply,
  compose,
  contourLength,
  contoursBox,
  flatten,
  polygonArea,
  rigid,
  rotation,
  type Contour,
} from '../geometry';
import { batchDrawing, batchProgram, gateOf } from '../batch';
import { asDrawn, runFile } from '../bench-sim/run';
import { readGcode } from '../output';
import { blankOutline, slotTransform } from '../holding';
import { placedPieces, type BatchInput } from '../setup';
import { loadedPieces, testBatch } from '../test-batch';
import { plain } from '../test-plain';
import { programOf, readAt, reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { FRESH_TREATMENT } from '../picture';
import { layArt, type Artwork, type ArtworkContent, type PictureContent } from './content';
import { laidWorking } from './laid-working';
import { readSvgArt } from './outline-svg';
import { sortArt, stylesOf } from './styles';

const shapesOf = (body: string) => {
  const made = readSvgArt(`<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 40 20">${body}</svg>`, plain); // prettier-ignore
  if (!made.ok) throw new Error(made.problem.message);
  return made.value.shapes;
};
const artwork = (body: string, roles: Artwork['roles'] = {}): Artwork => ({ id: 'a', name: 'Crest', revision: 1, shapes: shapesOf(body), roles, unit: 'mm' }); // prettier-ignore
const area = (all: readonly Contour[]): number => all.reduce((s, c) => s + polygonArea(flatten(c)), 0);
const content = (change: Partial<ArtworkContent> = {}): ArtworkContent => ({ kind: 'artwork', id: 'c', zoneId: 'z', artworkId: 'a', revision: 1, size: { kind: 'true' }, turn: 0, mirrored: false, ...change }); // prettier-ignore

// A shield of 20 × 10 from (2, 4) of its drawing, a line across it, and the page's frame.
const CREST = '<rect x="2" y="4" width="20" height="10" fill="#102030"/><path d="M2 9H22" fill="none" stroke="#c00000" stroke-width="0.2"/><rect width="40" height="20" fill="none" stroke="#0000ff"/>'; // prettier-ignore
const ROLES = { 'stroke #0000ff': 'guide' } as const;
const crest = artwork(CREST, ROLES);

describe('styles of a file', () => {
  it('are its fills and strokes in order, with what they draw', () => {
    const styles = stylesOf(shapesOf(CREST));
    expect(styles.map((s) => [s.key, s.shapes, s.of])).toEqual([['fill #102030', 1, 'fill'], ['stroke #c00000', 1, 'stroke'], ['stroke #0000ff', 1, 'stroke']]); // prettier-ignore
    expect(styles[0]!.area).toBeCloseTo(200, 3);
    expect(styles.map((s) => s.length)).toEqual([expect.closeTo(60, 3), expect.closeTo(20, 3), expect.closeTo(120, 3)]);
  });
  it('burn where they overlap once, and leave what the rule leaves', () => {
    // Two squares of 10 that overlap by 5 × 5, and a ring by either rule.
    expect(area(sortArt(shapesOf('<rect width="10" height="10"/><rect x="5" y="5" width="10" height="10" fill="red"/>'), {}).areas)).toBeCloseTo(175, 3); // prettier-ignore
    const ring = (rule: string) => area(sortArt(shapesOf(`<path d="M0 0h12v12h-12zM3 3h6v6h-6z" fill-rule="${rule}"/>`), {}).areas); // prettier-ignore
    expect([ring('evenodd'), ring('nonzero')]).toEqual([expect.closeTo(108, 3), expect.closeTo(144, 3)]);
  });
  it('take the role that was said; what is filled and drawn has both', () => {
    const both = shapesOf('<rect width="10" height="10" fill="red" stroke="blue"/>');
    const sorted = (roles: Artwork['roles']) => { const { areas, lines, cuts } = sortArt(both, roles); return [areas.length, lines.length, cuts.length]; }; // prettier-ignore
    expect(sorted({})).toEqual([1, 1, 0]);
    expect(sorted({ 'stroke #0000ff': 'cut' })).toEqual([1, 0, 1]);
    expect(sorted({ 'fill #ff0000': 'guide', 'stroke #0000ff': 'guide' })).toEqual([0, 0, 0]);
    expect(sorted({ 'fill #ff0000': 'line' })).toEqual([0, 2, 0]);
  });
  it('cut what lies inside before what lies round it', () => {
    const cuts = sortArt(shapesOf('<g fill="none" stroke="red"><rect width="30" height="18"/><circle cx="9" cy="9" r="2"/><rect x="4" y="4" width="12" height="10"/></g>'), { 'stroke #ff0000': 'cut' }).cuts; // prettier-ignore
    expect(cuts.map((c) => Math.round(Math.abs(polygonArea(flatten(c)))))).toEqual([13, 120, 540]);
  });
});

describe('art in a zone', () => {
  const blank = testBatch().blank;
  const zone = { ...blank.zones[0]!, id: 'z', name: 'face', x: 1, y: -2, width: 40, height: 18, margin: 1, keepOuts: [], across: 'centre', down: 'middle' } as const; // prettier-ignore
  const outline = blankOutline({ ...blank, holes: [] }, reckon(testBatch()).sizes);
  const under = { zone, blank: { ...blank, holes: [] }, outline };
  const laid = (change: Partial<ArtworkContent> = {}, more: object = {}) => layArt(crest, content(change), { ...under, ...more })!; // prettier-ignore
  const size = (l: ReturnType<typeof laid>) => [l.box.maxX - l.box.minX, l.box.maxY - l.box.minY];

  it.each([
    ['as its file says', {}, [20, 10], [-9, -7]],
    ['by its width', { size: { kind: 'width', width: 30 } }, [30, 15], [-14, -9.5]],
    ['by its height', { size: { kind: 'height', height: 4 } }, [8, 4], [-3, -4]],
    // The room is 38 × 16: 1.6 times is as tall as it.
    ['as large as the zone takes it', { size: { kind: 'fit' } }, [32, 16], [-15, -10]],
    ['to the left and the top', { across: 'left', down: 'top' }, [20, 10], [-18, -4]],
    ['to the right and the bottom', { across: 'right', down: 'bottom' }, [20, 10], [0, -10]],
    ['a quarter turned', { turn: Math.PI / 2, size: { kind: 'fit' } }, [8, 16], [-3, -10]],
  ] as const)('lies %s', (_, change, wanted, corner) => {
    const l = laid(change as Partial<ArtworkContent>);
    expect(size(l)).toEqual(wanted.map((v) => expect.closeTo(v, 3)));
    expect([l.box.minX, l.box.minY]).toEqual(corner.map((v) => expect.closeTo(v, 3)));
  });
  it('is as the file is, by a matrix of its own: every corner, turned, mirrored and scaled', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(number(-3, 3), fc.boolean(), number(5, 30), (turn, mirrored, width) => {
        const l = laid({ turn, mirrored, size: { kind: 'width', width } });
        // The shield's corners about its middle (12, 9), y down: by hand, then onto the zone's middle.
        const corners = [[-10, -5], [10, -5], [10, 5], [-10, 5]].map(([x, y]) => apply(rotation(turn), { x: mirrored ? -x! : x!, y: y! })); // prettier-ignore
        const k = width / (Math.max(...corners.map((c) => c.x)) - Math.min(...corners.map((c) => c.x)));
        const found = flatten(l.areas[0]!);
        for (const c of corners) {
          const at = { x: 1 + k * c.x, y: -2 + k * c.y };
          expect(Math.min(...found.map((p) => Math.hypot(p.x - at.x, p.y - at.y)))).toBeLessThan(0.001);
        }
        expect(l.scale).toBeCloseTo(k, 6);
        expect(contourLength(l.lines[0]!)).toBeCloseTo(20 * k, 3);
      }),
    );
  });
  it('says the room that is left to the zone, and what is wrong', () => {
    const l = laid();
    expect([l.room.left, l.room.right, l.room.front, l.room.back]).toEqual([9, 9, 3, 3].map((v) => expect.closeTo(v, 3))); // prettier-ignore
    expect(l.problems).toEqual([]);
    expect(laid({ size: { kind: 'width', width: 50 } }).problems[0]).toBe('Crest, 50.0 × 25.00 mm, leaves face by 6.00 mm at its left, 6.00 mm at its right, 4.50 mm at its front and 4.50 mm at its back. Make it smaller, turn it or move it.'); // prettier-ignore
    const holed = { blank: { ...under.blank, holes: [{ x: 1, y: 6, diameter: 4 }] } };
    expect(laid({}, holed).problems).toEqual([]);
    expect(laid({ size: { kind: 'height', height: 13 } }, holed).problems).toEqual(['Crest lies over hole 1 of the blank.']); // prettier-ignore
    const kept = (x: number) => ({ zone: { ...zone, keepOuts: [{ x, y: 0, width: 4, height: 4 }] } });
    expect(laid({}, kept(13)).problems).toEqual([]);
    expect(laid({}, kept(11)).problems).toEqual(['Crest runs into keep-out 1 of face.']);
    // Inside of an area there is no line of it near.
    expect(laid({}, kept(0)).problems).toEqual(['Crest runs into keep-out 1 of face.']);
    const notched: readonly Contour[] = [{ closed: true, vertices: outline[0]!.vertices }, { closed: true, vertices: [{ x: 0, y: -3 }, { x: 2, y: -3 }, { x: 2, y: -1 }, { x: 0, y: -1 }] }]; // prettier-ignore
    expect(laid({}, { outline: notched }).problems).toEqual([`Crest lies over the edge of ${blank.name}, or over what is cut out of it.`]); // prettier-ignore
  });
  it('of a file without a unit waits for somebody to say how large it is, where its own size is asked for', () => {
    const open = { ...crest, unit: 'unstated' as const };
    const said = (of: Artwork, change: Partial<ArtworkContent> = {}) => layArt(of, content(change), under)!;
    expect(said(open).problems[0]).toMatch(/^Crest states no unit: say on the Shelf how large it really is/);
    expect(said(open, { size: { kind: 'width', width: 10 } }).problems).toEqual([]);
    expect(said({ ...open, scale: 1 }).problems).toEqual([]);
    const inches = said({ ...open, scale: 1.5 });
    expect([inches.scale, ...size(inches)]).toEqual([1.5, expect.closeTo(30, 3), expect.closeTo(15, 3)]);
    // By a width it is as wide as that, whatever its file’s unit.
    expect(size(said({ ...open, scale: 25.4 }, { size: { kind: 'width', width: 10 } }))).toEqual([expect.closeTo(10, 3), expect.closeTo(5, 3)]); // prettier-ignore
  });
  it('is nothing where every style is a guide', () =>
    expect(layArt(artwork(CREST, { 'fill #102030': 'guide', 'stroke #c00000': 'guide', 'stroke #0000ff': 'guide' }), content(), under)).toBeNull()); // prettier-ignore
});

describe('a batch that carries art', () => {
  const FLAT = ['pockets', 'fence', 'pegs', 'marked', 'sheet', 'photo', 'locator', 'long', 'feed'] as const;
  const placed = (input: BatchInput): BatchInput => (reckon(input).board?.marks.length ? readAt(input, rigid(0.01, 60, 70)) : input); // prettier-ignore
  /** A batch with the crest in its first zone, laid down and read 60 mm in and 70 up. */
  const carrying = (
    given: BatchInput,
    change: Partial<ArtworkContent> = {},
    roles: Artwork['roles'] = ROLES,
  ): BatchInput => {
    // A long piece has a zone where it is said to have one.
    const zones = given.blank.zones.length > 0 ? given.blank.zones : [{ ...testBatch().blank.zones[0]!, x: 0, y: 60 }];
    const from = { ...given, blank: { ...given.blank, zones } };
    return placed({
      ...from,
      roster: [],
      pieces: from.pieces.length > 0 ? from.pieces : loadedPieces([1]),
      artworks: [{ ...crest, roles }],
      setup: {
        ...from.setup,
        lettering: { ...from.setup.lettering, lines: [] },
        contents: [content({ zoneId: from.blank.zones[0]!.id, size: { kind: 'width', width: 8 }, ...change })],
      },
    });
  };

  it.each(FLAT.filter((way) => EXAMPLES[way]))('%s: burns it on every piece that is on, where it was laid', (way) => {
    const input = carrying(EXAMPLES[way]);
    const r = reckon(input);
    const { laid } = r.art!;
    expect(laid).toHaveLength(1);
    const made = batchProgram(input, r, 'load');
    if (!made.ok) throw new Error(JSON.stringify(made.problem));
    expect(r.onTheBoard.length).toBeGreaterThan(0);
    expect(gateOf(input, r, 'load')).toEqual([]);
  });
  it('has a file whose burned box is that of the art in its slot', () => {
    const from = testBatch();
    const input = carrying({ ...from, pieces: loadedPieces([1]) });
    const r = reckon(input);
    const program = readGcode(programOf(input), 1000);
    if (!program.ok) throw new Error(program.problem.message);
    const { moves } = program.value;
    const to = compose(r.boardToBed, slotTransform(r.onTheBoard[0]!.slot));
    const art = contoursBox([...r.art!.laid![0]!.areas, ...r.art!.laid![0]!.lines]);
    const corners = [[art.minX, art.minY], [art.maxX, art.minY], [art.maxX, art.maxY], [art.minX, art.maxY]].map(([x, y]) => apply(to, { x: x!, y: y! })); // prettier-ignore
    const xs: number[] = [];
    for (let i = 1; i < moves.count; i += 1) if (moves.power[i]! > 0) xs.push(moves.x[i]!, moves.x[i - 1]!);
    expect(Math.min(...xs)).toBeCloseTo(Math.min(...corners.map((c) => c.x)), 1);
    expect(Math.max(...xs)).toBeCloseTo(Math.max(...corners.map((c) => c.x)), 1);
  });
  it('cuts by the recipe’s cut what is said to be cut, after all else', () => {
    const input = carrying({ ...testBatch(), pieces: loadedPieces([1]) }, {}, { ...ROLES, 'stroke #c00000': 'cut' });
    const text = programOf(input);
    const program = readGcode(text, 1000);
    if (!program.ok) throw new Error(program.problem.message);
    const { moves } = program.value;
    const { cut } = input.recipe!;
    const cuts = Array.from({ length: moves.count }, (_, i) => i).filter((i) => moves.power[i]! > 0 && Math.abs(moves.power[i]! - cut.power) < 1e-6); // prettier-ignore
    expect(cuts.length).toBeGreaterThan(0);
    const lastEngraved = Math.max(...Array.from({ length: moves.count }, (_, i) => i).filter((i) => moves.power[i]! > 0 && !cuts.includes(i))); // prettier-ignore
    expect(Math.min(...cuts)).toBeGreaterThan(lastEngraved);
  });
  it('is held back while it leaves its zone', () => {
    const input = carrying({ ...testBatch(), pieces: loadedPieces([1]) }, { size: { kind: 'width', width: 500 } });
    const against = gateOf(input, reckon(input), 'load');
    expect(against.map((p) => p.code)).toContain('zone');
    expect(against.map((p) => p.message).join()).toMatch(/Crest, 500\.0 × 250\.00 mm, leaves .* by/);
  });
  it('is held back where lettering runs into it, or it into other art, and not where it lies round it', () => {
    const from = testBatch();
    const both = (change: Partial<ArtworkContent>, of: Artwork = { ...crest, roles: ROLES }): string[] => {
      const art = carrying({ ...from, pieces: loadedPieces([1]) }, change);
      const input = {
        ...art,
        artworks: [of],
        roster: from.roster,
        setup: { ...art.setup, lettering: from.setup.lettering },
      };
      return gateOf(input, reckon(input), 'load').map((p) => p.message);
    };
    expect(both({ size: { kind: 'fit' } }).join()).toMatch(/Piece 1, “.+”: the lettering runs into Crest\. Move one/);
    // A frame round the whole zone goes round the lettering.
    const frame = artwork('<rect width="54" height="21" fill="none" stroke="#c00000"/>');
    const { width, margin } = from.blank.zones[0]!;
    expect(both({ size: { kind: 'width', width: width - 2 * margin - 0.1 } }, frame)).toEqual([]);
    const two = carrying({ ...from, pieces: loadedPieces([1]) });
    const twice = {
      ...two,
      setup: { ...two.setup, contents: [...two.setup.contents!, { ...two.setup.contents![0]!, id: 'd' }] },
    };
    expect(gateOf(twice, reckon(twice), 'load').map((p) => p.message)).toEqual(['Crest lies over Crest. Move one of them, or make it smaller.']); // prettier-ignore
  });
  it('is held back where it would be missing: its zone or file gone, all of it a guide, or held so that none is carried', () => {
    const said = (input: BatchInput): string =>
      gateOf(input, reckon(input), 'load')
        .map((p) => p.message)
        .join();
    const from = { ...testBatch(), pieces: loadedPieces([1]) };
    expect(said(carrying(from))).toBe('');
    expect(said(carrying(from, { zoneId: 'gone' }))).toMatch(/The zone that Crest was put in is not on .+ any more/);
    expect(said(carrying(from, { revision: 2 }))).toMatch(/is not on the Shelf\. Choose another/);
    const guides = { 'fill #102030': 'guide', 'stroke #c00000': 'guide', 'stroke #0000ff': 'guide' } as const;
    expect(said(carrying(from, {}, guides))).toMatch(/All of Crest is a guide: nothing of it is burned/);
    // On a drive pictures are faces of their own.
    const flask = carrying({ ...EXAMPLES.drive, pieces: loadedPieces([1]) });
    const picture: PictureContent = { ...content(), kind: 'picture', pictureId: 'p', name: 'Harbour', width: 90, height: 60, darkness: 0.3, treatment: FRESH_TREATMENT }; // prettier-ignore
    expect(said({ ...flask, setup: { ...flask.setup, contents: [{ ...picture, zoneId: flask.setup.contents![0]!.zoneId }] } })).toMatch(/A picture cannot be carried by work that is held so/); // prettier-ignore
    expect(said({ ...from, artAmiss: ['Crest states no unit.'] })).toBe('Crest states no unit.');
  });
  it('is measured by the simulated machine with what is cut of it', () => {
    const input = carrying({ ...testBatch(), pieces: loadedPieces([1]) }, {}, { ...ROLES, 'fill #102030': 'guide', 'stroke #c00000': 'cut' }); // prettier-ignore
    const r = reckon(input);
    const run = runFile(programOf(input), { seed: 1, pose: { angle: 0.01, x: 60, y: 70 }, pointer: { x: 0, y: 0 } }, input.machine, { sizes: r.sizes, pocket: r.pocket, load: 1, interval: 0.1, seating: asDrawn(r.sizes) }, placedPieces(r, r.onTheBoard)); // prettier-ignore
    if (!run.ok) throw new Error(run.problem.message);
    expect([run.value.pieces[0]!.dx, run.value.pieces[0]!.dy]).toEqual([expect.closeTo(0, 1), expect.closeTo(0, 1)]);
  });
  it('waits for no list where it has no lettering, and for one where it has', () => {
    const art = carrying(testBatch());
    // A spare blank takes the line of the piece that was scrapped.
    expect(reckon(art).art!.pieces).toHaveLength(art.quantity);
    expect(reckon(art).art!.pieces[0]!.label).toBe('Crest');
    const both = { ...art, setup: { ...art.setup, lettering: testBatch().setup.lettering } };
    expect(reckon(both).art!.pieces).toHaveLength(0);
  });

  it('shows how its figures follow: what was said, its file’s own size, the zone’s and the piece’s edges', () => {
    const input = carrying({ ...testBatch(), pieces: loadedPieces([1]) }, { size: { kind: 'width', width: 10 }, offset: { x: 2, y: 0 } }); // prettier-ignore
    const r = reckon(input);
    const [laid] = r.art!.laid!;
    const lines = laidWorking(laid!, r.zone!);
    const of = (label: string) => lines.find((l) => l.label === label)!;
    // The crest is 20 × 10 in its file.
    expect([of('times its own size').substituted, of('times its own size').result]).toEqual(['10.00 mm ÷ 20.00 mm', '0.500']); // prettier-ignore
    expect(of('size').result).toBe('10.00 × 5.00 mm');
    expect(of('room on the left').result).toBe(`${laid!.room.left.toFixed(2)} mm`);
    const [, edge, middle, half] = /^(\S+) mm − \((\S+) mm − (\S+) mm\)$/.exec(of('room on the left').substituted)!.map((v) => Number(v.replace('−', '-'))); // prettier-ignore
    expect(edge! - (middle! - half!)).toBeCloseTo(laid!.room.left, 2);
    expect(of('to the left edge of the piece').result).toBe(`${(laid!.box.minX + r.sizes.length.mean / 2).toFixed(2)} mm`); // prettier-ignore
    const traced = { ...laid!, doubt: 0.02 };
    expect(laidWorking(traced, r.zone!).at(-1)).toMatchObject({ label: 'outlines known to', substituted: '2 × 0.040 mm × 0.500', result: '± 0.04 mm' }); // prettier-ignore
  });
  it('lies as far from its anchor as it is moved, which is room that it takes', () => {
    const at = (change: Partial<ArtworkContent>) => reckon(carrying({ ...testBatch(), pieces: loadedPieces([1]) }, change)).art!.laid![0]!; // prettier-ignore
    const [still, moved] = [at({ across: 'left' }), at({ across: 'left', offset: { x: 2.5, y: -1 } })];
    expect([moved.box.minX - still.box.minX, moved.box.minY - still.box.minY]).toEqual([expect.closeTo(2.5, 9), expect.closeTo(-1, 9)]); // prettier-ignore
    expect([still.room.left, moved.room.left]).toEqual([expect.closeTo(0, 9), expect.closeTo(2.5, 9)]);
    expect(at({ offset: { x: 30, y: 0 } }).problems.join()).toMatch(/leaves face by 10\.50 mm at its right/);
  });
  describe('with a colour that is burned by a recipe of its own', () => {
    const SCORE = { ...testBatch().recipe!, id: 'score', name: 'Score', engrave: { power: 0.55, speed: 90, interval: 0.1, passes: 2 } }; // prettier-ignore
    const scored = (change: Partial<ArtworkContent> = {}): BatchInput => ({ ...carrying({ ...testBatch(), pieces: loadedPieces([1]) }, { recipes: [{ style: 'stroke #c00000', recipeId: 'score' }], ...change }), artRecipes: [SCORE] }); // prettier-ignore
    const burned = (input: BatchInput) => {
      const program = readGcode(programOf(input), 1000);
      if (!program.ok) throw new Error(program.problem.message);
      const { moves } = program.value;
      const on = Array.from({ length: moves.count }, (_, i) => i).filter((i) => i > 0 && moves.power[i]! > 0);
      const by = (power: number) => on.filter((i) => Math.abs(moves.power[i]! - power) < 1e-6);
      const long = (all: number[]) => all.reduce((n, i) => n + Math.hypot(moves.x[i]! - moves.x[i - 1]!, moves.y[i]! - moves.y[i - 1]!), 0); // prettier-ignore
      return { moves, by, long };
    };
    it('has just that line at its own speed and power, as often as it says, after the rest; nothing lies elsewhere', () => {
      const input = scored();
      const { moves, by, long } = burned(input);
      const own = by(SCORE.engrave.power);
      // 20 of the file at 8 / 20, twice.
      expect(long(own)).toBeCloseTo(2 * 8, 2);
      for (const i of own) expect(moves.speed[i]).toBeCloseTo(90, 6);
      const rest = by(input.recipe!.engrave.power);
      expect(Math.min(...own)).toBeGreaterThan(Math.max(...rest));
      const alone = carrying({ ...testBatch(), pieces: loadedPieces([1]) });
      expect(reckon(input).art!.laid![0]!.box).toEqual(reckon(alone).art!.laid![0]!.box);
      expect(long(rest) + long(own) / 2).toBeCloseTo(long([...burned(alone).by(input.recipe!.engrave.power)]), 2);
    });
    it('stands apart in drawings too', () => {
      const input = scored();
      const drawing = batchDrawing(input, reckon(input), 'load');
      if (!drawing.ok) throw new Error(drawing.problem.message);
      expect(drawing.value.passes.map((p) => [p.name, p.contours.length])).toEqual([['engrave-fill', 1], ['engrave-line-2', 1]]); // prettier-ignore
    });
    it('is measured with the rest, and goes with its style where the list leaves that out', () => {
      const input = scored();
      const r = reckon(input);
      const run = runFile(programOf(input), { seed: 1, pose: { angle: 0.01, x: 60, y: 70 }, pointer: { x: 0, y: 0 } }, input.machine, { sizes: r.sizes, pocket: r.pocket, load: 1, interval: 0.1, seating: asDrawn(r.sizes) }, placedPieces(r, r.onTheBoard)); // prettier-ignore
      if (!run.ok) throw new Error(run.problem.message);
      expect([run.value.pieces[0]!.dx, run.value.pieces[0]!.dy]).toEqual([expect.closeTo(0, 1), expect.closeTo(0, 1)]);
      const choice = { column: 'side', of: [{ word: 'port', styles: ['stroke #c00000'] }, { word: 'starboard', styles: [] }] }; // prettier-ignore
      const listed = { ...scored({ choice }), quantity: 2, roster: [{ side: 'starboard' }, { side: 'port' }] };
      const pieces = reckon(listed).art!.pieces.map((p) => (p.own![0]!.apart ?? []).flatMap((a) => a.lines).length);
      expect(pieces).toEqual([0, 1]);
    });
    it('goes by it in work in segments as well', () => {
      const from = carrying({ ...EXAMPLES.long, pieces: loadedPieces([1]) }, { recipes: [{ style: 'stroke #c00000', recipeId: 'score' }] }); // prettier-ignore
      // In what the first segment burns.
      const input = { ...from, artRecipes: [SCORE], blank: { ...from.blank, zones: from.blank.zones.map((z) => ({ ...z, x: -800, y: 60 })) } }; // prettier-ignore
      const { moves, by, long } = burned(input);
      const own = by(SCORE.engrave.power);
      const [laid] = reckon(input).art!.laid!;
      expect(long(own)).toBeCloseTo(2 * 20 * laid!.scale, 2);
      for (const i of own) expect(moves.speed[i]).toBeCloseTo(90, 6);
      expect(gateOf(input, reckon(input), 'load')).toEqual([]);
    });
    it('is held back where the recipe is gone, or of another machine or another material', () => {
      const said = (input: BatchInput): string => gateOf(input, reckon(input), 'load').map((p) => p.message).join(); // prettier-ignore
      expect(said(scored())).toBe('');
      expect(said({ ...scored(), artRecipes: [] })).toMatch(/A recipe that Crest is burned by is not on the Shelf/);
      expect(said({ ...scored(), artRecipes: [{ ...SCORE, machineId: 'other' }] })).toMatch(/Recipe Score was made on another machine/); // prettier-ignore
      const slate = { ...scored(), artRecipes: [{ ...SCORE, material: 'slate' }], blank: { ...testBatch().blank, material: testBatch().recipe!.material } }; // prettier-ignore
      expect(said(slate)).toMatch(/Recipe Score is for slate/);
    });
  });
});
