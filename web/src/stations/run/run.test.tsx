import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BatchDocument } from '@bistre/contract';
import type { BatchInput } from '@bistre/core';
import { loadedPieces, testBatch } from '../../../../core/src/test-batch';
import { AskHost } from '../../parts/ask';
import { aimed } from '../../testing/aim';
import { documentOf, idOf } from '../../testing/batch';
import { enter, pick, press, readingOf, tick } from '../../testing/pick';
import { pretend } from '../../testing/server';
import { showStation } from '../../testing/station';

type Piece = BatchInput['pieces'][number];
const piece = (slot: number, part: Partial<Piece> = {}): Piece => ({ ...loadedPieces([slot])[0]!, ...part });
const batchOf = (change: Partial<BatchInput>): BatchDocument => documentOf(testBatch(change));
const show = (change: Partial<BatchInput> = {}, known = {}) => showStation(batchOf(change), 'run', known);
const calls = (page: Awaited<ReturnType<typeof show>>) => page.acts.map((a) => [a.path.split('/').at(-1), (a.input as { body?: unknown }).body]); // prettier-ignore

afterEach(() => sessionStorage.clear());

describe('judging', () => {
  const loaded = { pieces: [2, 1, 3].map((slot) => piece(slot)) };

  const desk = () => screen.getByRole('region', { name: 'Next at the desk' });

  it('names the slot and the name that is next, and takes it as done with what was typed', async () => {
    const page = await show(loaded);
    expect(desk().textContent).toContain('Slot 1 KESTREL · LANE 1');
    expect(desk().textContent).toContain('piece 1; 0 of 3 judged');
    await enter(within(desk()).getByLabelText('off to the right'), '0,25');
    await press('Done', within(desk()));
    // What was not typed is nought, not nothing: a place has two numbers.
    expect(calls(page)).toEqual([
      ['pieces', { pieces: [{ slot: 1, state: 'done', cause: null, dx: 0.25, dy: 0, yaw: 0 }] }],
    ]);
  });

  it('goes from an offset to the verdict by Enter, and by one key without either; no press counts twice', async () => {
    const page = await show(loaded);
    const away = within(desk()).getByLabelText('off away from you');
    await enter(away, '-0.1');
    fireEvent.keyDown(away, { key: 'Enter' });
    expect(document.activeElement).toBe(within(desk()).getByRole('button', { name: 'Done' }));
    fireEvent.keyDown(window, { key: 'd' });
    fireEvent.keyDown(window, { key: 'd' });
    fireEvent.keyDown(window, { key: 'd', repeat: true });
    expect(calls(page)).toEqual([['pieces', { pieces: [{ slot: 1, state: 'done', cause: null, dx: 0, dy: -0.1, yaw: 0 }] }]]); // prettier-ignore
  });

  it('scraps only with a cause: one touch or its number, or in one’s own words', async () => {
    const page = await show(loaded);
    fireEvent.keyDown(window, { key: 's' });
    const causes = screen.getByRole('group', { name: 'Why it is scrapped' });
    expect(within(causes).getAllByRole('button').map((b) => b.textContent)).toEqual(['1 off position', '2 wrong text', '3 mark too faint', '4 mark too deep', '5 blank flawed', '6 moved while burning', 'Not scrapped']); // prettier-ignore
    fireEvent.keyDown(window, { key: 'Escape' });
    expect(screen.queryByRole('group', { name: 'Why it is scrapped' })).toBeNull();
    await press('Scrap');
    fireEvent.keyDown(window, { key: '3' });
    expect(calls(page)).toEqual([['pieces', { pieces: [{ slot: 1, state: 'scrap', cause: 'mark too faint' }] }]]);
    await new Promise((done) => setTimeout(done, 260));
    await press('Scrap');
    await userEvent.type(screen.getByLabelText('in words'), ' slipped off the pins {Enter}');
    expect(calls(page)[1]).toEqual(['pieces', { pieces: [{ slot: 1, state: 'scrap', cause: 'slipped off the pins' }] }]); // prettier-ignore
  });

  it('gives a name back to the roster, and asks once before all that are left are done', async () => {
    const page = await show(loaded);
    render(<AskHost />);
    await press('Again');
    await new Promise((done) => setTimeout(done, 260));
    await press('all 3 are done');
    expect(screen.getByText('Slots 1, 2, 3 are taken as good pieces.')).toBeTruthy();
    expect(calls(page)).toHaveLength(1);
    await press('All 3 are done');
    await waitFor(() => expect(calls(page)).toHaveLength(2));
    expect(calls(page)).toEqual([
      ['pieces', { pieces: [{ slot: 1, state: 'again', cause: null }] }],
      ['pieces', { pieces: [1, 2, 3].map((slot) => ({ slot, state: 'done', cause: null })) }],
    ]);
  });

  it('takes the places that the simulated machine measured', async () => {
    sessionStorage.setItem('bistre.sim', 'yes');
    const page = await show(loaded);
    render(<AskHost />);
    const at = (slot: number, dx: number, worst: number) => ({
      ...{ slot, length: 60, width: 25, seatX: 0, seatY: 0, seatYaw: 0, strokes: [], margin: null },
      ...{ dx, dy: -dx / 2, yaw: 0.001, worst },
    });
    pretend(() => ({
      ...{ stray: 0, landed: [], lines: 3, predicted: 0.4, tolerance: 0.6 },
      pieces: [at(1, 0.2, 0.31), at(2, 0.6, 0.7), at(3, -0.1, 0.2)],
    }));
    await press(/^Run the file on the simulated machine/);
    await screen.findByText(/^0\.2\d mm$/);
    expect(screen.getByLabelText<HTMLInputElement>('off to the right').value).toBe('0.2');
    // 0.6 to the right and 0.3 towards you is 0.67 mm, of 0.60: that one is judged by itself.
    await press('the 2 inside tolerance are done');
    await press('All 2 are done');
    await waitFor(() => expect(calls(page).at(-1)).toEqual([
      'pieces',
      {
        pieces: [
          { slot: 1, state: 'done', cause: null, dx: 0.2, dy: -0.1, yaw: 0.001 },
          { slot: 3, state: 'done', cause: null, dx: -0.1, dy: 0.05, yaw: 0.001 },
        ],
      },
    ]));
  }); // prettier-ignore

  it('takes the last verdict back in one step, and leaves what is not judged behind a link', async () => {
    const page = await showStation({ ...batchOf(loaded), canUndo: { event: 7, summary: 'Piece 4 (load 2, slot 4) done', by: 'Odile', at: '2026-11-20T08:00:00.000Z' } }, 'run'); // prettier-ignore
    expect(within(desk()).getByRole('button', { name: 'take back: Piece 4 (load 2, slot 4) done' })).toBeTruthy();
    expect([screen.queryByRole('region', { name: 'In the zones beside lettering' }), screen.queryByText('Papers:')]).toEqual([null, null]); // prettier-ignore
    await press('files and papers');
    await press('names, lettering and what lies in the zones');
    expect([screen.getByText('Papers:'), screen.getByText('change the lettering')]).toHaveLength(2);
    expect(page.acts).toEqual([]);
  });

  it('tells done, scrapped and next apart by form in the drawing', async () => {
    const page = await show({ pieces: [piece(1, { state: 'done' }), piece(2, { state: 'scrap', cause: 'mirrored' }), piece(3), piece(4)] }); // prettier-ignore
    const sign = (state: string) => [...page.container.querySelectorAll(`[data-sign=${state}]`)].map((g) => [g.getAttribute('aria-label'), g.querySelector('text')!.textContent, [...g.children].map((c) => c.tagName).join()]); // prettier-ignore
    expect([sign('done'), sign('scrap'), sign('next')]).toEqual([
      [['slot 1 done', '✓', 'rect,text']],
      [['slot 2 scrapped', '✕', 'path,rect,text']],
      [['slot 3 next', '▶', 'polygon,rect,text']],
    ]);
  });
});

