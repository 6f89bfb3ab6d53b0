import { boxHeight, boxWidth, contoursBox, type Box } from '../geometry';
import { gateOf, nextFill } from '../batch';
import { placedPieces, type BatchInput } from '../setup';
import { loadedPieces, testBatch } from '../test-batch';
import { plain } from '../test-plain';
import { reckon, saved } from '../test-reckon';
import { writeCode } from '../codes';
import type { Artwork, CodeContent, ListedContent, SerialContent, ZoneContent } from './content';
import { columnsOf, serialText } from './each';
import { fieldsOf, fillFields } from './fields';
import { readSvgArt } from './outline-svg';

const drawn = (id: string, name: string, body: string): Artwork => {
  const made = readSvgArt(`<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="20mm" viewBox="0 0 30 20">${body}</svg>`, plain); // prettier-ignore
  if (!made.ok) throw new Error(made.problem.message);
  return { id, name, revision: 1, shapes: made.value.shapes, roles: {}, unit: 'mm' };
};
// A hull of 20 × 8 with a flag of 4 × 4 on its left and another on its right.
const GULL = drawn('g', 'Gull', '<rect x="2" y="10" width="20" height="8" fill="#000000"/><rect x="2" y="2" width="4" height="4" fill="#ff0000"/><rect x="18" y="2" width="4" height="4" fill="#00ff00"/>'); // prettier-ignore
const TERN = drawn('t', 'Tern', '<rect width="10" height="10" fill="#000000"/>');
const ART = [GULL, TERN];

const lies = { id: 'c', zoneId: 'face', size: { kind: 'width', width: 12 }, turn: 0, mirrored: false } as const;
const byList: ListedContent = { ...lies, kind: 'listed', column: 'boat', of: [{ word: 'gull', artworkId: 'g', revision: 1 }, { word: 'Tern', artworkId: 't', revision: 1 }, { word: 'none', artworkId: null, revision: 1 }] }; // prettier-ignore
const code: CodeContent = { ...lies, kind: 'code', symbology: 'datamatrix', text: 'SK/{boat}', reversed: false };
const serial: SerialContent = { ...lies, id: 's', size: { kind: 'true' }, kind: 'serial', prefix: 'TG-', digits: 4, step: 1, alphabet: 'readability', capHeight: 3 }; // prettier-ignore

const BOATS = ['Gull', ' tern ', 'NONE', 'Puffin', ''];
const batch = (contents: readonly ZoneContent[], change: Partial<BatchInput> = {}): BatchInput => {
  const from = testBatch();
  return {
    ...from,
    quantity: BOATS.length,
    pieces: loadedPieces([1, 2]),
    roster: BOATS.map((boat) => ({ boat })),
    artworks: ART,
    setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents },
    ...change,
  };
};
/** Boxes of what is burned on each piece from the first on, blank frame. */
const burnedOn = (input: BatchInput, pieces: readonly number[]): Box[] => {
  const r = reckon(input);
  const slot = r.board!.slots[0]!;
  return placedPieces(r, pieces.map((ordinal) => ({ slot, ordinal }))).map(({ shapes }) => contoursBox([...shapes.filled, ...shapes.drawn].map((p) => ({ closed: false, vertices: p })))); // prettier-ignore
};
const said = (input: BatchInput): readonly string[] => reckon(input).art!.problems.map((p) => p.message);

describe('fields of a text', () => {
  it('are filled from the piece’s own words, and named where it has none', () => {
    expect(fieldsOf('{boat} of { crew }/{boat}')).toEqual(['boat', 'crew']);
    expect(fillFields('{boat} of { crew }', { boat: ' Gull ', crew: '' })).toEqual({ text: 'Gull of ', missing: ['crew'] }); // prettier-ignore
    expect(fillFields('{constructor}', {}).missing).toEqual(['constructor']);
  });
});

