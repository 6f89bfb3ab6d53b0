import { fireEvent, screen, waitFor } from '@testing-library/react';
import { contourBox, type BatchInput, type TracedSheet } from '@bistre/core';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { documentOf, DOCUMENTS, idOf } from '../../testing/batch';
import { scalesOf, wrongOn } from '../../testing/looks';
import { enter, pick, press, readingOf } from '../../testing/pick';
import { greyDots, pictureFile, unpackPictures } from '../../testing/pixels';
import { showStation } from '../../testing/station';
import { serviceOf } from '../../testing/workers';

const SIZE = { width: 800, height: 600 };
const word = (n: number): number[] => [24, 16, 8, 0].map((by) => (n >>> by) & 255);
const chunk = (name: string, data: readonly number[]): number[] => [...word(data.length), ...[...name].map((c) => c.charCodeAt(0)), ...data, 0, 0, 0, 0]; // prettier-ignore
/** First bytes of a PNG of this size; dots to the metre where it says so [PNG specification 5.2, 11.2.1, 11.3.4.3]. */
const head = ({ width, height }: typeof SIZE, perMetre: number | null): Uint8Array<ArrayBuffer> =>
  new Uint8Array([
    ...[0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
    ...chunk('IHDR', [...word(width), ...word(height), 8, 2, 0, 0, 0]),
    ...(perMetre === null ? [] : chunk('pHYs', [...word(perMetre), ...word(perMetre), 1])),
    ...chunk('IDAT', []),
  ]);
/** Ten dots to the millimetre: a disc of 20 mm at 20, 30 and a bar of 30 × 10 at 55, 15 of the sheet, y up. */
const dots = greyDots(SIZE.width, SIZE.height, (px, py) => {
  const [x, y] = [(px + 0.5) / 10, (SIZE.height - py - 0.5) / 10];
  const disc = Math.hypot(x - 20, y - 30) < 10;
  const bar = Math.abs(x - 55) < 15 && Math.abs(y - 15) < 5;
  return disc || bar ? 30 : 250;
});
const scan = (perMetre: number | null = 10_000): File => pictureFile(dots, 'badges.png', head(SIZE, perMetre));
const show = (input: BatchInput = EXAMPLES.sheet) => showStation(documentOf(input), 'hold');
const tracedOf = (page: Awaited<ReturnType<typeof show>>): TracedSheet | null => (page.batch().setup.held.choice as { traced: TracedSheet | null }).traced; // prettier-ignore
const look = async (file: File, page: Awaited<ReturnType<typeof show>>, waits = true): Promise<void> => {
  if (!tracedOf(page)) fireEvent.click(screen.getByRole('radio', { name: /^came from somebody else/ }));
  fireEvent.change(screen.getByLabelText(/^(The sheet: PDF, SVG, or a picture|Another file)/), { target: { files: [file] } }); // prettier-ignore
  if (waits) await waitFor(() => expect(screen.queryByRole('progressbar')).toBeNull(), { timeout: 20_000 });
};

beforeEach(unpackPictures);

describe('somebody else’s sheet', () => {
  it('has its outlines where the print is, to a fifth of a dot', async () => {
    const page = await show();
    await look(scan(), page);
    await waitFor(() => expect(tracedOf(page)).not.toBeNull(), { timeout: 20_000 });
    const traced = tracedOf(page)!;
    expect([traced.width, traced.height, traced.dot]).toEqual([80, expect.closeTo(60, 9), expect.closeTo(0.1, 9)]);
    const boxes = traced.shapes.map((s) => contourBox(s.outline)).sort((a, b) => a.minX - b.minX);
    const wanted = [
      { minX: 10, maxX: 30, minY: 20, maxY: 40 },
      { minX: 40, maxX: 70, minY: 10, maxY: 20 },
    ];
    expect(boxes).toHaveLength(2);
    boxes.forEach((box, i) => {
      for (const [side, mm] of Object.entries(wanted[i]!)) expect(Math.abs(box[side as keyof typeof box] - mm)).toBeLessThan(0.02); // prettier-ignore
    });
    expect(page.container.textContent).toContain('badges.png: 80.0 × 60.0 mm, 254 dots to the inch; looked through in');
    // Drawn to the scale its bar says.
    const drawing = screen.getByRole('group', { name: 'Sheet as found in its file' });
    const scales = scalesOf(drawing)!;
    expect(scales.drawn.every((k) => Math.abs(k / scales.bar - 1) < 1e-6)).toBe(true);
    expect(wrongOn(page.container)).toEqual([]);
  });

  it('that does not say its resolution is asked how it was scanned, and scaled by the answer', async () => {
    const page = await show();
    await look(scan(null), page);
    expect(await screen.findByText(/The picture does not say\. How was it scanned\?/)).toBeTruthy();
    expect(tracedOf(page)).toBeNull();
    await enter(screen.getByLabelText('Dots to the inch'), '127');
    await waitFor(() => expect(tracedOf(page)?.width).toBeCloseTo(160, 6), { timeout: 20_000 });
  });

  it('is looked through again by other rules: what is narrower than the smallest is no piece', async () => {
    const page = await show();
    await look(scan(), page);
    await waitFor(() => expect(tracedOf(page)?.shapes).toHaveLength(2), { timeout: 20_000 });
    await enter(screen.getByLabelText('Smallest piece'), '15');
    await waitFor(() => expect(tracedOf(page)?.shapes.filter((s) => s.role === 'piece')).toHaveLength(1), { timeout: 20_000 }); // prettier-ignore
  });

  it('has the role of each shape turned where it is drawn, by click and by key, and of all of a form at once', async () => {
    const page = await show();
    await look(scan(), page);
    await waitFor(() => expect(tracedOf(page)?.shapes).toHaveLength(2), { timeout: 20_000 });
    const roles = () => tracedOf(page)!.shapes.map((s) => s.role);
    const [first] = screen.getAllByRole('button', { name: /^(piece \d|mark|left out), \d/ });
    const before = roles();
    fireEvent.click(first!);
    await waitFor(() => expect(roles()[0]).not.toBe(before[0]));
    fireEvent.keyDown(screen.getAllByRole('button', { name: /^(piece \d|mark|left out), \d/ })[0]!, { key: 'Enter' });
    fireEvent.keyDown(screen.getAllByRole('button', { name: /^(piece \d|mark|left out), \d/ })[0]!, { key: 'x' });
    await waitFor(() => expect(new Set([before[0], roles()[0]]).size).toBe(2));
    await pick(/ is$/, 'left out');
    expect(roles()).toContain('left out');
    fireEvent.click(screen.getByRole('radio', { name: 'is laid out here' }));
    await waitFor(() => expect(tracedOf(page)).toBeNull());
  });

  it('that is no picture, or damaged, is named; the outlines found before are kept', async () => {
    const page = await show();
    await look(scan(), page);
    await waitFor(() => expect(tracedOf(page)).not.toBeNull(), { timeout: 20_000 });
    const other = new File(['GIF89a'], 'photo.gif');
    Object.assign(other, { slice: () => ({ arrayBuffer: () => Promise.resolve(new ArrayBuffer(6)) }) });
    await look(other, page);
    expect(await screen.findByText('photo.gif is no PNG, JPEG or WebP. Save the picture as one of them. The outlines found before are kept.')).toBeTruthy(); // prettier-ignore
    const broken = new File([''], 'half.png');
    Object.assign(broken, { slice: () => ({ arrayBuffer: () => Promise.resolve(head(SIZE, 10_000).buffer) }) });
    await look(broken, page);
    expect(await screen.findByText(/^half\.png is damaged and cannot be read\./)).toBeTruthy();
    expect(tracedOf(page)).not.toBeNull();
  });

  it('lies faintly under its outlines, as large as they are, where the server keeps it', async () => {
    const page = await show();
    globalThis.fetch = (() => Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve({ id: idOf('badges'), name: 'badges.png', width: 800, height: 600, darkness: 0.1 }) })) as never; // prettier-ignore
    await look(scan(), page);
    await waitFor(() => expect(tracedOf(page)?.pictureId).toBe(idOf('badges')), { timeout: 20_000 });
    const under = page.container.querySelector('image')!;
    const of = (name: string): string => under.getAttribute(name)!;
    expect([of('href'), Number(of('width')), Number(of('height'))]).toEqual([`/api/pictures/${idOf('badges')}`, 80, expect.closeTo(60, 9)]); // prettier-ignore
    // Upright: the picture’s own y runs down.
    expect(of('transform')).toBe(`matrix(1 0 0 -1 0 ${of('height')})`);
  });

  it('from the drawing that it was printed from is found by the server, anew by other rules, and may be stopped', async () => {
    const page = await show();
    const outline = { closed: true, vertices: [{ x: 10, y: 10 }, { x: 40, y: 10 }, { x: 40, y: 30 }] }; // prettier-ignore
    const drawn: TracedSheet = { name: 'badges.pdf', width: 297, height: 210, dot: 0.01, edge: 0, uncertainty: 0.003, shapes: [{ outline, holes: [], role: 'piece', look: null, at: { x: 25, y: 20 } }] }; // prettier-ignore
    const asked: { path: string; body: { base64: boolean; choices: { smallest: number } } }[] = [];
    let answer = (): Promise<unknown> => Promise.resolve({ ok: true, status: 200, headers: new Headers(), json: () => Promise.resolve({ sheet: drawn, notes: ['Text is left out.'] }) }); // prettier-ignore
    globalThis.fetch = ((path: string, init: { body: string; signal: AbortSignal }) => {
      asked.push({ path, body: JSON.parse(init.body) as (typeof asked)[0]['body'] });
      return new Promise((done, gone) => {
        init.signal.addEventListener('abort', () => gone(new Error('given up')));
        void answer().then(done);
      });
    }) as never;
    const pdf = Object.assign(new File(['x'], 'badges.pdf'), { arrayBuffer: () => Promise.resolve(new Uint8Array([37, 80]).buffer) }); // prettier-ignore
    await look(pdf, page);
    await waitFor(() => expect(tracedOf(page)?.name).toBe('badges.pdf'));
    expect(page.container.textContent).toContain('badges.pdf: 297.0 × 210.0 mm, A4; looked through in');
    expect(screen.getByText('Text is left out.')).toBeTruthy();
    expect(screen.queryByLabelText('Dots to the inch')).toBeNull();
    answer = () => new Promise(() => undefined);
    await enter(screen.getByLabelText('Smallest piece'), '15');
    await waitFor(() => expect(asked.map((a) => [a.path, a.body.base64, a.body.choices.smallest])).toEqual([['/api/sheets', true, 5], ['/api/sheets', true, 15]])); // prettier-ignore
    await press('Stop');
    await waitFor(() => expect(screen.queryByRole('status')).toBeNull());
    expect(tracedOf(page)?.name).toBe('badges.pdf');
  });

  it('is stopped while it is unpacked, and nothing of it stays', async () => {
    const page = await show();
    Object.assign(globalThis, { createImageBitmap: () => new Promise(() => undefined) });
    await look(scan(), page, false);
    await press('Stop');
    await waitFor(() => expect(screen.queryByRole('progressbar')).toBeNull());
    expect([tracedOf(page), screen.queryByLabelText('Dots to the inch')]).toEqual([null, null]);
  });

  it('is not there to trace before one was opened', async () => {
    const service = await serviceOf('trace.worker.ts');
    await service.open(new File([], 'x'), 'x', () => undefined).catch(() => undefined);
    expect(service.trace(0.1, { smallest: 1, smooth: 0.1, neck: 1, apart: false }, () => undefined)).toBeNull();
  });
});