describe('a piece out of tolerance', () => {
  it('passes only with a reason', async () => {
    const page = await show({ pieces: [piece(1)] });
    const desk = screen.getByRole('region', { name: 'Next at the desk' });
    const done = screen.getByRole<HTMLButtonElement>('button', { name: 'Done' });
    await enter(within(desk).getByLabelText('off to the right'), '0.6');
    // As far as is allowed is inside.
    expect([done.disabled, screen.queryByText(/Out of tolerance/)]).toEqual([false, null]);
    await enter(within(desk).getByLabelText('off away from you'), '0.25');
    // √(0.6² + 0.25²)
    expect(screen.getByText(/^Out of tolerance: 0\.65 mm, 0\.60 are allowed/)).toBeTruthy();
    expect(done.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText('why it passes'), ' the edge hides it ');
    await press('Done');
    expect(calls(page)).toEqual([['pieces', { pieces: [{ slot: 1, state: 'done', cause: 'the edge hides it', dx: 0.6, dy: 0.25, yaw: 0 }] }]]); // prettier-ignore
  });

  it('and one of a load whose marks disagree: the doubt stands at the desk, and a reason is asked for', async () => {
    const marks = aimed(testBatch({ pieces: [piece(1), piece(2)] }));
    // The third mark was read 2 mm off.
    const readings = marks.readings.map((r) => (r.mark === 3 ? { ...r, x: r.x + 2 } : r));
    const page = await showStation(documentOf({ ...marks, readings }), 'run');
    const desk = screen.getByRole('region', { name: 'Next at the desk' });
    expect(within(desk).getByRole('list', { name: 'Held back' }).textContent).toMatch(
      /The marks do not agree with each other/,
    );
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Done' }).disabled).toBe(true);
    fireEvent.keyDown(window, { key: 'd' });
    expect([page.acts, screen.queryByRole('button', { name: /^all/ })]).toEqual([[], null]);
    await userEvent.type(screen.getByLabelText('why it passes'), 'measured with the square');
    await press('Done');
    expect(calls(page)).toEqual([['pieces', { pieces: [{ slot: 1, state: 'done', cause: 'measured with the square' }] }]]); // prettier-ignore
  });

  it('that is the first is approved only when it is said twice', async () => {
    const page = await show({ firstApproved: false, pieces: [piece(1, { state: 'done', cause: 'the edge hides it', dx: 0.7, dy: 0 })] }); // prettier-ignore
    render(<AskHost />);
    expect(readingOf('done')).toMatch(/1 with a reason/);
    await press('Approve the first piece');
    expect(screen.getByText(/Piece 1 was passed because: the edge hides it/)).toBeTruthy();
    await press('Leave it');
    expect(calls(page)).toEqual([]);
    await press('Approve the first piece');
    await press('Approve it all the same');
    await waitFor(() => expect(calls(page)).toEqual([['approve', { approved: true, sure: true }]]));
  });
});

