import { api, artworkSpec, MOST_ART_BYTES, setupSections, zoneContent } from '.';

const ID = 'a0000000-0000-4000-8000-000000000001';
const crest = { kind: 'artwork', id: 'c', zoneId: 'face', artworkId: ID, revision: 1, size: { kind: 'true' }, turn: 0, mirrored: false }; // prettier-ignore
const wrong = (change: object): string | undefined => zoneContent.safeParse({ ...crest, ...change }).error?.issues[0]?.message; // prettier-ignore

describe('art in a zone, as it crosses the wire', () => {
  it('is as large as its file says, as wide or as high as is said, or as the zone takes it', () => {
    for (const size of [
      { kind: 'true' },
      { kind: 'fit' },
      { kind: 'width', width: 0.5 },
      { kind: 'height', height: 5_000 },
    ])
      expect(wrong({ size })).toBeUndefined();
    expect(wrong({ size: { kind: 'width', width: 0.49 } })).toBe('Width must be a number between 0.5 and 5000 mm.');
    expect(wrong({ size: { kind: 'height', height: 5_000.1 } })).toBe(
      'Height must be a number between 0.5 and 5000 mm.',
    );
    // A size has the number of its own kind, and no other.
    expect(wrong({ size: { kind: 'width', height: 5 } })).toMatch(/Width must be a number/);
    expect(wrong({ size: { kind: 'area', area: 5 } })).toBeTruthy();
  });
  it('lies as its zone says until it says so itself, and is turned at most once round', () => {
    for (const place of [{}, { across: null, down: null }, { across: 'left', down: 'top' }]) expect(wrong(place)).toBeUndefined(); // prettier-ignore
    expect(wrong({ across: 'top' })).toBeTruthy();
    expect(wrong({ turn: 2 * Math.PI })).toBeUndefined();
    expect(wrong({ turn: 7.1 })).toMatch(/^Turned must be a number between −?-?401/);
    expect(wrong({ revision: 0 })).toBe('Revision must be a whole number between 1 and 100000.');
    expect(wrong({ artworkId: 'crest' })).toBeTruthy();
  });
  it('is at most twenty to a piece; a setup that was kept before it could be has none', () => {
    const many = (n: number) => setupSections.contents.safeParse(Array.from({ length: n }, () => crest)).success;
    expect([many(0), many(20), many(21)]).toEqual([true, true, false]);
    expect(setupSections.contents.safeParse(undefined).success).toBe(true);
    expect(setupSections.contents.safeParse(null).success).toBe(true);
  });
});

describe('what else lies in a zone', () => {
  const { artworkId: _, revision: __, ...lies } = crest;
  const code = { ...lies, kind: 'code', symbology: 'qr', text: 'SK/{boat}', reversed: false };
  const serial = { ...lies, kind: 'serial', prefix: 'TG-', digits: 4, step: 1, alphabet: 'b612', capHeight: 3 };
  const listed = { ...lies, kind: 'listed', column: 'boat', of: [{ word: 'Gull', artworkId: ID, revision: 1 }, { word: '', artworkId: null, revision: 1 }] }; // prettier-ignore
  const said = (value: object): string | undefined => zoneContent.safeParse(value).error?.issues[0]?.message;
  it('is a code of a text, a number with its prefix, or art that the list names', () => {
    for (const value of [code, serial, { ...serial, first: 0 }, { ...serial, first: null, prefix: '' }, listed]) expect(said(value)).toBeUndefined(); // prettier-ignore
    expect(said({ ...code, symbology: 'bars' })).toBeTruthy();
    expect(said({ ...code, text: '' })).toBe('Text is empty.');
    expect(said({ ...code, text: 'x'.repeat(501) })).toBe('Text is longer than 500 characters.');
    expect(said({ ...serial, digits: 13 })).toBe('Digits must be a whole number between 1 and 12.');
    expect(said({ ...serial, step: 0 })).toBe('Step must be a whole number between 1 and 1000.');
    expect(said({ ...serial, first: -1 })).toBe('First must be a whole number between 0 and 999999999.');
    expect(said({ ...serial, prefix: 'x'.repeat(21) })).toBe('Prefix is longer than 20 characters.');
    // 00 + 12 would read like 0 + 012.
    expect(said({ ...serial, prefix: 'TG-00' })).toMatch(/A prefix does not end in a digit/);
    expect(said({ ...listed, column: '' })).toBe('Column is empty.');
    expect(said({ ...listed, of: [{ word: 'Gull', artworkId: 'gull', revision: 1 }] })).toBeTruthy();
    expect(said({ ...crest, kind: 'picture' })).toBeTruthy();
  });
  it('has some of its colours by the list, or all of them', () => {
    const choice = { column: 'side', of: [{ word: 'port', styles: ['fill #ff0000'] }, { word: 'starboard', styles: [] }] }; // prettier-ignore
    for (const value of [choice, null, undefined]) expect(said({ ...crest, choice: value })).toBeUndefined();
    const many = (n: number) => ({ ...choice, of: Array.from({ length: n }, (___, i) => ({ word: String(i), styles: [] })) }); // prettier-ignore
    expect([400, 401].map((n) => said({ ...crest, choice: many(n) }) === undefined)).toEqual([true, false]);
  });
});

describe('a file of art, as it is sent', () => {
  const body = { name: 'Crest', customer: '', fileName: 'crest.svg', text: '<svg/>' };
  const said = (change: object): string | undefined => api.createArtwork.body.safeParse({ ...body, ...change }).error?.issues[0]?.message; // prettier-ignore
  it('has a name, and something in it, up to 8 MB', () => {
    expect(said({})).toBeUndefined();
    expect(said({ customer: 'Skerry Sound Rowing Regatta' })).toBeUndefined();
    expect(said({ text: '' })).toBe('The file is empty.');
    expect(said({ text: 'x'.repeat(MOST_ART_BYTES + 1) })).toBe('The file is larger than 8 MB. Keep only what is engraved in it.'); // prettier-ignore
    expect(said({ name: '' })).toBeTruthy();
    expect(said({ fileName: 'a\nb.svg' })).toBeTruthy();
  });
  it('is burned by roles that there are, and scaled by a number that can be one', () => {
    const spec = (change: object): boolean => artworkSpec.safeParse({ customer: '', roles: {}, ...change }).success;
    expect(spec({ roles: { 'fill #000000': 'area', 'stroke #ff0000': 'guide' } })).toBe(true);
    expect(spec({ roles: { 'fill #000000': 'hatch' } })).toBe(false);
    expect([null, undefined, 25.4, 0, -1, 1e5].map((scale) => spec({ scale }))).toEqual([true, true, true, false, false, false]); // prettier-ignore
  });
});
