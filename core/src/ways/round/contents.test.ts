import { BinaryBitmap, DataMatrixReader, HybridBinarizer, QRCodeReader, RGBLuminanceSource } from '@zxing/library';
import type { Artwork, CodeContent, SerialContent, ZoneContent } from '../../artwork';
import { gateOf } from '../../batch';
import { boxOf, insidePolygon } from '../../geometry';
import type { BatchInput } from '../../setup';
import { loadedPieces } from '../../test-batch';
import { inWay } from '../../test-held';
import { reckon } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';
import { artOnBlank } from './output';

// A cup of 92 at the rim and 70 at its base; a room of 30 mm round it and 40 along, about 60 mm from the rim.
const proved = inWay(EXAMPLES.drive, 'drive', {}, { letter: { quarters: 0, mirrored: false }, numberSet: 50.93 });
const carrying = (contents: readonly ZoneContent[], change: Partial<BatchInput> = {}): BatchInput => ({
  ...proved,
  roster: [],
  quantity: 3,
  pieces: loadedPieces([1]),
  ...change,
  setup: { ...proved.setup, lettering: { ...proved.setup.lettering, lines: [] }, contents },
});
const zoneId = proved.blank.zones[0]!.id;
const lies = { zoneId, turn: 0, mirrored: false } as const;
const code: CodeContent = { ...lies, id: 'c', kind: 'code', symbology: 'qr', text: 'SK/{boat}', reversed: false, size: { kind: 'width', width: 20 } }; // prettier-ignore
const serial: SerialContent = { ...lies, id: 's', kind: 'serial', prefix: 'TG-', digits: 4, step: 1, alphabet: 'readability', capHeight: 4, size: { kind: 'true' }, down: 'bottom' }; // prettier-ignore
const reasons = (input: BatchInput): string[] => gateOf(input, reckon(input), 'load').map((p) => p.message);

/** What is burned on the piece that is on, laid flat where it is: mm round the blank and along it, read with the rim up. */
const flat = (input: BatchInput): { x: number; y: number }[][] => {
  const turn = 92 - (22 * 60) / 130;
  return artOnBlank(reckon(input)).filled.map((line) => line.map((p) => ({ x: (p.angle * turn) / 2, y: -p.along })));
};
/** What a reader of codes makes of areas, dots of 0.1 mm. */
const readOff = (areas: ReturnType<typeof flat>, reader: QRCodeReader | DataMatrixReader): string => {
  const { minX, minY, maxX, maxY } = boxOf(areas.flat());
  const [rim, dot] = [4, 0.1];
  const side = Math.ceil((Math.max(maxX - minX, maxY - minY) + 2 * rim) / dot);
  const grey = new Uint8ClampedArray(side * side).fill(255);
  for (let row = 0; row < side; row += 1)
    for (let column = 0; column < side; column += 1) {
      const p = { x: minX - rim + column * dot, y: maxY + rim - row * dot };
      if (areas.filter((a) => insidePolygon(p, a)).length % 2 === 1) grey[row * side + column] = 0;
    }
  return reader.decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, side, side)))).getText();
};

