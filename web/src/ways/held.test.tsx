import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { BatchDocument } from '@bistre/contract';
import { polyline, type BatchInput, type LongShape, type StationId } from '@bistre/core';
import { loadedPieces } from '../../../core/src/test-batch';
import { drawnOn } from '../../../core/src/test-drawn';
import { inWay } from '../../../core/src/test-held';
import { EXAMPLES } from '../../../core/src/test-ways';
import { aimed } from '../testing/aim';
import { documentOf } from '../testing/batch';
import { enter, press, readingOf } from '../testing/pick';
import { pretend } from '../testing/server';
import { showStation } from '../testing/station';
import { calls } from '../testing/page';

const show = (input: BatchInput, station: StationId = 'hold', part: Partial<BatchDocument> = {}) => showStation({ ...documentOf(input), ...part }, station); // prettier-ignore
const take = (field: HTMLElement, value: string): void => {
  fireEvent.change(field, { target: { value } });
  fireEvent.keyDown(field, { key: 'Enter' });
};

beforeEach(() => sessionStorage.clear());

describe('pegs', () => {
  it('say how well an eye lays a blank, and take what the card showed', async () => {
    const page = await show(EXAMPLES.pegs);
    expect(readingOf('outline, at 95 %')).toMatch(/assumed: try it in card$/);
    take(screen.getByLabelText('widest gap, then Enter'), '0,4');
    expect(page.batch().setup.held.found).toMatchObject({ card: 0.4 });
    page.unmount();
    await show(inWay(EXAMPLES.pegs, 'pegs', {}, { card: 0.4 }));
    expect(readingOf('outline, at 95 %')).toMatch(/from the card$/);
    expect(screen.getByText('0.40 mm')).toBeTruthy();
  });

  it('read the card off the simulated bench too', async () => {
    const page = await show(EXAMPLES.pegs);
    const server = pretend(() => ({ value: 0.31 }));
    fireEvent.click(screen.getAllByText('use the simulated bench')[0]!);
    await press('Read the simulated bench');
    await waitFor(() => expect(page.batch().setup.held.found).toMatchObject({ card: 0.31 }));
    expect(server.writes.map((w) => w.body)).toEqual([{ what: 'card', time: 0 }]);
  });

  it('have a contact moved to where the edge is touched, and left to Bistre again', async () => {
    const page = await show(EXAMPLES.pegs);
    const contacts = () => (page.batch().setup.held.choice as { contacts: readonly number[] | null }).contacts;
    fireEvent.click(screen.getByText('move contact 1'));
    expect(screen.getByText('Touch the edge where contact 1 shall bear.')).toBeTruthy();
    const svg = page.container.querySelector('svg[role="img"]')!;
    fireEvent.click(svg.querySelector('.cursor-crosshair') ?? svg, { clientX: 200, clientY: 200 });
    await waitFor(() => expect(contacts()).not.toBeNull());
    fireEvent.click(screen.getByText('let Bistre choose'));
    await waitFor(() => expect(contacts()).toBeNull());
  });
});

describe('a locator board', () => {
  it('is as large as the frame and its margin, gridded over the travel', async () => {
    await show(EXAMPLES.locator);
    // Travel of 400 either way, a line every 10 mm from 10 to 390.
    expect(readingOf('grid')).toMatch(/^39 × 39lines/);
    expect(readingOf('stops')).toMatch(/^3of 4 feet/);
    expect(readingOf('pieces a load')).toMatch(/^65in 5 × 13.*70 × 30 mm each; 2 loads$/);
    expect(readingOf('return, at 95 %')).toMatch(/assumed$/);
  });

  it('comes back as well as its repeated dots say: each try is kept, the last can be taken out', async () => {
    const page = await show(EXAMPLES.locator);
    take(screen.getByLabelText('distance, then Enter'), '0.2');
    take(screen.getByLabelText('distance, then Enter'), '0.3');
    expect(page.batch().setup.held.found).toMatchObject({ back: [0.2, 0.3] });
    fireEvent.click(screen.getByText('take the last out'));
    expect(page.batch().setup.held.found).toMatchObject({ back: [0.2] });
    page.unmount();
    await show(inWay(EXAMPLES.locator, 'locator', {}, { back: [0.2, 0.3, 0.25] }));
    expect(readingOf('return, at 95 %')).toMatch(/from repeated dots$/);
  });
});