describe('a sheet laid out here', () => {
  it('says how far print must reach beyond the cut, and what the cut runs outside by', async () => {
    const page = await show();
    const { bleed, inset } = page.batch().setup.held.choice as { bleed: number; inset: number };
    const { kerf } = DOCUMENTS.sheet.machine.profile;
    // Half the kerf burns away beyond the line; what is cut inside the print takes from it.
    expect(readingOf('cut runs outside by')).toMatch(new RegExp(`^${Math.max(0, kerf / 2 - inset).toFixed(2)}mm`));
    expect(readingOf('least bleed')).toContain(`${bleed} mm is printed`);
    await pick('Sheet', /A3/);
    expect(page.batch().setup.held.choice).toMatchObject({ paper: 'A3' });
    fireEvent.change(screen.getByLabelText('Ground printed behind the pieces'), { target: { value: '#123456' } });
    await waitFor(() => expect(page.batch().setup.held.choice).toMatchObject({ ground: '#123456' }));
  });

  it('of a size of its own is asked for both', async () => {
    const page = await show();
    await pick('Sheet', /own/);
    await enter(screen.getByLabelText('Width'), '320');
    expect(page.batch().setup.held.choice).toMatchObject({ paper: 'own', own: { width: 320 } });
    expect(screen.queryByRole('radio', { name: 'upright' })).toBeNull();
  });
});
