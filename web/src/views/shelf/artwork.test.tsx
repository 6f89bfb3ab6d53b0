import { QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter, Outlet, Route, Routes } from 'react-router';
import { api, READ_ART, type ArtworkDocument } from '@bistre/contract';
import { outbox } from '../../data/outbox';
import { queryClient } from '../../data/queries';
import { idOf } from '../../testing/batch';
import { enter, pick, press } from '../../testing/pick';
import { pretend } from '../../testing/server';
import '../../testing/workers';
import { ArtworkPage, NewArtwork } from './ArtworkPage';

const AT = '2026-11-20T08:00:00.000Z';
const fill = { key: 'fill #1b3a57', of: 'fill' as const, paint: '#1b3a57', shapes: 2, area: 742, length: 300 };
const stroke = { key: 'stroke #b00020', of: 'stroke' as const, paint: '#b00020', shapes: 1, area: 0, length: 73 };
const revision = (number: number, more: object = {}) => ({ number, fileName: `crest ${number}.svg`, bytes: 900, sha256: 'x', width: 60, height: 70, unit: 'mm' as const, notes: ['Text is left out: “Skerry”.'], styles: [fill, stroke], at: AT, by: 'Odile', ...more }); // prettier-ignore
const crest: ArtworkDocument = { id: idOf('crest'), name: 'Regatta crest', version: 3, spec: { customer: 'Rowing club', roles: {} }, revisions: [revision(1)], usedBy: ['Boat tags'] }; // prettier-ignore
const square = (x: number, paint: object) => ({ contours: [{ closed: true, vertices: [{ x, y: 0 }, { x: x + 30, y: 0 }, { x: x + 30, y: 70 }, { x, y: 70 }] }], rule: 'nonzero', fill: null, stroke: null, width: 0, ...paint }); // prettier-ignore
const shapes = [square(0, { fill: '#1b3a57' }), square(30, { stroke: '#b00020' })];

/** What a file comes to as it is read; nothing of that is kept. */
const READ = {
  width: 60,
  height: 70,
  unit: 'mm',
  notes: ['A layer is off.'],
  styles: [fill],
  doubt: null,
  drawn: { box: { minX: 0, minY: 0, maxX: 60, maxY: 70 }, paths: [{ role: 'area', d: 'M0 0L60 0L60 70Z' }] },
};
const kept = (writes: readonly { readonly path: string; readonly body: Record<string, unknown> }[]) => writes.filter((w) => w.path === api.createArtwork.path); // prettier-ignore

const show = (page: ReactNode, artwork: ArtworkDocument = crest) => {
  const server = pretend(({ method, path, body }) => {
    if (path.includes('/revisions/')) return { shapes };
    if (path === api.listArtworks.path && method === 'GET') return [artwork];
    if (method === 'GET') return { change: null };
    if (path.startsWith(READ_ART)) return READ;
    return method === 'POST' && path === api.createArtwork.path ? { id: body['id'] } : { ...artwork, version: 4 };
  });
  render(
    <QueryClientProvider client={queryClient}>
      <MemoryRouter>
        <Routes>
          <Route element={<Outlet context={{ find: () => undefined }} />}>
            <Route index element={page} />
            <Route path="*" element={<p>another page</p>} />
          </Route>
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return server;
};
/** A file of bytes, which the simulated browser does not give out by itself. */
const bytes = (name: string, of: readonly number[]): File => Object.assign(new File([], name), { arrayBuffer: () => Promise.resolve(new Uint8Array(of).buffer) }); // prettier-ignore
const file = (name: string, text: string): File => Object.assign(new File([text], name), { text: () => Promise.resolve(text) }); // prettier-ignore
const give = (label: string | RegExp, chosen: File): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { files: [chosen] } });
};
const drawn = (): (string | null)[] => [...screen.getByRole('img', { name: 'The art, to scale' }).querySelectorAll('[data-role]')].map((p) => p.getAttribute('data-role')); // prettier-ignore

afterEach(async () => {
  for (const kept of outbox.get().kept) await outbox.letGo(kept);
  queryClient.clear();
});