describe('marks that a piece carries', () => {
  it('are two at least, the farther apart the better', async () => {
    const page = await show(EXAMPLES.marked);
    // From 4 to 56 at the same height.
    expect(readingOf('farthest apart')).toMatch(/^52\.0mm/);
    expect(readingOf('marks')).toMatch(/^2: no check/);
    await enter(screen.getByLabelText('Mark 2, x'), '50');
    const marks = () => (page.batch().setup.held.choice as { own: { marks: readonly { x: number; y: number }[] } }).own.marks; // prettier-ignore
    expect(marks()[1]).toMatchObject({ x: 50, y: 12 });
    await press('one more mark');
    await waitFor(() => expect(marks()[2]).toMatchObject({ x: 50, y: 10 }));
    fireEvent.click(screen.getByText('from a table'));
    fireEvent.change(screen.getByLabelText('A line each: x, y, form, size'), { target: { value: '5; 5; hole; 6\n55; 20; cross' } }); // prettier-ignore
    await press('Take the table');
    await waitFor(() => expect(marks().map((m) => [m.x, m.y])).toEqual([[5, 5], [55, 20]])); // prettier-ignore
  });
});

describe('a sheet on both faces', () => {
  const input = EXAMPLES.panel;
  const loaded = { ...input, pieces: loadedPieces([1, 2, 3]) };
  it('is taken once it is saved and has names', async () => {
    const page = await show(input, 'place');
    const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Take a sheet: 24 pieces' });
    expect([button.disabled, page.container.textContent!.includes('save the sheet at the Hold station first')]).toEqual([true, true]); // prettier-ignore
  });
  it('has side one burned first, unaimed, with the marks of side two', async () => {
    const page = await show(loaded, 'place');
    expect(page.container.textContent).toContain('Sheet 1: 3 pieces, side one up.');
    expect(readingOf('cut by this file')).toBe('3marks');
    await press('Side one is burned, the sheet is turned over');
    expect(calls(page)).toEqual([['ticks/:step', { params: { step: 'place.turned' }, body: { done: true } }]]);
  });
  it('turned over is aimed at by those marks; the other side can be looked at', async () => {
    const page = await show({ ...loaded, ticks: ['place.turned'] }, 'place');
    expect(screen.getByLabelText('mark 1, x on the machine')).toBeTruthy();
    expect(page.shown.reckoning.face.side).toBe('back');
    expect(page.shown.other!.reckoning.face.side).toBe('front');
    fireEvent.click(screen.getByText('show side one'));
    expect(page.container.querySelector('figcaption')!.textContent).toMatch(/Side one/);
  });
  it('whose pieces turn in their own holes is not aimed at again', async () => {
    const page = await show(inWay(loaded, 'panel', { carry: 'holes' }), 'place');
    expect(page.container.textContent).toContain('Side one needs no aiming, and the sheet is not moved afterwards.');
    expect(readingOf('cut by this file')).toBe('3pieces');
    expect(screen.getByText('Side one is burned, the pieces are turned')).toBeTruthy();
  });
});

