import { createHash } from 'node:crypto';
import PDFDocument from 'pdfkit';
import sharp from 'sharp';
import {
  api,
  artReading,
  MOST_ART_BYTES,
  READ_ART,
  type ApiProblem,
  type ArtworkDocument,
  type BatchDocument,
} from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

const svg = (body: string): string => `<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 40 20">${body}</svg>`; // prettier-ignore
const CREST = svg(
  '<rect x="2" y="4" width="20" height="10" fill="#102030"/><path d="M2 9H22" fill="none" stroke="red"/>',
);

withDatabase('artworks', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('artworks');
  });
  afterAll(() => shop.stop());

  const said = async (response: Response): Promise<ApiProblem> => (await response.json()) as ApiProblem;
  const bring = async (name: string, text = CREST): Promise<string> =>
    (await shop.call(api.createArtwork, { body: { name, customer: 'Rowing club', fileName: `${name}.svg`, text } })).id;
  const artwork = async (id: string): Promise<ArtworkDocument> => (await shop.call(api.listArtworks, {})).find((a) => a.id === id)!; // prettier-ignore
  const carry = (batch: BatchDocument, artworkId: string, revision = 1) =>
    shop.send(api.saveSection, {
      params: { id: batch.id },
      body: {
        section: 'contents',
        value: [{ kind: 'artwork', id: 'c', zoneId: batch.blank.spec.zones[0]!.id, artworkId, revision, size: { kind: 'width', width: 8 }, turn: 0, mirrored: false }], // prettier-ignore
        version: batch.version,
      },
    });

  it('keep a file as it came, with its true size and its styles', async () => {
    const id = await bring('Crest');
    const { name, spec, revisions, usedBy } = await artwork(id);
    expect([name, spec, usedBy]).toEqual(['Crest', { customer: 'Rowing club', roles: {} }, []]);
    expect(revisions).toHaveLength(1);
    expect(revisions[0]).toMatchObject({
      number: 1,
      fileName: 'Crest.svg',
      bytes: CREST.length,
      unit: 'mm',
      notes: [],
    });
    expect([revisions[0]!.width, revisions[0]!.height]).toEqual([expect.closeTo(20, 3), expect.closeTo(10, 3)]);
    expect(revisions[0]!.styles.map((s) => [s.key, s.of, Math.round(s.area), Math.round(s.length)])).toEqual([['fill #102030', 'fill', 200, 60], ['stroke #ff0000', 'stroke', 0, 20]]); // prettier-ignore
    const kept = await fetch(`${shop.base}/api/artworks/${id}/revisions/1/file`);
    expect(await kept.text()).toBe(CREST);
    expect(kept.headers.get('content-disposition')).toBe(`attachment; filename*=UTF-8''Crest.svg`);
    expect(kept.headers.get('content-type')).toBe('application/octet-stream');
    const { shapes } = await shop.call(api.artworkShapes, { params: { id, number: 1 } });
    expect(shapes.map((s) => [s.fill, s.stroke])).toEqual([['#102030', null], [null, '#ff0000']]); // prettier-ignore
    expect((await shop.call(api.listLog)).rows[0]!.summary).toBe('Artwork put on the Shelf: Crest');
  });
  it('are read before anything of them is kept, as they would be', async () => {
    const before = (await shop.call(api.listArtworks)).length;
    const send = (name: string, body: string) =>
      fetch(`${shop.base}${READ_ART}?name=${name}`, { method: 'POST', body });
    const read = artReading.parse(await (await send('other.svg', CREST)).json());
    expect(read).toMatchObject({ unit: 'mm', notes: [], styles: [{ key: 'fill #102030' }, { key: 'stroke #ff0000' }] });
    expect(Object.keys(read).sort()).toEqual(['drawn', 'height', 'notes', 'styles', 'unit', 'width']);
    // As it would be burned by what is proposed of its colours.
    expect(read.drawn.paths.map((p) => p.role)).toEqual(['area', 'line']);
    expect([read.drawn.box.maxX, read.drawn.box.maxY]).toEqual([
      expect.closeTo(read.width, 9),
      expect.closeTo(read.height, 9),
    ]);
    expect(await shop.call(api.listArtworks)).toHaveLength(before);
    const refusal = await send('other.svg', '<svg');
    expect(refusal.status).toBe(422);
    expect([(await send('other.svg', '')).status, (await send('other.svg', ' '.repeat(MOST_ART_BYTES + 1))).status]).toEqual([422, 413]); // prettier-ignore
    // Who cannot unpack its shapes has them plain.
    const { id } = await shop.call(api.createArtwork, { body: { name: 'Other', customer: '', fileName: 'other.svg', text: CREST } }); // prettier-ignore
    const of = async (accept: string) => {
      const answer = await fetch(`${shop.base}/api/artworks/${id}/revisions/1`, {
        headers: { 'accept-encoding': accept },
      });
      return [answer.headers.get('content-encoding'), ((await answer.json()) as { shapes: unknown[] }).shapes.length];
    };
    expect([await of('gzip'), await of('identity')]).toEqual([
      ['gzip', 2],
      [null, 2],
    ]);
  });
  it('are read from a PDF as well, and kept byte by byte', async () => {
    const pdf = new PDFDocument({ size: [144, 72], margin: 0 });
    const parts: Buffer[] = [];
    pdf.on('data', (part: Buffer) => parts.push(part));
    const ended = new Promise((end) => pdf.on('end', end));
    pdf.rect(0, 0, 144, 36).fill('#102030');
    pdf.moveTo(0, 54).lineTo(144, 54).stroke('#ff0000');
    pdf.end();
    await ended;
    const file = Buffer.concat(parts);
    const { id } = await shop.call(api.createArtwork, { body: { name: 'Course plan', customer: '', fileName: 'plan.pdf', text: file.toString('base64'), base64: true } }); // prettier-ignore
    const { revisions } = await artwork(id);
    expect(revisions[0]).toMatchObject({ bytes: file.length, sha256: createHash('sha256').update(file).digest('hex'), unit: 'mm', width: expect.closeTo(50.8, 3) }); // prettier-ignore
    expect(revisions[0]!.styles.map((x) => [x.key, Math.round(x.area), Math.round(x.length)])).toEqual([['fill #102030', 645, 127], ['stroke #ff0000', 0, 51]]); // prettier-ignore
    const kept = await fetch(`${shop.base}/api/artworks/${id}/revisions/1/file`);
    expect(Buffer.from(await kept.arrayBuffer()).equals(file)).toBe(true);
    // So is the outline of a blank: of what is filled, what stays open is left out.
    const outline = await shop.call(api.readOutline, { body: { name: 'plan.pdf', text: file.toString('base64'), base64: true } }); // prettier-ignore
    expect([outline.contours.length, outline.width, outline.height, outline.notes]).toEqual([1, expect.closeTo(50.8, 2), expect.closeTo(12.7, 2), ['1 open line was left out.']]); // prettier-ignore
    // One that is not what it says is refused, like any other file.
    const refusal = await shop.send(api.createArtwork, { body: { name: 'No plan', customer: '', fileName: 'plan.pdf', text: CREST, base64: true } }); // prettier-ignore
    expect([refusal.status, (await said(refusal)).code]).toEqual([422, 'damaged-pdf']);
  });
  it('are traced from a picture in black and white, at its own dots to the inch and with their doubt', async () => {
    const stamp = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><rect width="400" height="300" fill="#fff"/><circle cx="200" cy="150" r="100"/><circle cx="200" cy="150" r="50" fill="#fff"/></svg>`;
    const png = await sharp(Buffer.from(stamp)).withMetadata({ density: 254 }).png().toBuffer();
    const jpeg = await sharp(png).jpeg({ quality: 90 }).withMetadata({ density: 72 }).toBuffer();
    const put = (name: string, file: Buffer) => shop.send(api.createArtwork, { body: { name, customer: '', fileName: name, text: file.toString('base64'), base64: true } }); // prettier-ignore
    const known = async (name: string, file: Buffer) => artwork(((await (await put(name, file)).json()) as { id: string }).id); // prettier-ignore
    const { id, revisions } = await known('stamp.png', png);
    // A tenth of a millimetre a dot: 20 mm across, π(10² − 5²) = 235.6 mm².
    expect(revisions[0]).toMatchObject({ unit: 'in', width: expect.closeTo(20, 1), height: expect.closeTo(20, 1), bytes: png.length }); // prettier-ignore
    expect(revisions[0]!.styles[0]).toMatchObject({ key: 'fill #000000', area: expect.closeTo(235.6, 0) });
    expect(revisions[0]!.doubt).toBeGreaterThan(0.02);
    expect(revisions[0]!.doubt).toBeLessThan(0.05);
    const kept = await fetch(`${shop.base}/api/artworks/${id}/revisions/1/file`);
    expect(Buffer.from(await kept.arrayBuffer()).equals(png)).toBe(true);
    // What a program writes that was told nothing says nothing.
    expect((await known('stamp.jpg', jpeg)).revisions[0]).toMatchObject({ unit: 'px', width: expect.closeTo((200 * 25.4) / 96, 0) }); // prettier-ignore
    const shades = await sharp(Buffer.from(stamp.replace('<circle', '<defs><linearGradient id="g"><stop offset="0" stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient></defs><rect width="400" height="200" fill="url(#g)"/><circle'))).png().toBuffer(); // prettier-ignore
    // A blank's outline may come so too: with its hole.
    const outline = await shop.call(api.readOutline, { body: { name: 'stamp.png', text: png.toString('base64'), base64: true } }); // prettier-ignore
    expect([outline.contours.length, outline.width, outline.unit]).toEqual([2, expect.closeTo(20, 1), 'in']);
    const refusal = await put('harbour.png', shades);
    expect([refusal.status, (await said(refusal)).code]).toEqual([422, 'shades']);
  });
  it('are burned as was said of this customer’s colours before, and of nobody else’s', async () => {
    const of = async (name: string, customer: string, text = CREST) => artwork((await shop.call(api.createArtwork, { body: { name, customer, fileName: 'a.svg', text } })).id); // prettier-ignore
    const first = await of('Eights crest', 'Lakeside eights');
    expect(first.spec.roles).toEqual({});
    const roles = { 'stroke #ff0000': 'cut', 'fill #abcdef': 'guide' } as const;
    await shop.call(api.saveArtwork, { params: { id: first.id }, body: { name: first.name, spec: { ...first.spec, roles }, version: first.version } }); // prettier-ignore
    // Of its own colours alone: the file has no #abcdef.
    expect((await of('Eights pennant', 'Lakeside eights')).spec.roles).toEqual({ 'stroke #ff0000': 'cut' });
    expect((await of('Other crest', 'Harbour fours')).spec.roles).toEqual({});
    expect((await of('Nobody’s crest', '')).spec.roles).toEqual({});
  });
  it('named by the list are kept for the batch, and known to be used by it', async () => {
    const [gull, tern] = [await bring('Gull'), await bring('Tern')];
    const batch = await shop.batch('Lane medals');
    const value = [{ kind: 'listed' as const, id: 'l', zoneId: batch.blank.spec.zones[0]!.id, column: 'boat', of: [{ word: 'gull', artworkId: gull, revision: 1 }, { word: 'none', artworkId: null, revision: 1 }, { word: 'tern', artworkId: tern, revision: 1 }], size: { kind: 'fit' as const }, turn: 0, mirrored: false }]; // prettier-ignore
    await shop.call(api.saveSection, { params: { id: batch.id }, body: { section: 'contents', value, version: batch.version } }); // prettier-ignore
    const now = await shop.batch('Lane medals');
    expect(now.artworks.map((a) => a.name)).toEqual(['Gull', 'Tern']);
    expect((await artwork(tern)).usedBy).toEqual(['Lane medals']);
    const away = await shop.send(api.setAway, { params: { kind: 'artworks', id: tern }, body: { away: true } });
    expect([away.status, (await said(away)).message]).toEqual([409, expect.stringContaining('Lane medals')]);
    const of = value[0]!.of.map((o) => ({ ...o, revision: 3 }));
    const gone = await shop.send(api.saveSection, { params: { id: batch.id }, body: { section: 'contents', value: [{ ...value[0]!, of }], version: now.version } }); // prettier-ignore
    expect([gone.status, (await said(gone)).code]).toEqual([409, 'no-artwork']);
    await shop.call(api.saveSection, { params: { id: batch.id }, body: { section: 'contents', value: [], version: now.version } }); // prettier-ignore
  });
  it('take a new file as the next revision, not the same one twice; batches keep the one that they have', async () => {
    const id = await bring('Logo');
    const batch = await shop.batch('Boat tags');
    expect((await carry(batch, id)).status).toBe(200);
    const again = await shop.send(api.reviseArtwork, { params: { id }, body: { fileName: 'Logo.svg', text: CREST } });
    expect([again.status, (await said(again)).message]).toEqual([409, 'This is the file that revision 1 is already.']);
    const wider = await shop.call(api.reviseArtwork, { params: { id }, body: { fileName: 'Logo 2.svg', text: svg('<rect width="30" height="5"/>') } }); // prettier-ignore
    expect(wider.revisions.map((r) => [r.number, r.fileName, Math.round(r.width)])).toEqual([[1, 'Logo.svg', 20], [2, 'Logo 2.svg', 30]]); // prettier-ignore
    expect([wider.version, wider.usedBy]).toEqual([2, ['Boat tags']]);
    // Taken back, it carries nothing, as before it could.
    const { canUndo } = await shop.batch('Boat tags');
    await shop.call(api.undo, { params: { id: batch.id }, body: { event: canUndo!.event } });
    expect((await shop.batch('Boat tags')).setup.contents).toBeNull();
    expect((await carry(await shop.batch('Boat tags'), id)).status).toBe(200);
    const carried = await shop.batch('Boat tags');
    expect(carried.artworks.map((a) => [a.name, a.revision, a.shapes])).toEqual([['Logo', 1, undefined]]);
    const of = async (number: number) => (await shop.call(api.artworkShapes, { params: { id, number } })).shapes.length;
    expect([await of(1), await of(2)]).toEqual([2, 1]);
    const moved = await carry(carried, id, 2);
    expect(((await moved.json()) as BatchDocument).artworks.map((a) => a.revision)).toEqual([2]);
    // What a batch carries is not put away under it.
    const away = await shop.send(api.setAway, { params: { kind: 'artworks', id }, body: { away: true } });
    expect([away.status, (await said(away)).message]).toEqual([409, expect.stringContaining('Boat tags')]);
  });
  it('are carried by faces of round blanks as well', async () => {
    const id = await bring('Burgee');
    const batch = await shop.batch('Umpire flasks');
    const faces = batch.setup.faces.map((f, i) => (i === 0 ? { ...f, content: { kind: 'artwork' as const, artworkId: id, revision: 1, name: 'Burgee' } } : f)); // prettier-ignore
    const save = (revision: number) => shop.send(api.saveSection, { params: { id: batch.id }, body: { section: 'faces', version: batch.version, value: faces.map((f) => (f.content.kind === 'artwork' ? { ...f, content: { ...f.content, revision } } : f)) } }); // prettier-ignore
    expect((await said(await save(9))).code).toBe('no-artwork');
    expect((await save(1)).status).toBe(200);
    expect((await shop.batch('Umpire flasks')).artworks.map((a) => a.name)).toEqual(['Burgee']);
    expect((await artwork(id)).usedBy).toEqual(['Umpire flasks']);
    const away = await shop.send(api.setAway, { params: { kind: 'artworks', id }, body: { away: true } });
    expect([away.status, (await said(away)).message]).toEqual([409, expect.stringContaining('Umpire flasks')]);
  });
  it('change what their styles are burned as for every batch that carries them, and back', async () => {
    const id = await bring('Badge');
    const batch = await shop.batch('Umpire flasks');
    await carry(batch, id);
    const { version, name, spec } = await artwork(id);
    await shop.call(api.saveArtwork, { params: { id }, body: { name, spec: { ...spec, roles: { 'stroke #ff0000': 'cut' } }, version } }); // prettier-ignore
    expect((await shop.batch('Umpire flasks')).artworks[0]!.roles).toEqual({ 'stroke #ff0000': 'cut' });
    const late = await shop.send(api.saveArtwork, { params: { id }, body: { name, spec, version } });
    expect(late.status).toBe(409);
    const { change } = await shop.call(api.shelfUndoable, { params: { id } });
    await shop.call(api.undoShelf, { params: { id }, body: { event: change!.event } });
    expect((await artwork(id)).spec.roles).toEqual({});
  });
  it.each([
    ['nothing that is seen', svg('<rect width="9" height="9" display="none"/>'), 422, /^Nothing is seen in the file\. A shape is not seen/],
    ['a script', svg('<script>1</script>'), 422, /Line 1: The file contains <script>/],
    ['half a file', CREST.slice(0, 60), 422, /not complete XML/],
    ['a picture by another name', 'GIF89a', 422, /not complete XML/],
    ['a speck', svg('<rect width=".1" height=".1"/>'), 422, /The art is 0\.10 × 0\.10 mm\. It must be between/],
    ['nothing', '', 400, /The file is empty/],
  ] as const)('refuse %s, and keep nothing of it', async (what, text, status, words) => {
    const refusal = await shop.send(api.createArtwork, { body: { name: `With ${what}`, customer: '', fileName: 'a.svg', text } }); // prettier-ignore
    expect([refusal.status, (await said(refusal)).message]).toEqual([status, expect.stringMatching(words)]);
    expect((await shop.call(api.listArtworks, {})).some((a) => a.name.startsWith('With'))).toBe(false);
  }); // prettier-ignore
  it('cannot be carried at a revision that is not kept, nor when put away', async () => {
    const id = await bring('Pennant');
    const batch = await shop.batch('Lane medals');
    const none = await carry(batch, id, 7);
    expect([none.status, (await said(none)).code]).toEqual([409, 'no-artwork']);
    await shop.call(api.setAway, { params: { kind: 'artworks', id }, body: { away: true } });
    const away = await carry(batch, id);
    expect([away.status, (await said(away)).message]).toEqual([409, 'Pennant is put away. Bring it back before it is used.']); // prettier-ignore
    expect((await shop.batch('Lane medals')).setup.contents ?? []).toEqual([]);
  });
});
