import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { ArtworkDocument } from '@bistre/contract';
import type { Artwork, ArtworkContent, BatchInput, CodeContent, ListedContent, PictureContent, SerialContent, ZoneContent } from '@bistre/core'; // prettier-ignore
import { loadedPieces, testBatch } from '../../../../../core/src/test-batch';
import { inWay } from '../../../../../core/src/test-held';
import { EXAMPLES } from '../../../../../core/src/test-ways';
import { documentOf, idOf } from '../../../testing/batch';
import { enter, pick, press, tick } from '../../../testing/pick';
import { showContents } from '../../../testing/station';

const square = (size: number) => [{ x: 0, y: 0 }, { x: size, y: 0 }, { x: size, y: size }, { x: 0, y: size }]; // prettier-ignore
const shape = (size: number, fill: string) => ({ contours: [{ closed: true, vertices: square(size) }], rule: 'nonzero' as const, fill, stroke: null, width: 0 }); // prettier-ignore
const GULL: Artwork = { id: idOf('gull'), name: 'Gull', revision: 2, roles: {}, unit: 'mm', shapes: [shape(20, '#000000'), shape(4, '#ff0000')] }; // prettier-ignore
const TERN: Artwork = { ...GULL, id: idOf('tern'), name: 'Tern', revision: 1, shapes: [shape(10, '#000000')] };
const styles = [{ key: 'fill #000000', of: 'fill' as const, paint: '#000000', shapes: 1, area: 400, length: 80 }, { key: 'fill #ff0000', of: 'fill' as const, paint: '#ff0000', shapes: 1, area: 16, length: 16 }]; // prettier-ignore
const onShelf = ({ id, name, revision }: Artwork): ArtworkDocument => ({ id, name, version: 1, spec: { customer: '', roles: {} }, usedBy: [], revisions: Array.from({ length: revision }, (_, i) => ({ number: i + 1, fileName: 'a.svg', bytes: 9, sha256: 'x', width: 20, height: 20, unit: 'mm' as const, notes: [], styles, at: '2026-11-20T08:00:00.000Z', by: 'Odile' })) }); // prettier-ignore
const artworks = [onShelf(GULL), onShelf(TERN)];
const alphabets = [
  { id: 'readability', name: 'Readability' },
  { id: 'b612-bold', name: 'B612 Bold' },
];

const from = testBatch();
const lies = { id: 'c1', zoneId: from.blank.zones[0]!.id, size: { kind: 'width', width: 10 }, turn: 0, mirrored: false } as const; // prettier-ignore
const listed: ListedContent = { ...lies, kind: 'listed', column: 'boat', of: [{ word: 'Gull', artworkId: GULL.id, revision: 1 }] }; // prettier-ignore
const code: CodeContent = { ...lies, kind: 'code', symbology: 'datamatrix', text: 'SK/{boat}', reversed: false };
const serial: SerialContent = { ...lies, size: { kind: 'true' }, kind: 'serial', prefix: 'TG-', digits: 4, step: 1, alphabet: 'readability', capHeight: 3 }; // prettier-ignore
const crest: ArtworkContent = { ...lies, kind: 'artwork', artworkId: GULL.id, revision: 2 };

const batch = (contents: readonly ZoneContent[], change: Partial<BatchInput> = {}): BatchInput => ({
  ...from,
  quantity: 4,
  roster: ['Gull', 'tern', 'Puffin', ''].map((boat) => ({ boat })),
  pieces: loadedPieces([1]),
  artworks: [GULL, { ...GULL, revision: 1 }, TERN],
  setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents },
  ...change,
});
const show = (input: BatchInput) =>
  showContents({ ...documentOf(input), columns: ['boat'] }, { artworks, alphabets } as never);
const sent = (page: Awaited<ReturnType<typeof show>>) =>
  page.updates.filter((u) => u.section === 'contents').map((u) => u.value as ZoneContent[]);