describe('art that the list names', () => {
  it('is laid piece by piece, and nothing where the list says so', () => {
    const [gull, tern, none] = burnedOn(batch([byList]), [1, 2, 3]);
    // Both 12 mm wide: 20 × 16 and 10 × 10 of their files.
    expect([boxWidth(gull!), boxHeight(gull!)]).toEqual([expect.closeTo(12, 6), expect.closeTo(9.6, 6)]);
    expect([boxWidth(tern!), boxHeight(tern!)]).toEqual([expect.closeTo(12, 6), expect.closeTo(12, 6)]);
    expect(none!.minX).toBe(Infinity);
  });
  it('is asked for by name, before anything is laid on', () => {
    const input = batch([byList]);
    expect(said(input)).toEqual(['Piece 4: the list names “Puffin” in boat, which is no artwork yet. Say which it is.', 'Piece 5: the list names no artwork for it in boat.']); // prettier-ignore
    const fresh = saved({ ...input, pieces: [] });
    expect(nextFill(fresh, reckon(fresh))).toMatchObject({ ok: false, problem: { code: 'art-problems' } }); // prettier-ignore
    // What is on the bed is all there.
    expect(gateOf(input, reckon(input), 'load').filter((p) => p.code === 'zone')).toEqual([]);
    const on = { ...input, pieces: loadedPieces([4]) };
    expect(gateOf(on, reckon(on), 'load').map((p) => p.message)).toContain(said(input)[0]);
  });
  it('is missed on every piece that lies on the bed, however far down the list', () => {
    const boats = Array.from({ length: 260 }, () => ({ boat: 'Puffin' }));
    const late = loadedPieces([1]).map((p) => ({ ...p, ordinal: 250 }));
    const input = batch([byList], { quantity: 260, roster: boats, pieces: late });
    expect(gateOf(input, reckon(input), 'load').map((p) => p.message)).toContain('Piece 250: the list names “Puffin” in boat, which is no artwork yet. Say which it is.'); // prettier-ignore
  });
  it('waits for its column like lettering', () => {
    const input = batch([{ ...byList, column: 'hull' }]);
    expect(gateOf(input, reckon(input), 'load').map((p) => p.message).join()).toMatch(/The list has no column “hull”/); // prettier-ignore
    expect(gateOf({ ...input, roster: [] }, reckon({ ...input, roster: [] }), 'load').map((p) => p.message).join()).toMatch(/no list yet/); // prettier-ignore
  });
  it('is missing where its file is not on the Shelf, or all of it a guide', () => {
    expect(said(batch([byList], { artworks: [TERN] }))[0]).toBe('Piece 1: its artwork is not on the Shelf.');
    const guide = { ...GULL, roles: { 'fill #000000': 'guide', 'fill #ff0000': 'guide', 'fill #00ff00': 'guide' } as const }; // prettier-ignore
    expect(said(batch([byList], { artworks: [guide, TERN] }))[0]).toMatch(/^Piece 1: all of Gull is a guide/);
  });
  it('labels its pieces where they have no lettering', () => {
    expect(reckon(batch([byList])).art!.pieces.map((p) => p.label)).toEqual(['Gull', 'Tern', '', '', '']);
  });
});

describe('a style by the list', () => {
  const choice = { column: 'boat', of: [{ word: 'Gull', styles: ['fill #ff0000'] }, { word: 'tern', styles: ['fill #00ff00'] }, { word: 'none', styles: [] }] }; // prettier-ignore
  const flag: ZoneContent = { ...lies, size: { kind: 'true' }, kind: 'artwork', artworkId: 'g', revision: 1, choice };
  it('is burned where its word stands, and moves nothing else', () => {
    const [port, starboard, neither] = burnedOn(batch([flag]), [1, 2, 3]);
    // The hull is 20 wide about the zone’s middle; flags stand 8 mm over its foot, to 16.
    for (const box of [port, starboard, neither]) expect([box!.minX, box!.maxX, box!.minY]).toEqual([expect.closeTo(-6.5, 6), expect.closeTo(13.5, 6), expect.closeTo(-8, 6)]); // prettier-ignore
    expect([port, starboard, neither].map((b) => b!.maxY)).toEqual([expect.closeTo(8, 6), expect.closeTo(8, 6), expect.closeTo(0, 6)]); // prettier-ignore
    const [left] = reckon(batch([flag])).art!.pieces[0]!.own!;
    const flags = left!.areas.map((c) => contoursBox([c])).filter((b) => b.minY > 3);
    expect(flags.map((b) => [b.minX, b.maxX])).toEqual([[expect.closeTo(-6.5, 6), expect.closeTo(-2.5, 6)]]);
  });
  it('is asked for where the list says something else', () => {
    expect(said(batch([flag]))[0]).toMatch(/^Piece 4: the list says “Puffin” in boat, which stands for none of its styles/); // prettier-ignore
  });
});