describe('what lies in the zone of a round blank beside its lettering', () => {
  const roster = ['Gull', 'Tern', 'Puffin 3'].map((boat) => ({ boat }));
  it.each([
    ['qr', new QRCodeReader()],
    ['datamatrix', new DataMatrixReader()],
  ] as const)('is read off each piece as its list says: %s', (symbology, reader) => {
    for (const [i, { boat }] of roster.entries()) {
      const input = carrying([{ ...code, symbology }], { roster, pieces: loadedPieces([i + 1]) });
      expect(reasons(input)).toEqual([]);
      expect(readOff(flat(input), reader)).toBe(`SK/${boat}`);
    }
  });
  it('has the size that is said, along the blank and round it where it lies', () => {
    const input = carrying([{ ...code, text: 'SKERRY', size: { kind: 'width', width: 20 } }]);
    const [laid] = reckon(input).art!.laid!;
    expect(laid!.box.maxX - laid!.box.minX).toBeCloseTo(20, 6);
    const { minX, minY, maxX, maxY } = boxOf(flat(input).flat());
    // Its clear rim of four modules either side is not burned [ISO/IEC 18004].
    const size = 20 - 8 * laid!.scale;
    // True along the side, which leans by atan(11/130); round it at every height, so widest in angle where it is narrowest.
    const along = size * Math.cos(Math.atan(11 / 130));
    expect(maxY - minY).toBeCloseTo(along, 2);
    const mean = 92 - (22 * 60) / 130;
    expect(maxX - minX).toBeCloseTo((size * mean) / (mean - (22 * along) / 130 / 2), 2);
  });
  it('carries numbers once they are given, beside a name, and waits for them until then', () => {
    const lettering = { ...proved.setup.lettering, lines: [{ column: 'boat', alphabet: 'readability', capHeight: 6 }] }; // prettier-ignore
    const named = carrying([serial], { roster });
    const input = { ...named, setup: { ...named.setup, lettering } };
    expect(reasons(input)).toEqual(['Piece 1: no serial number was given to it yet.']);
    const given = { ...input, serials: [{ contentId: 's', numbers: [41, 42, 43] }] };
    expect(reasons(given)).toEqual([]);
    expect(reckon(given).art!.pieces.map((p) => [p.label, p.own!.map((o) => o.text)])).toEqual([['Gull', ['TG-0041']], ['Tern', ['TG-0042']], ['Puffin 3', ['TG-0043']]]); // prettier-ignore
    // In a stroke alphabet it is drawn, and the drive's play shows.
    const { drawn, filled } = artOnBlank(reckon({ ...given, setup: { ...given.setup, lettering: { ...lettering, lines: [] } } })); // prettier-ignore
    expect([drawn.length > 5, filled.length]).toEqual([true, 0]);
  });
  it('is held back where it leaves its room, lies where no face carries it, or would be cut', () => {
    expect(reasons(carrying([{ ...code, text: 'SKERRY', size: { kind: 'width', width: 34 } }]))[0]).toMatch(/QR code “SKERRY”, 34\.0 × 34\.00 mm, leaves face by 2\.00 mm at its left and 2\.00 mm at its right/); // prettier-ignore
    const other = { ...proved.blank.zones[0]!, id: 'base', name: 'base', x: 100, width: 20 };
    const elsewhere = carrying([{ ...code, text: 'SKERRY', zoneId: 'base' }], { blank: { ...proved.blank, zones: [...proved.blank.zones, other] } }); // prettier-ignore
    expect(reasons(elsewhere)[0]).toMatch(/^base would stay bare: on round work one face carries what its zone does\./);
    const square = [{ x: 0, y: 0 }, { x: 12, y: 0 }, { x: 12, y: 12 }, { x: 0, y: 12 }]; // prettier-ignore
    const plate: Artwork = { id: 'a', name: 'Plate', revision: 1, unit: 'mm', roles: {}, shapes: [{ contours: [{ closed: true, vertices: square }], rule: 'nonzero', fill: null, stroke: '#c00000', width: 0.1 }] }; // prettier-ignore
    const art = { ...lies, id: 'p', kind: 'artwork', artworkId: 'a', revision: 1, size: { kind: 'true' } } as const;
    expect(reasons(carrying([art], { artworks: [plate] }))).toEqual([]);
    const cut = { ...plate, roles: { 'stroke #c00000': 'cut' } as const };
    expect(reasons(carrying([art], { artworks: [cut] }))[0]).toMatch(/^Round work is engraved by one recipe: what of Plate is cut/); // prettier-ignore
    const apart = { ...art, recipes: [{ style: 'stroke #c00000', recipeId: 'score' }] };
    expect(reasons(carrying([apart], { artworks: [plate], artRecipes: [{ ...proved.recipe!, id: 'score', name: 'Score' }] }))[0]).toMatch(/^Round work is engraved by one recipe/); // prettier-ignore
  });
});