const box = (of: HTMLElement, name: string | RegExp): HTMLElement => within(of).getByRole('textbox', { name });

describe('art by the list', () => {
  it('takes for each word the artwork of its name, and asks for the others', async () => {
    const page = await show(batch([]));
    await press('art by the list');
    const known = [{ word: 'Gull', artworkId: GULL.id, revision: 2 }, { word: 'tern', artworkId: TERN.id, revision: 1 }]; // prettier-ignore
    expect(sent(page).at(-1)).toEqual([{ ...lies, id: expect.any(String) as string, size: { kind: 'fit' }, kind: 'listed', column: 'boat', of: known }]); // prettier-ignore
    const row = screen.getByRole('group', { name: 'art by the list' });
    expect(within(row).getByRole('combobox', { name: 'Puffin stands for' }).textContent).toContain('not said yet');
    await pick('Puffin stands for', 'Tern');
    await pick('(empty) stands for', 'no art');
    expect((sent(page).at(-1)![0] as ListedContent).of).toEqual([...known, { word: 'Puffin', artworkId: TERN.id, revision: 1 }, { word: '', artworkId: null, revision: 1 }]); // prettier-ignore
    await pick('Gull stands for', 'not said yet');
    expect((sent(page).at(-1)![0] as ListedContent).of.map((o) => o.word)).toEqual(['tern', 'Puffin', '']);
  });
  it('says on how many pieces it lies, what is missing, and which files are newer', async () => {
    const page = await show(batch([listed]));
    const row = screen.getByRole('group', { name: 'art by the list' });
    expect(row.textContent).toContain('10.0 × 10.0 mm, 0.500 times its file');
    expect(row.textContent).toContain('On 1 piece; the first of them is Gull.');
    expect(page.container.textContent).toContain('Piece 2: the list names “tern” in boat, which is no artwork yet.');
    await press('take the newest files of Gull');
    expect((sent(page).at(-1)![0] as ListedContent).of).toEqual([{ word: 'Gull', artworkId: GULL.id, revision: 2 }]);
  });
});

describe('colours by the list', () => {
  it('are burned where they are ticked', async () => {
    const page = await show(batch([crest]));
    await pick('Its colours', 'some by “boat” of the list');
    await tick('fill #ff0000 on tern');
    const of = ['Gull', 'tern', 'Puffin', ''].map((word) => ({ word, styles: word === 'tern' ? ['fill #ff0000'] : [] })); // prettier-ignore
    expect(sent(page).at(-1)).toEqual([{ ...crest, choice: { column: 'boat', of } }]);
    await tick('fill #ff0000 on tern');
    expect((sent(page).at(-1)![0] as ArtworkContent).choice!.of[1]).toEqual({ word: 'tern', styles: [] });
    await pick('Its colours', 'all on every piece');
    expect((sent(page).at(-1)![0] as ArtworkContent).choice).toBeNull();
  });
});

describe('colours by recipes of their own', () => {
  const other = (change: object) => ({
    ...documentOf(batch([])).recipe!,
    id: idOf('score'),
    name: 'Score',
    version: 1,
    ...change,
  });
  it('are offered what is proved here for this material, and go back to the batch’s', async () => {
    const { spec } = documentOf(batch([])).recipe!;
    const recipes = [documentOf(batch([])).recipe!, other({}), other({ id: idOf('far'), name: 'Far', machineId: idOf('far') }), other({ id: idOf('slate'), name: 'Slate', spec: { ...spec, material: 'slate' } })]; // prettier-ignore
    const input = batch([crest], { blank: { ...from.blank, material: spec.material } });
    const page = await showContents({ ...documentOf(input), columns: ['boat'] }, { artworks, alphabets, recipes } as never); // prettier-ignore
    await pick('fill #ff0000 is burned by', 'Score');
    expect((sent(page).at(-1)![0] as ArtworkContent).recipes).toEqual([{ style: 'fill #ff0000', recipeId: idOf('score') }]); // prettier-ignore
    expect(screen.queryByRole('option', { name: 'Far' })).toBeNull();
    await pick('fill #ff0000 is burned by', documentOf(batch([])).recipe!.name);
    expect((sent(page).at(-1)![0] as ArtworkContent).recipes).toBeNull();
  });
});

