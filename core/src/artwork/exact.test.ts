import { batchProgram } from '../batch';
import { rigid } from '../geometry';
import { readGcode } from '../output';
import { type BatchInput } from '../setup';
import { loadedPieces, testBatch } from '../test-batch';
import { plain } from '../test-plain';
import { readAt, reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import type { Artwork, ArtworkContent } from './content';
import { readSvgArt } from './outline-svg';
import { sortArt } from './styles';

// One file of a customer: a square of 12 mm with both its diagonals, and a circle of 5 mm about its middle; all drawn.
const made = readSvgArt('<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 400 200"><g fill="none" stroke="#000"><rect x="20" y="30" width="120" height="120"/><path d="M20 30L140 150M140 30L20 150"/><circle cx="80" cy="90" r="25"/></g></svg>', plain); // prettier-ignore
if (!made.ok) throw new Error(made.problem.message);
const FILE: Artwork = { id: 'a', name: 'Badge', revision: 1, shapes: made.value.shapes, roles: {}, unit: 'mm' };
/** Of all its lines together: 4 · 12 + 2 · 12√2 + 5π, mm. */
const LENGTH = 48 + 24 * Math.SQRT2 + 5 * Math.PI;

/** What a file burns: how long all of it is, and its corners’ distances, sorted, beam on; mm. */
const burnedBy = (input: BatchInput): { length: number; corners: number } => {
  const program = batchProgram(input, reckon(input), 'load');
  if (!program.ok) throw new Error(JSON.stringify(program.problem));
  const text = typeof program.value === 'string' ? program.value : [...program.value].join('');
  const read = readGcode(text, 1000);
  if (!read.ok) throw new Error(read.problem.message);
  const { moves } = read.value;
  let length = 0;
  const at: { x: number; y: number }[] = [];
  for (let i = 1; i < moves.count; i += 1) {
    if (moves.power[i] === 0) continue;
    const [a, b] = [
      { x: moves.x[i - 1]!, y: moves.y[i - 1]! },
      { x: moves.x[i]!, y: moves.y[i]! },
    ];
    length += Math.hypot(b.x - a.x, b.y - a.y);
    at.push(a, b);
  }
  // The two places that are furthest apart are opposite corners, however it lies.
  return { length, corners: Math.max(...at.flatMap((p) => at.map((q) => Math.hypot(p.x - q.x, p.y - q.y)))) };
};

const content = (zoneId: string, change: Partial<ArtworkContent> = {}): ArtworkContent => ({ kind: 'artwork', id: 'c', zoneId, artworkId: 'a', revision: 1, size: { kind: 'true' }, turn: 0, mirrored: false, ...change }); // prettier-ignore
const zone = testBatch().blank.zones[0]!;
const carrying = (from: BatchInput, change: Partial<ArtworkContent> = {}): BatchInput => {
  // On a long piece near its beginning, where its first segment is burned.
  const zones = [from.setup.held.way === 'long' ? { ...zone, x: -800, y: 60 } : zone];
  const input = {
    ...from,
    roster: [],
    pieces: loadedPieces([1]),
    artworks: [FILE],
    blank: { ...from.blank, zones },
    setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents: [content(zone.id, change)] },
  }; // prettier-ignore
  return (reckon(input).board?.marks.length ?? 0) > 1 ? readAt(input, rigid(0.013, 60, 70)) : input;
};

/** With a word on every piece, away from the art. */
const lettered = (input: BatchInput): BatchInput => ({ ...input, roster: [{ name: 'I' }], setup: { ...input.setup, contents: (input.setup.contents ?? []).map((c) => ({ ...c, across: 'left' as const })), lettering: { ...input.setup.lettering, lines: [{ column: 'name', alphabet: 'readability', capHeight: 3 }] } } }); // prettier-ignore

describe('art from one file is as large on every blank as its file says', () => {
  it.each(['pockets', 'fence', 'pegs', 'marked', 'photo', 'locator'] as const)('%s: in the G-code, to 0.02 mm', (way) => {
    const { length, corners } = burnedBy(carrying(EXAMPLES[way]));
    expect(Math.abs(length - LENGTH)).toBeLessThan(0.02);
    expect(corners).toBeCloseTo(12 * Math.SQRT2, 2);
  }); // prettier-ignore
  it.each(['panel', 'long'] as const)('%s: beside what else its file burns', (way) => {
    const from = EXAMPLES[way];
    const input = carrying(from);
    // The long piece carries its own line in both, so that there is something to burn without the art.
    const both = way === 'long' ? { ...input, blank: { ...input.blank, zones: [...input.blank.zones, ...from.blank.zones] }, artworks: [FILE, ...from.artworks!], setup: { ...input.setup, contents: [...input.setup.contents!, ...from.setup.contents!] } } : input; // prettier-ignore
    const without = { ...both, setup: { ...both.setup, contents: both.setup.contents!.slice(1) } };
    const bare = way === 'panel' ? lettered(without) : without;
    const more = burnedBy(way === 'panel' ? lettered(both) : both).length - burnedBy(bare).length;
    expect(Math.abs(more - LENGTH)).toBeLessThan(0.02);
  });
  it('so wide, turned and mirrored as well', () => {
    const { length, corners } = burnedBy(carrying(EXAMPLES.pockets, { size: { kind: 'width', width: 18 }, turn: Math.PI / 2, mirrored: true })); // prettier-ignore
    expect(length).toBeCloseTo(1.5 * LENGTH, 1);
    expect(corners).toBeCloseTo(18 * Math.SQRT2, 2);
  });
  it('a flask: round it and along it as its file says', () => {
    const { areas, lines } = sortArt(FILE.shapes, FILE.roles);
    const contours = [...areas, ...lines].map((c) => (c.closed ? { closed: false, vertices: [...c.vertices, c.vertices[0]!] } : c)); // prettier-ignore
    const from = EXAMPLES.drive;
    const faces = [{ zoneId: 'face', content: { kind: 'art' as const, name: 'Badge', contours, size: 'true' as const }, reads: 'around' as const, repeats: 1, wraps: false }]; // prettier-ignore
    const [face] = reckon({ ...from, setup: { ...from.setup, faces } }).own.round!.faces;
    expect([face!.art!.size.width, face!.art!.size.height, face!.art!.size.along, face!.art!.size.across]).toEqual([expect.closeTo(12, 4), expect.closeTo(12, 4), 1, 1]); // prettier-ignore
  });
});