describe('the pieces so far', () => {
  const done = [
    [0, -1],
    [2, 0],
    [4, 1],
  ].map(([dx, dy], i) => piece(i + 1, { state: 'done', dx: dx!, dy: dy!, yaw: 0 }));

  it('have the capability of the handbook’s own example', async () => {
    // [NIST/SEMATECH e-Handbook 6.1.6: USL 20, LSL 8, mean 16, s 2 → Cp 1.0, Cpk 0.667], counted from the middle, 14.
    await show({ pieces: done, tolerance: 6 });
    expect(readingOf('mean of 3, x and y')).toMatch(/^2\.00, 0\.00mm/);
    expect(readingOf('spread, x and y')).toMatch(/^2\.00, 1\.00mmexpected 0\.\d\d$/);
    expect(readingOf('capability Cpk')).toMatch(/^0\.67.*Cp 1\.00$/);
    expect(readingOf('capability Cpk')).toContain('of 3 only');
  });

  const alike = (dx: number, n = 8) => Array.from({ length: n }, (_, i) => piece(i + 1, { state: 'done', dx: dx + 0.02 * (i % 3), dy: i % 2 ? 0.05 : -0.05, yaw: 0 })); // prettier-ignore

  it('move the burn the other way where what they have in common is beyond their noise', async () => {
    const page = await show({ pieces: alike(0.6) });
    expect(screen.getByText(/^Move the burn 0\.\d\d mm to the left\. Noise alone looks so/)).toBeTruthy();
    expect(screen.getByRole('img', { name: /Where the art of 8 measured lies: middle 0\.62 right, 0\.00 away/ })).toBeTruthy(); // prettier-ignore
    await press('Move the burn');
    const [[path, { shift, pieces: from }]] = calls(page) as [[string, { shift: { x: number; y: number }; pieces: number }]]; // prettier-ignore
    expect([path, from]).toEqual(['corrections', 8]);
    // A little is kept back; nothing away from the operator, where they lie about the middle.
    expect(shift.x).toBeLessThan(-0.5);
    expect(shift.x).toBeGreaterThan(-0.62);
    expect(Math.abs(shift.y)).toBeLessThan(0.01);
  });

  it('leave it alone where that may be noise, and say how much they scatter', async () => {
    const page = await show({ pieces: alike(0.02) });
    expect(screen.getByText(/^8 pieces off by 0\.04 mm to the right on average: .*may be noise\. Leave it\./)).toBeTruthy(); // prettier-ignore
    expect(screen.queryByRole('button', { name: 'Move the burn' })).toBeNull();
    expect(page.acts).toEqual([]);
  });

  it('while a load is on the burn stays where it is, and why is said', async () => {
    await show({ pieces: [...alike(0.6), { ...piece(9), load: 2 }] });
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Move the burn' }).disabled).toBe(true);
    expect(screen.getByText(/^Judge the load that is on first/)).toBeTruthy();
  });

  it('a move that holds is said with who and from what, and is counted off what was measured before it', async () => {
    const base = testBatch();
    const correction = { id: idOf('c'), at: '2026-11-20T09:00:00Z', by: 'Odile', laying: null, load: 1, shift: { x: -0.5, y: 0 }, turn: 0, size: 0, about: { x: 0, y: 0 }, pieces: 8, chance: 0.001 }; // prettier-ignore
    await show({
      pieces: alike(0.6),
      setup: { ...base.setup, place: { ...base.setup.place, corrections: [correction] } },
    });
    const moves = screen.getByRole('list', { name: 'Moves of the burn' });
    expect(moves.textContent).toMatch(/^Moved 0\.50 mm to the left after load 1, by 8 pieces measured; Odile,/);
    expect(screen.getByText(/off by 0\.12 mm to the right on average/)).toBeTruthy();
  });

  it('are counted: done, scrapped, the blanks that are left', async () => {
    const page = await show({
      pieces: [...done, piece(4, { state: 'scrap', cause: 'mirrored' })],
      spares: 2,
    });
    expect(readingOf('done')).toBe('3of 24');
    expect(readingOf('scrapped')).toBe('175 % passed');
    expect(readingOf('spare blanks')).toBe('1');
    expect(page.shown.reckoning.run.openLoad).toBeNull();
  });
});