describe('a code', () => {
  it('is of the first column at first, light where the work is burned lighter', async () => {
    const slate = { ...from.blank, material: 'Welsh slate' };
    const page = await show(batch([], { blank: slate }));
    await press('a code');
    expect(sent(page).at(-1)![0]).toMatchObject({ kind: 'code', symbology: 'qr', text: '{boat}', reversed: true, size: { kind: 'fit' } }); // prettier-ignore
  });
  it('shows how large its modules are, and says when they are too small', async () => {
    await show(batch([{ ...code, size: { kind: 'width', width: 5 } }]));
    const row = screen.getByRole('group', { name: 'Data Matrix' });
    // Seven letters take 14 modules and one clear all round: 5 / 16.
    expect(row.textContent).toContain('5.0 × 5.0 mm with its clear rim, 0.31 mm a module');
    expect(row.textContent).toContain('Modules under 0.4 mm are hard to read');
  });
  it('takes columns and the serial number into its text', async () => {
    const page = await show(batch([code, { ...serial, id: 'c2', down: 'bottom' }], { serials: [{ contentId: 'c2', numbers: [7, 8, 9, 10] }] })); // prettier-ignore
    // One alone lies open; of several each is opened.
    expect(screen.queryByRole('button', { name: '{serial}' })).toBeNull();
    expect(screen.getByRole('group', { name: 'serial number' }).textContent).toMatch(
      /^serial number in face\d+\.\d × 3\.\d mm.*change/,
    );
    await press('change', within(screen.getByRole('group', { name: 'Data Matrix' })));
    await press('{serial}');
    expect((sent(page).at(-1)![0] as CodeContent).text).toBe('SK/{boat}{serial}');
    const row = screen.getByRole('group', { name: 'Data Matrix' });
    await enter(box(row, 'Text'), 'LANE {boat}');
    expect((sent(page).at(-1)![0] as CodeContent).text).toBe('LANE {boat}');
    await pick('Code', 'QR code');
    expect((sent(page).at(-1)![0] as CodeContent).symbology).toBe('qr');
  });
});

describe('serial numbers', () => {
  it('are given when they are asked for, not while they are typed', async () => {
    const page = await show(batch([]));
    await press('serial numbers');
    const form = screen.getByRole('button', { name: 'Give 4 numbers' }).closest('form')!;
    await enter(box(form, 'Prefix'), 'TG-');
    await enter(box(form, 'Begins at'), '41');
    expect(form.textContent).toContain('They read TG-0041.');
    expect(sent(page)).toEqual([]);
    await press('Give 4 numbers');
    expect(sent(page).at(-1)).toEqual([expect.objectContaining({ kind: 'serial', prefix: 'TG-', digits: 4, step: 1, first: 41, alphabet: 'readability', capHeight: 3 })]); // prettier-ignore
    expect(screen.queryByRole('button', { name: 'Give 4 numbers' })).toBeNull();
  });
  it('can be left, with nothing given', async () => {
    const page = await show(batch([]));
    await press('serial numbers');
    await press('leave it');
    expect(screen.queryByRole('button', { name: 'Give 4 numbers' })).toBeNull();
    expect(sent(page)).toEqual([]);
  });
  it('say which are given, and are lettered as is chosen', async () => {
    const page = await show(batch([serial], { serials: [{ contentId: 'c1', numbers: [98, 99, 100, null] }] }));
    const row = screen.getByRole('group', { name: 'serial number' });
    expect(row.textContent).toContain('TG-0098 to TG-0100, 3 given.');
    expect(row.textContent).toContain('On 3 pieces; the first of them is TG-0098.');
    expect(page.container.textContent).toContain('Piece 4: no serial number was given to it yet.');
    await enter(box(row, /^Capital height/), '2.5');
    expect((sent(page).at(-1)![0] as SerialContent).capHeight).toBe(2.5);
  });
});