describe('a code in a zone', () => {
  it('carries each piece’s own text, its quiet zone within its width', () => {
    const [gull, tern] = burnedOn(batch([code]), [1, 2]);
    // ISO/IEC 16022, table 7: seven letters take 14 × 14 modules, with a clear module all round 16.
    for (const box of [gull!, tern!]) expect(boxWidth(box)).toBeCloseTo((12 / 16) * 14, 6);
    expect(reckon(batch([code])).art!.pieces[1]!.own![0]).toMatchObject({ framed: true, name: 'Data Matrix “SK/tern”', text: 'SK/tern', room: { left: expect.closeTo(17.5, 6), front: expect.closeTo(3.5, 6) } }); // prettier-ignore
    expect(said(batch([code])).filter((m) => m.includes('waits'))).toEqual(['Piece 5: its code waits for “boat”.']);
  });
  it('covers as much as is dark, or as is light where it is reversed', () => {
    const areaOf = (reversed: boolean): number => {
      const { areas } = reckon(batch([{ ...code, text: 'SKERRY', reversed }])).art!.laid![0]!;
      // The same even-odd rule that fills it, by its modules’ middles.
      let dark = 0;
      const [module, middle] = [12 / 14, { x: 3.5, y: 0 }];
      for (let i = 0; i < 14; i += 1)
        for (let j = 0; j < 14; j += 1) {
          const x = middle.x - 6 + (i + 0.5) * module;
          const y = middle.y - 6 + (j + 0.5) * module;
          const inside = areas.filter((c) => {
            let odd = false;
            c.vertices.forEach((a, k) => {
              const b = c.vertices[(k + 1) % c.vertices.length]!;
              if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) odd = !odd;
            });
            return odd;
          });
          dark += inside.length % 2;
        }
      return dark;
    };
    expect(areaOf(false) + areaOf(true)).toBe(14 * 14);
    // A solid edge at the left and the foot, and every other module of the others: 12 + 11 + 5 + 6 at least.
    expect(areaOf(false)).toBeGreaterThan(34);
  });
  it('must stay clear as far as its quiet zone goes', () => {
    const close = reckon(batch([{ ...code, text: 'X', size: { kind: 'width', width: 19.5 } }]));
    expect(close.art!.laid![0]!.problems.join()).toMatch(
      /Data Matrix “X”, 19\.5 × 19\.50 mm, leaves face by .*front.*back/,
    );
    const on = { ...serial, across: 'centre', down: 'middle' } as const;
    const both = batch([code, on], { serials: [{ contentId: 's', numbers: [7] }] });
    expect(said(both)).toContain('Piece 1, “SK/Gull · TG-0007”: TG-0007 lies over Data Matrix “SK/Gull”. Move one of them, or make it smaller.'); // prettier-ignore
  });
  it('that is the same on every piece and cannot be written holds the load back', () => {
    const input = batch([{ ...code, text: '日本' }]);
    expect(gateOf(input, reckon(input), 'load').map((p) => p.message).join()).toMatch(/“日本” has letters that readers of a Data Matrix take for others/); // prettier-ignore
  });
  it('says why a text is none', () => {
    expect(said(batch([{ ...code, text: '日本{boat}' }]))[0]).toMatch(/^Piece 1: “日本Gull” has letters/);
    const long = writeCode('qr', 'x'.repeat(3_000));
    expect(long.ok).toBe(false);
  });
});

describe('a serial number in a zone', () => {
  const serials = [{ contentId: 's', numbers: [97, 98, 99, 100, 101] }];
  it('is set as its piece’s own, with noughts before it', () => {
    expect([serialText(serial, 7), serialText({ prefix: '', digits: 2 }, 123)]).toEqual(['TG-0007', '123']);
    const r = reckon(batch([serial], { serials }));
    expect(r.art!.pieces.map((p) => p.label)).toEqual(['TG-0097', 'TG-0098', 'TG-0099', 'TG-0100', 'TG-0101']);
    const [first] = burnedOn(batch([serial], { serials }), [1]);
    expect(boxHeight(first!)).toBeCloseTo(3, 0);
  });
  it('goes into the codes beside it', () => {
    const both = batch([{ ...code, size: { kind: 'width', width: 8 }, across: 'left', text: '{serial}' }, { ...serial, across: 'right' }], { serials }); // prettier-ignore
    const [first] = reckon(both).art!.pieces;
    const { modules } = (writeCode('datamatrix', 'TG-0097') as { value: { modules: number } }).value;
    expect(first!.own![0]!.scale * (modules + 2)).toBeCloseTo(8, 6);
    expect(said(both)).toEqual([]);
  });
  it('is waited for', () => {
    const both = batch([{ ...code, text: '{serial}' }, serial], { serials: [{ contentId: 's', numbers: [null, 98] }] });
    expect(said(both).slice(0, 2)).toEqual(['Piece 1: its code waits for its serial number.', 'Piece 1: no serial number was given to it yet.']); // prettier-ignore
    expect(columnsOf([{ ...code, text: '{serial}-{crew}' }, serial, byList])).toEqual(['crew', 'boat']);
    expect(said(batch([{ ...serial, alphabet: 'gone' }], { serials }))[0]).toBe('Piece 1: its alphabet, gone, is not there.'); // prettier-ignore
    expect(said(batch([{ ...serial, prefix: '日' }], { serials }))[0]).toBe('Piece 1: its alphabet has no 日.');
  });
});