describe('the first piece', () => {
  it('holds the rest until it is approved', async () => {
    const page = await show({ firstApproved: false, pieces: [piece(1, { state: 'done' })] });
    expect(screen.queryByText(/^Take the next load/)).toBeNull();
    await press('Approve the first piece');
    await press('Make another first piece');
    expect(calls(page)).toEqual([['approve', { approved: true }], ['loads', undefined]]); // prettier-ignore
  });
  it('is taken alone before that', async () => {
    const page = await show({ firstApproved: false });
    expect(screen.getByText('the rest is held until it is approved')).toBeTruthy();
    await press(page.shown.load.take);
    expect(calls(page)).toEqual([['loads', undefined]]);
  });
});

describe('the roster', () => {
  const bring = async (change: Partial<BatchInput> = { roster: [] }) => {
    const page = await show(change);
    await press(/^Bring in the roster|^bring in another/);
    return { page, dialog: await screen.findByRole('dialog', { name: 'Bring in the roster' }) };
  };
  const paste = (text: string) => fireEvent.change(screen.getByLabelText('or paste the rows here'), { target: { value: text } }); // prettier-ignore

  const cellsOf = (dialog: HTMLElement): string[] => within(dialog).getAllByRole<HTMLInputElement>('textbox', { name: / of piece / }).map((c) => c.value); // prettier-ignore
  const brought = async (page: Awaited<ReturnType<typeof show>>) => {
    await press(/^Use th/);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    return calls(page)[0]![1] as { columns: string[]; rows: Record<string, string>[] };
  };

  it('whose first row is not what it seems is read as the operator says', async () => {
    const { page, dialog } = await bring();
    paste('hull,oar\nKESTREL,1');
    // None of these words is a known heading.
    await waitFor(() => expect(dialog.textContent).toContain('2 rows, 2 columns'));
    const headings = within(dialog).getByRole('checkbox', { name: 'the first row is headings' });
    expect(headings.getAttribute('data-state')).toBe('unchecked');
    await tick('the first row is headings');
    await waitFor(() => expect(dialog.textContent).toContain('1 row, 2 columns'));
    // The lettering takes name and seat: the boat is the name, the oar the seat, until somebody says otherwise.
    expect(dialog.textContent).toContain('Which stands for which?');
    await pick('for “seat”', 'none');
    expect(await brought(page)).toEqual({ columns: ['name', 'oar'], rows: [{ name: 'KESTREL', oar: '1' }] });
  });

  it('with a column a customer is laid out into pieces', async () => {
    const { page, dialog } = await bring();
    paste('Team A\tTeam B\nANNA\tBEN\nCLEO\t');
    await waitFor(() => expect(dialog.textContent).toContain('3 rows'));
    await tick('the first row is headings');
    await tick('each column is one customer’s pieces');
    await waitFor(() => expect(cellsOf(dialog)).toEqual(['Team A', 'ANNA', 'Team A', 'CLEO', 'Team B', 'BEN']));
    const { rows } = await brought(page);
    expect(rows.map((r) => r['name'])).toEqual(['ANNA', 'CLEO', 'BEN']);
  });

  it('with a wrong cell is put right where it stands, before it is kept and afterwards', async () => {
    const { page, dialog } = await bring();
    paste('name,seat\nKESTRAL,1\nKNOT,2');
    const cell = await within(dialog).findByRole('textbox', { name: 'name of piece 1' });
    fireEvent.change(cell, { target: { value: 'KESTREL' } });
    expect((await brought(page)).rows).toEqual([{ name: 'KESTREL', seat: '1' }, { name: 'KNOT', seat: '2' }]); // prettier-ignore
  });

  it('that is there already is put right cell by cell, page by page', async () => {
    const roster = Array.from({ length: 30 }, (_, i) => ({ name: `BOAT ${i + 1}`, seat: String(i) }));
    const page = await show({ roster, quantity: 30 });
    await press('put names right');
    const dialog = await screen.findByRole('dialog', { name: 'The roster' });
    const keep = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Keep it so' });
    expect(keep.disabled).toBe(true);
    await press('after', within(dialog));
    expect(within(dialog).getByText('pieces 26 to 30 of 30')).toBeTruthy();
    fireEvent.change(within(dialog).getByRole('textbox', { name: 'name of piece 28' }), { target: { value: 'PUFFIN' } }); // prettier-ignore
    await press('before', within(dialog));
    expect(cellsOf(dialog)).toHaveLength(50);
    await press('Keep it so', within(dialog));
    await waitFor(() => expect(calls(page)).toHaveLength(1));
    const { rows } = calls(page)[0]![1] as { rows: object[] };
    expect(rows).toEqual(roster.map((r, i) => (i === 27 ? { ...r, name: 'PUFFIN' } : r)));
  });

  it('is read as it is pasted, shown, and kept only when it is used', async () => {
    const { page, dialog } = await bring();
    const use = within(dialog).getByRole<HTMLButtonElement>('button', { name: /^Use these/ });
    expect(use.disabled).toBe(true);
    paste('name\tseat\nKESTREL\t1\n"PUFFIN, small"\t2');
    await waitFor(() => expect(use.textContent).toBe('Use these 2 rows'));
    expect(dialog.textContent).toContain('The batch has 24 pieces: 22 more rows are missing, pieces 3 to 24 would have none.'); // prettier-ignore
    expect(cellsOf(dialog)).toEqual(['KESTREL', '1', 'PUFFIN, small', '2']);
    expect(page.acts).toEqual([]);
    await press(/^Use th/);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(calls(page)).toEqual([
      ['roster', { columns: ['name', 'seat'], rows: [{ name: 'KESTREL', seat: '1' }, { name: 'PUFFIN, small', seat: '2' }] }],
    ]); // prettier-ignore
    expect(sessionStorage.getItem(`bistre.roster.${idOf('x')}`)).toBeNull();
  });

  it('that is left half pasted is there when it is opened again', async () => {
    const { dialog } = await bring();
    paste('name,lane\nKESTREL,1');
    await within(dialog).findByText('1 row');
    await press('Leave it', within(dialog));
    await press('Bring in the roster');
    expect(screen.getByLabelText<HTMLTextAreaElement>('or paste the rows here').value).toBe('name,lane\nKESTREL,1');
  });

  it('of a file is read in the letters it was written in', async () => {
    const { dialog } = await bring();
    const file = (bytes: number[], name: string, size?: number) => {
      const made = new File([new Uint8Array(bytes)], name);
      Object.assign(made, { arrayBuffer: () => Promise.resolve(new Uint8Array(bytes).buffer) });
      if (size) Object.defineProperty(made, 'size', { value: size });
      return made;
    };
    const take = (f: File) => fireEvent.change(within(dialog).getByLabelText('CSV file'), { target: { files: [f] } });
    take(file([], 'long.csv', 9_500_000));
    expect(await within(dialog).findByText('long.csv is 9.5 MB; at most 8 MB are read.')).toBeTruthy();
    // MÖWE in Windows-1252: Ö is one byte, D6 [WHATWG Encoding Standard, index windows-1252].
    take(file([...'name\nM'].map((c) => c.charCodeAt(0)).concat(0xd6, 0x57, 0x45, 0x0a), 'birds.csv'));
    expect(await within(dialog).findByDisplayValue('MÖWE')).toBeTruthy();
    expect(dialog.textContent).toContain('Windows-1252');
  });

  it('with a row too short is refused by its line, and cannot be used', async () => {
    const { dialog } = await bring();
    paste('name,lane\n"KESTREL,1\nPUFFIN,2');
    const found = await within(dialog).findByText(/Wrong:/);
    expect(found.parentElement!.textContent).toMatch(/line \d|row \d/i);
    expect(within(dialog).getByRole<HTMLButtonElement>('button', { name: /^Use these/ }).disabled).toBe(true);
  });
});