describe('zones', () => {
  it('of long work carry things too; round work has faces', async () => {
    await showContents(documentOf({ ...EXAMPLES.long, blank: { ...EXAMPLES.long.blank, zones: from.blank.zones } }), { artworks } as never); // prettier-ignore
    expect(screen.getByRole('region', { name: 'In the zones beside lettering' })).toBeTruthy();
  });
});

describe('a picture', () => {
  const picture: PictureContent = { ...lies, kind: 'picture', pictureId: idOf('harbour'), name: 'harbour', width: 200, height: 160, darkness: 0.34, treatment: { kernel: 'stucki', densest: 1, gamma: 1, negative: false } }; // prettier-ignore
  it('lies in its zone in figures and in the drawing, as wide as is said', async () => {
    const page = await show(batch([picture]));
    const row = screen.getByRole('group', { name: 'harbour' });
    expect(row.textContent).toContain('200 × 160 dots, 34 % dark');
    expect(row.textContent).toContain('10.0 × 8.0 mm; room to the zone: 18.5 left, 18.5 right, 5.5 front, 5.5 back;');
    const image = page.container.querySelector('image')!;
    expect([image.getAttribute('href'), image.getAttribute('width'), image.getAttribute('height')]).toEqual([`/api/pictures/${idOf('harbour')}`, '200', '160']); // prettier-ignore
    // 0.05 mm a dot, from the upper left corner down: 3.5 − 5 and 4.
    expect(image.getAttribute('transform')).toBe('matrix(0.05 0 0 -0.05 -1.5 4)');
    await pick('Shades as dots', 'Floyd–Steinberg: sharp');
    expect((sent(page).at(-1)![0] as PictureContent).treatment).toEqual({ ...picture.treatment, kernel: 'floyd-steinberg' }); // prettier-ignore
    await pick('Size', 'as the zone takes it');
    expect((sent(page).at(-1)![0] as PictureContent).size).toEqual({ kind: 'fit' });
  });
  it('is printed in its shades where its piece is a print, as they are or light for dark', async () => {
    const page = await show(inWay(batch([picture]), 'sheet', { marks: 4 }));
    const row = screen.getByRole('group', { name: 'harbour' });
    expect(row.textContent).toContain('200 × 160 dots, printed in their shades.');
    expect(screen.queryByText('Shades as dots')).toBeNull();
    fireEvent.click(screen.getByText('Print them light for dark'));
    await waitFor(() => expect(sent(page)).toHaveLength(1));
    expect((sent(page)[0]![0] as PictureContent).treatment.negative).toBe(true);
  });
  it('is taken in from a file, light where the work is burned lighter, or refused in words', async () => {
    const page = await show(batch([], { blank: { ...from.blank, material: 'slate' } }));
    const server = globalThis.fetch;
    const answer = (ok: boolean, body: object) => ({ ok, status: ok ? 200 : 422, json: () => Promise.resolve(body) }) as Response; // prettier-ignore
    const answers = [
      answer(false, { code: 'bad-picture', message: 'torn.png is damaged and cannot be read. Nothing was changed.' }),
      answer(true, { id: idOf('harbour'), name: 'harbour.jpg', width: 90, height: 60, darkness: 0.3 }),
    ];
    globalThis.fetch = () => Promise.resolve(answers.shift()!);
    const give = (name: string): void => {
      fireEvent.change(screen.getByLabelText('Picture in a zone'), { target: { files: [new File(['x'], name)] } });
    };
    give('torn.png');
    expect(await screen.findByText('torn.png is damaged and cannot be read. Nothing was changed.')).toBeTruthy();
    give('harbour.jpg');
    await waitFor(() => expect(sent(page)).toHaveLength(1));
    globalThis.fetch = server;
    expect(sent(page)[0]![0]).toMatchObject({ kind: 'picture', name: 'harbour', width: 90, height: 60, size: { kind: 'fit' }, treatment: { negative: true } }); // prettier-ignore
    fireEvent.change(screen.getByLabelText('Picture in a zone'), { target: { files: [Object.defineProperty(new File(['x'], 'big.png'), 'size', { value: 9e8 })] } }); // prettier-ignore
    expect(await screen.findByText(/big\.png is 900 MB; at most/)).toBeTruthy();
  });
  it('that is lettering or a stamp is traced: its outlines lie on the Shelf, and in its place', async () => {
    const page = await show(batch([{ ...picture, offset: { x: 2, y: 0 } }]));
    const server = globalThis.fetch;
    const calls: { path: string; body: Record<string, unknown> }[] = [];
    const refusal = { code: 'shades', message: 'The picture has shades.' };
    globalThis.fetch = ((path: string, init?: { body?: string }) => {
      if (path === `/api/pictures/${picture.pictureId}`)
        return Promise.resolve({ ok: true, blob: () => Promise.resolve(Object.assign(new Blob(), {})) });
      const body = JSON.parse(init?.body ?? '{}') as Record<string, unknown>;
      calls.push({ path, body });
      const ok = calls.length > 1;
      return Promise.resolve({ ok, status: ok ? 200 : 422, headers: new Headers(), json: () => Promise.resolve(ok ? { id: body['id'] } : refusal) }); // prettier-ignore
    }) as never;
    // The simulated browser gives out no bytes by itself.
    Object.defineProperty(File.prototype, 'arrayBuffer', { configurable: true, value: () => Promise.resolve(new Uint8Array([137, 80]).buffer) }); // prettier-ignore
    await press('lettering or a stamp: burn its outlines instead');
    expect(await screen.findByText('The picture has shades.')).toBeTruthy();
    expect(sent(page)).toEqual([]);
    await press('lettering or a stamp: burn its outlines instead');
    await waitFor(() => expect(sent(page)).toHaveLength(1));
    globalThis.fetch = server;
    expect(calls[1]).toMatchObject({ path: '/api/artworks', body: { name: 'harbour, traced', fileName: 'harbour.png', text: 'iVA=', base64: true } }); // prettier-ignore
    const { kind: _kind, ...where } = { ...lies, offset: { x: 2, y: 0 }, kind: 'picture' };
    expect(sent(page)[0]).toEqual([{ ...where, kind: 'artwork', artworkId: calls[1]!.body['id'], revision: 1 }]);
  });
});

describe('on round work', () => {
  it('lies in the zone of the face that carries names, by one recipe, and reaches over nothing', async () => {
    const cup = EXAMPLES.drive;
    const bare = { ...cup, roster: [], setup: { ...cup.setup, lettering: { ...cup.setup.lettering, lines: [] }, contents: null } }; // prettier-ignore
    const page = await show(bare);
    await press('a code');
    const [added] = sent(page)[0]!;
    expect(added).toMatchObject({ kind: 'code', zoneId: 'face', size: { kind: 'fit' } });
    page.unmount();
    const laid = await show({
      ...bare,
      setup: { ...bare.setup, contents: [{ ...added!, text: 'SKERRY' } as ZoneContent] },
    });
    expect(screen.getByRole('group', { name: 'QR code' }).textContent).toMatch(/30\.0 × 30\.0 mm with its clear rim, [\d.]+ mm a module; room to the zone: 0\.0 left/); // prettier-ignore
    expect(screen.queryByText('over the edge on purpose')).toBeNull();
    expect(screen.queryByText('move them on one piece, drawn large')).toBeNull();
    expect(laid.shown.reckoning.own.round!.unrolled.fill.length).toBeGreaterThan(200);
  });
});