describe('work longer than the bed', () => {
  it('lies in segments that overlap nothing and leave nothing out', async () => {
    await show(EXAMPLES.long);
    const rows = screen.getAllByRole('row').slice(1).map((r) => within(r).getAllByRole('cell').map((c) => c.textContent)); // prettier-ignore
    const ends = rows.map((r) => r[1]!.split(' – ').map(Number) as [number, number]);
    expect(ends[0]![0]).toBe(0);
    expect(ends.at(-1)![1]).toBe(2000);
    for (const [i, [from]] of ends.entries()) if (i > 0) expect(from).toBe(ends[i - 1]![1]);
    // 600 of the bed’s depth less 15 at each end.
    expect(Math.max(...ends.map(([from, to]) => to - from))).toBe(570);
    expect(rows[0]![0]).toBe('1 next');
    // The line that runs all along goes through every seam once.
    expect(readingOf('seams go through')).toMatch(/^3lines/);
  });

  it('is taken, burned segment by segment, and moved on', async () => {
    const page = await show(EXAMPLES.long, 'place');
    await press('Take the work');
    expect(calls(page)).toEqual([['loads', {}]]);
    page.unmount();
    const first = await show({ ...EXAMPLES.long, pieces: loadedPieces([1]) }, 'place');
    await press('Segment 1 is burned, the work is moved on');
    expect(calls(first)).toEqual([['ticks/:step', { params: { step: 'run.segment-1' }, body: { done: true } }]]);
    first.unmount();
    const second = await show({ ...EXAMPLES.long, pieces: loadedPieces([1]), ticks: ['run.segment-1'] }, 'place');
    expect(second.shown.reckoning.own.long!.current).toBe(2);
    expect(screen.getAllByLabelText(/^mark \d, x on the machine$/)).toHaveLength(2);
  });

  it('says what is on it and where that is changed, and how it is fed', async () => {
    const page = await show(EXAMPLES.long);
    expect(page.container.textContent).toContain('On it: a line. change what its zones carry');
    expect(screen.getByRole('link', { name: 'change what its zones carry' }).getAttribute('href')).toMatch(/\/run$/);
    fireEvent.click(screen.getByRole('radio', { name: 'left to right' }));
    await act(() => Promise.resolve());
    expect(page.batch().setup.held.choice).toMatchObject({ feed: 'x' });
    page.unmount();
    await show({ ...EXAMPLES.long, artworks: [], setup: { ...EXAMPLES.long.setup, contents: null } });
    expect(screen.getByRole('link', { name: 'put art or lettering in its zones' })).toBeTruthy();
  });

  it('cuts letters that overlap as one where that is said, and names what falls out', async () => {
    const ring = (x: number): LongShape[] => [[x, 40], [x + 10, 20]].map(([at, size]) => ({ kind: 'cut', contour: polyline([[0, 0], [1, 0], [1, 1], [0, 1]].map(([u, v]) => ({ x: at! + size! * u!, y: (100 - size!) / 2 + size! * v! })), true) })); // prettier-ignore
    const drawn = drawnOn(EXAMPLES.long, [...ring(0), ...ring(30)]);
    // A file of its own: the page keeps what a revision was read as.
    const word = { ...drawn, artworks: [{ ...drawn.artworks![0]!, revision: 2 }], setup: { ...drawn.setup, contents: drawn.setup.contents!.map((c) => ({ ...c, revision: 2 })) } as BatchInput['setup'] }; // prettier-ignore
    const page = await show(word);
    expect(await screen.findByText(/^2 cut shapes overlap into one piece/)).toBeTruthy();
    expect(screen.getByText(/^2 counters fall out as slugs: 20 × 20 mm at -15, 0 from the middle of the work;/)).toBeTruthy(); // prettier-ignore
    await press('Unite them');
    const next = page.batch().setup.contents!;
    expect(next).toMatchObject([{ kind: 'artwork', united: true }]);
    page.unmount();
    // Once they are one there is nothing left to unite; their counters still fall out.
    await show({ ...word, setup: { ...word.setup, contents: next } });
    expect(await screen.findByText(/^2 counters fall out as slugs/)).toBeTruthy();
    expect(screen.queryByText(/overlap into/)).toBeNull();
  });
});