describe('the lettering', () => {
  const known = {
    alphabets: [
      { id: 'b612-bold', name: 'B612 Bold', kind: 'outline', licence: '' },
      { id: 'readability', name: 'Readability', kind: 'stroke', licence: '' },
    ],
  };
  it('says of each line its column, alphabet and height, and the height it can be set in', async () => {
    const page = await show({}, known);
    const lines = () => page.batch().setup.lettering.lines;
    // 6 mm and 3 mm fit a zone 22 mm high with nothing to spare away.
    expect(screen.queryByText(/to fit$/)).toBeNull();
    await pick('Alphabet', 'Readability');
    expect(lines()[0]).toEqual({ column: 'name', alphabet: 'readability', capHeight: 6 });
    const heights = screen.getAllByRole('textbox').filter((e) => (e as HTMLInputElement).value === '3');
    await enter(heights[0]!, '4,5');
    expect(lines().map((l) => l.capHeight)).toEqual([6, 4.5]);
    await press('add a line');
    expect(lines()[2]).toEqual({ column: 'name', alphabet: 'b612-bold', capHeight: 4 });
    await press('Take out line 1');
    expect(lines().map((l) => l.column)).toEqual(['seat', 'name']);
    // Taller than the zone allows: what comes out is said, and only then.
    await enter(screen.getAllByRole('textbox').find((e) => (e as HTMLInputElement).value === '4,5' || (e as HTMLInputElement).value === '4.5')!, '30'); // prettier-ignore
    expect(screen.getAllByText(/^set [\d.]+ mm tall, to fit$/).length).toBeGreaterThan(0);
    expect(page.updates.every((u) => u.section === 'lettering')).toBe(true);
  });

  it('of a batch begun stands behind a link, its heights still said', async () => {
    await show({ pieces: [piece(1, { state: 'done' })] }, known);
    expect(screen.getByText(/24 names in name 6\.00 mm, seat 3\.00 mm\./)).toBeTruthy();
    expect(screen.queryByText('add a line')).toBeNull();
    fireEvent.click(screen.getByText('change the lettering'));
    expect(screen.getByText('add a line')).toBeTruthy();
  });
});