describe('an artwork of the Shelf', () => {
  it('says how large it is, what its colours draw, what was left out and who carries it', async () => {
    show(<ArtworkPage artwork={crest} />);
    expect(screen.getByText('60.0 × 70.0 mm in its file, for Rowing club; used by Boat tags')).toBeTruthy();
    const rows = screen.getAllByRole('row').slice(1).map((r) => r.textContent); // prettier-ignore
    expect(rows[0]).toMatch(/^fill #1b3a572 shapes, 7\.42 cm².*burned asarea, filled by lines/);
    expect(rows[1]).toMatch(/^stroke #b000201 shape, 73 mm of line.*burned asline/);
    expect(screen.getByText('Text is left out: “Skerry”.')).toBeTruthy();
    await waitFor(() => expect(drawn()).toEqual(['area', 'line']));
    expect(screen.getByText('60.0 × 70.0 mm in its file.')).toBeTruthy();
  });
  it('is burned as is said of its colours; a stroke is never an area', async () => {
    const { writes } = show(<ArtworkPage artwork={crest} />);
    await pick('stroke #b00020, burned as', 'cut through');
    await waitFor(() => expect(writes).toHaveLength(1));
    expect(writes[0]).toMatchObject({ method: 'PUT', path: `/api/artworks/${crest.id}`, body: { name: 'Regatta crest', spec: { customer: 'Rowing club', roles: { 'stroke #b00020': 'cut' } }, version: 3 } }); // prettier-ignore
    fireEvent.keyDown(screen.getByLabelText('stroke #b00020, burned as'), { key: 'Enter' });
    expect((await screen.findAllByRole('option')).map((o) => o.textContent)).toEqual(['line', 'cut through', 'guide, never burned']); // prettier-ignore
  });
  it('draws each colour as it is burned', async () => {
    show(<ArtworkPage artwork={{ ...crest, spec: { ...crest.spec, roles: { 'fill #1b3a57': 'guide', 'stroke #b00020': 'cut' } } }} />); // prettier-ignore
    await waitFor(() => expect(drawn()).toEqual(['cut', 'guide']));
  });
  it('that was traced says its doubt at its size, and asks for its dots to the inch where nobody knows', async () => {
    const { writes } = show(<ArtworkPage artwork={{ ...crest, spec: { ...crest.spec, scale: 0.32 }, revisions: [revision(1, { fileName: 'stamp.JPG', unit: 'px', doubt: 0.1 })] }} />); // prettier-ignore
    expect(
      screen.getByText(/^Traced from a picture: its outlines are known to ± 0\.06 mm at this size\.$/),
    ).toBeTruthy();
    expect(screen.getByRole('button', { pressed: true }).textContent).toBe('19.2 × 22.4 mm: 300 dots to the inch');
    await press('9.6 × 11.2 mm: 600 dots to the inch');
    await waitFor(() => expect(writes[0]!.body).toMatchObject({ spec: { scale: 0.16 } }));
  });
  it('that states no unit asks how large it is, and keeps what is said', async () => {
    const bare = {
      ...crest,
      revisions: [
        revision(1, {
          unit: 'unstated',
          notes: [],
        }),
      ],
    };
    const { writes } = show(<ArtworkPage artwork={bare} />);
    expect(screen.getByText(/How large is it really\?/)).toBeTruthy();
    expect(screen.queryByText(/96 dots to the inch were taken/)).toBeNull();
    // 60 × 70 at 96 dots to the inch are 60 × 96 / 25.4 wide when its lengths were millimetres.
    await press('226.8 × 264.6 mm: millimetres');
    await waitFor(() => expect(writes).toHaveLength(1));
    expect((writes[0]!.body['spec'] as ArtworkDocument['spec']).scale).toBeCloseTo(96 / 25.4, 9);
    cleanup();
    show(
      <ArtworkPage
        artwork={{
          ...bare,
          spec: { ...bare.spec, scale: 96 / 25.4 },
          revisions: [revision(1, { unit: 'unstated', fileName: 'a.svg' })],
        }}
      />,
    );
    expect(screen.getByText(/its size was said here/)).toBeTruthy();
    expect(screen.getByText(/^226\.8 × 264\.6 mm in its file/)).toBeTruthy();
    expect(screen.getByRole('button', { pressed: true }).textContent).toBe('226.8 × 264.6 mm: millimetres');
    cleanup();
    show(<ArtworkPage artwork={{ ...bare, revisions: [revision(1, { unit: 'unstated', fileName: 'a.dxf' })] }} />);
    expect(screen.getByText('1524.0 × 1778.0 mm: inches')).toBeTruthy();
  });
  it('takes a new file once it is said what it would change, and says what each changed before', async () => {
    const second = revision(2, { width: 50, styles: [fill, { ...stroke, key: 'stroke #000000', paint: '#000000' }] });
    const { writes, plan } = show(<ArtworkPage artwork={{ ...crest, revisions: [revision(1), second] }} />);
    const [now, before] = within(screen.getByRole('list', { name: 'Files' })).getAllByRole('listitem');
    expect(now!.textContent).toBe('r2crest 2.svgwas 60.0 × 70.0 mm; new: stroke #000000; gone: stroke #b0002020/11/2026 by Odile, x'); // prettier-ignore
    expect(within(before!).getByRole('link').getAttribute('href')).toBe(`/api/artworks/${crest.id}/revisions/1/file`);
    give(/^A new file for it/, file('crest 3.svg', '<svg/>'));
    // Read first, and nothing of it kept.
    expect(await screen.findByText('was 50.0 × 70.0 mm; gone: stroke #000000')).toBeTruthy();
    const chosen = screen.getByRole('list', { name: 'Chosen files' });
    expect(chosen.textContent).toMatch(/^crest 3\.svg: 60\.0 × 70\.0 mm, 1 colour.*Look:A layer is off\.$/);
    // How it looks, and what is proposed of its colours, before it is kept.
    expect(
      within(chosen)
        .getByRole('img', { name: 'The art, to scale' })
        .querySelector('[data-role=area]')!
        .getAttribute('d'),
    ).toBe('M0 0L60 0L60 70Z');
    expect(within(chosen).getByRole('list', { name: 'Its colours' }).textContent).toBe('fill #1b3a572 shapes, 7.42 cm²area'); // prettier-ignore
    expect(writes.map((w) => w.path)).toEqual(['/api/art?name=crest+3.svg']);
    await press('Leave it');
    expect(screen.queryByRole('list', { name: 'Chosen files' })).toBeNull();
    give(/^A new file for it/, file('crest 3.svg', '<svg/>'));
    await screen.findByRole('button', { name: 'Take it as r3' });
    plan.push({ status: 409, code: 'same-file', message: 'This is the file that revision 2 is already.' });
    await press('Take it as r3');
    expect(await screen.findByText('This is the file that revision 2 is already.')).toBeTruthy();
    expect(writes.at(-1)).toMatchObject({ method: 'POST', path: `/api/artworks/${crest.id}/revisions`, body: { fileName: 'crest 3.svg', text: '<svg/>' } }); // prettier-ignore
    const sent = writes.length;
    give(/^A new file for it/, Object.defineProperty(file('big.svg', 'x'), 'size', { value: 9e6 }));
    expect(await screen.findByText(/big\.svg is 9\.0 MB; at most 8 MB are read/)).toBeTruthy();
    expect([writes.length, screen.queryByRole('button', { name: /^Take it/ })]).toEqual([sent, null]);
    plan.push({ status: 422, code: 'locked-pdf', message: 'The PDF is locked by a password.' });
    give(/^A new file for it/, bytes('crest.PDF', [37, 80, 68, 70, 0, 255, 254]));
    expect(await screen.findByText('The PDF is locked by a password.')).toBeTruthy();
    // A PDF is of bytes: it is kept as RFC 4648 writes them, six bits a letter.
    give(/^A new file for it/, bytes('crest.PDF', [37, 80, 68, 70, 0, 255, 254]));
    await press('Take it as r3');
    await waitFor(() => expect(writes.at(-1)!.body).toMatchObject({ fileName: 'crest.PDF', text: 'JVBERgD//g==', base64: true })); // prettier-ignore
    give(/^A new file for it/, Object.defineProperty(file('big.pdf', 'x'), 'size', { value: 6.1e6 }));
    expect(await screen.findByText(/big\.pdf is 6\.1 MB; at most 6 MB are read/)).toBeTruthy();
  });
  it('comes from a file, under its name; nothing is lost where it cannot be read or is refused', async () => {
    const { writes, plan } = show(<NewArtwork />);
    await enter(screen.getByLabelText('Customer'), 'Skerry Sound Rowing Regatta');
    plan.push({ status: 422, code: 'nothing-seen', message: 'Nothing is seen in the file.' });
    give(/^SVG, DXF, PDF/, file('crest.svg', '<svg>…</svg>'));
    expect(await screen.findByText('Nothing is seen in the file.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('crest');
    await press('Put it on the Shelf');
    expect(screen.getByText(/^Choose the file first/)).toBeTruthy();
    give(/^SVG, DXF, PDF/, file('crest.svg', '<svg>…</svg>'));
    expect(await screen.findByText(': 60.0 × 70.0 mm, 1 colour')).toBeTruthy();
    plan.push({ status: 409, code: 'name-taken', message: 'There is a crest already.' });
    await press('Put it on the Shelf');
    expect(await screen.findByText('There is a crest already.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Customer').value).toBe('Skerry Sound Rowing Regatta');
    await press('Put it on the Shelf');
    expect(await screen.findByText('another page')).toBeTruthy();
    expect(kept(writes).at(-1)!.body).toMatchObject({ name: 'crest', customer: 'Skerry Sound Rowing Regatta', fileName: 'crest.svg', text: '<svg>…</svg>' }); // prettier-ignore
  });
  it('come several at once, each under its own name; one that cannot be read is named and left', async () => {
    const { writes, plan } = show(<NewArtwork />);
    const read = { status: 200, ...READ } as never;
    plan.push(read, { status: 422, code: 'not-xml', message: 'The file is not complete XML.' }, read);
    fireEvent.change(screen.getByLabelText(/^SVG, DXF, PDF/), { target: { files: [file('gull.svg', '<svg/>'), file('tern.svg', '<svg>'), file('knot.svg', '<svg/>')] } }); // prettier-ignore
    await screen.findByText('Each under the name of its file.');
    expect(await screen.findByText('The file is not complete XML.')).toBeTruthy();
    await press('Put 2 on the Shelf');
    await waitFor(() => expect(kept(writes).map((w) => w.body['name'])).toEqual(['gull', 'knot']));
    // What was not taken stays there, with why.
    expect(screen.getByRole('list', { name: 'Chosen files' }).textContent).toMatch(/^tern\.svg/);
  });
  it('is stopped while it is read: nothing is sent on, and the rest is not begun', async () => {
    show(<NewArtwork />);
    const asked: AbortSignal[] = [];
    globalThis.fetch = ((_: string, init: { signal: AbortSignal }) => {
      asked.push(init.signal);
      return new Promise((__, gone) => init.signal.addEventListener('abort', () => gone(new Error('given up'))));
    }) as never;
    fireEvent.change(screen.getByLabelText(/^SVG, DXF, PDF/), { target: { files: [file('gull.svg', '<svg/>'), file('tern.svg', '<svg/>')] } }); // prettier-ignore
    expect((await screen.findByRole('status')).textContent).toBe('Reading gull.svg …');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Put it on the Shelf' }).disabled).toBe(true);
    await waitFor(() => expect(asked).toHaveLength(1));
    await press('Stop');
    await waitFor(() => expect(screen.queryByRole('status')).toBeNull());
    expect([asked.length, asked[0]!.aborted]).toEqual([1, true]);
    expect(screen.queryByRole('list', { name: 'Chosen files' })).toBeNull();
  });
  it('waits with the page while the server is away, and goes on the Shelf when it is back', async () => {
    const { writes, plan } = show(<NewArtwork />);
    plan.push('away', 'away', 'away');
    give(/^SVG, DXF, PDF/, file('crest.svg', '<svg/>'));
    await waitFor(() => expect(screen.queryByRole('status')).toBeNull(), { timeout: 5_000 });
    expect(screen.getByRole('list', { name: 'Chosen files' }).textContent).toBe('crest.svg');
    await press('Put it on the Shelf');
    expect(await screen.findByText('another page')).toBeTruthy();
    expect(kept(writes).map((w) => w.body['name'])).toEqual(['crest']);
  });
});