describe('what is fixed beside the work', () => {
  it('is asked for, sized by its gauges and counted', async () => {
    const page = await show(EXAMPLES.pockets);
    fireEvent.click(screen.getByRole('button', { name: /pins, stand, tall things, axes$/ }));
    const beside = () => page.batch().setup.beside;
    fireEvent.click(screen.getByRole('checkbox', { name: /^pins hold the work down/ }));
    await waitFor(() => expect(beside().pins).not.toBeNull());
    const dots = () => screen.getAllByLabelText<HTMLInputElement>('dots, then Enter');
    take(dots()[0]!, '2');
    await waitFor(() => expect(beside().pins!.shank).toBeGreaterThan(0));
    // The second of the gauge’s shanks, by its own steps below the cell.
    expect(beside().pins!.shank!).toBeLessThan(beside().pins!.cell);
    fireEvent.click(screen.getByRole('checkbox', { name: /^a stand of slotted strips/ }));
    await waitFor(() => expect(beside().stand).toEqual({ width: 200, depth: 150, height: 25 }));
    fireEvent.click(screen.getByRole('checkbox', { name: /^pins hold the work down/ }));
    await waitFor(() => expect(beside().pins).toBeNull());
  });
  it('lies in a piece’s way only where it is: tall things are listed by place', async () => {
    const page = await show(aimed(EXAMPLES.fence));
    fireEvent.click(screen.getByRole('button', { name: /pins, stand, tall things, axes$/ }));
    await press('add one');
    await waitFor(() => expect(page.batch().setup.beside.tallThings).toEqual([{ label: 'magnet', x: 0, y: 0, radius: 8, height: 8 }])); // prettier-ignore
  });
  it('takes a burned square for the axes of the machine, asks where it cannot be one, and forgets it', async () => {
    await show(EXAMPLES.pockets);
    const machine = documentOf(EXAMPLES.pockets).machine;
    const server = pretend(({ path, body }) => (path.endsWith('/measure') ? { value: [580.5, 579.5, 820.5, 820][body['time'] as number]! } : { ...machine, ...body, version: 2 })); // prettier-ignore
    fireEvent.click(screen.getByRole('button', { name: /tall things, axes$/ }));
    expect(screen.getByText('Nobody measured them: ± 1 mm a metre is carried.')).toBeTruthy();
    const keep = screen.getByRole<HTMLButtonElement>('button', { name: /^Keep it for / });
    expect(keep.disabled).toBe(true);
    // 900 × 600: a square of 580, its diagonals √2 of it.
    for (const [label, value] of [['Along x', '580'], ['Along y', '580'], ['Front left to back right', '830'], ['Back left to front right', '820']] as const) await enter(screen.getByLabelText(label), value); // prettier-ignore
    expect(screen.getByText(/Sides and diagonals contradict each other/)).toBeTruthy();
    expect(keep.disabled).toBe(true);
    await press('use the simulated bench', within(keep.parentElement!));
    await press('Measure the simulated square');
    await waitFor(() => expect(keep.disabled).toBe(false));
    // What could not be kept stays where it was typed.
    server.plan.push({ status: 422, code: 'limits', message: 'Not so.' });
    fireEvent.click(keep);
    await waitFor(() => expect(server.writes.filter((w) => w.body['profile'])).toHaveLength(1));
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>('Along x').value).toBe('580.5'));
    fireEvent.click(keep);
    await waitFor(() => expect(server.writes.filter((w) => w.body['profile'])).toHaveLength(2));
    const { square } = server.writes.at(-1)!.body['profile'] as { square: object };
    expect(square).toMatchObject({ side: 580, along: 580.5, across: 579.5, rising: 820.5, falling: 820, rule: 0.25 });
    sessionStorage.clear();
  });
  it('says what a square showed, and goes back to the machine’s own count', async () => {
    const square = { side: 580, along: 580.29, across: 579.42, rising: 820.4, falling: 820, rule: 0.25, measuredAt: '2026-11-19T08:00:00.000Z' }; // prettier-ignore
    const input = { ...EXAMPLES.pockets, machine: { ...EXAMPLES.pockets.machine, square } };
    await show(input);
    const server = pretend(({ body }) => ({ ...documentOf(input).machine, ...body, version: 2 }));
    fireEvent.click(screen.getByRole('button', { name: /tall things, axes$/ }));
    expect(screen.getByText('x + 0.50, y − 1.00, y leaning + 0.49 mm a metre')).toBeTruthy();
    await press('forget it');
    await waitFor(() => expect(server.writes).toHaveLength(1));
    expect(server.writes[0]!.body['profile']).toMatchObject({ square: null });
  });
  it('takes the kerf of a gauge strip for the machine', async () => {
    await show(EXAMPLES.pockets);
    const server = pretend(({ body }) => ({ ...documentOf(EXAMPLES.pockets).machine, ...body, version: 2 }));
    take(screen.getByLabelText('slot, then Enter'), '4');
    await waitFor(() => expect(server.writes).toHaveLength(1));
    const { kerf, kerfMeasuredAt } = server.writes[0]!.body['profile'] as { kerf: number; kerfMeasuredAt: string };
    expect(kerf).toBeGreaterThan(0);
    expect(Date.now() - Date.parse(kerfMeasuredAt)).toBeLessThan(60_000);
  });
});
