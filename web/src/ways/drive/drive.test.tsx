import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { BatchDocument, CupRunView } from '@bistre/contract';
import type { BatchInput } from '@bistre/core';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { inWay } from '../../../../core/src/test-held';
import { loadedPieces } from '../../../../core/src/test-batch';
import { documentOf, DOCUMENTS, idOf } from '../../testing/batch';
import { calls } from '../../testing/page';
import { enter, pick, press, readingOf } from '../../testing/pick';
import { pretend } from '../../testing/server';
import { showStation } from '../../testing/station';

const input = EXAMPLES.drive;
const show = (change: (i: BatchInput) => BatchInput = (i) => i, station: 'drive' | 'run' = 'drive', known = {}) => showStation(documentOf(change(input)), station, known); // prettier-ignore
const slower = (i: BatchInput): BatchInput => ({ ...i, drive: { ...i.drive!, axisAcceleration: 90_000 } });
/** A field of a list: taken with Enter. */
const take = (label: string, value: string): void => {
  const field = screen.getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.keyDown(field, { key: 'Enter' });
};

afterEach(() => sessionStorage.clear());

describe('what the drive is told', () => {
  it('follows from its roller by hand: a cup of 92 on rollers of 20, 40 apart', async () => {
    await show();
    // 3200 steps turn a roller of 20 mm once: 3200 / (π × 20) to the mm of surface.
    expect((3200 / (Math.PI * 20)).toFixed(2)).toBe('50.93');
    expect(readingOf('y axis, steps/mm')).toMatch(/^50\.93.*type it; it was 80$/);
    expect(readingOf('travel of one turn')).toBe('62.83mm50.930 steps/mm');
    // A whole number of steps nearest to 0.1 mm: five of π × 20 / 3200.
    expect(readingOf('rows every')).toMatch(/^0\.09817mm.*5 steps; 0\.1 is 5\.09\. At 34\.4 %$/);
    // Its axis lies asin((√(56² − 20²) − √(45² − 20²)) / 130) low at the base, its crest atan(11 / 130) more.
    const low = (Math.sqrt(56 ** 2 - 400) - Math.sqrt(45 ** 2 - 400)) / 130;
    const lift = (130 * Math.sin(Math.asin(low) + Math.atan(11 / 130))).toFixed(1);
    expect(readingOf('raise the base by')).toMatch(new RegExp(`^${lift}mm`));
    expect(screen.getByRole('img', { name: /end view and side view/ }).textContent).toContain(
      `base raised by ${lift} mm`,
    );
    // asin(20 / (46 + 10)) from the vertical to each contact.
    const drawing = screen.getByRole('img', { name: 'Rollers with the blank on it, end view and side view' });
    expect(drawing.textContent).toContain('θ 20.9°, axes 40 mm apart');
    expect(drawing.textContent).toContain('130 mm long, motor left');
  });

  it('is kept as what was really typed in, and remarked on while it is another', async () => {
    const page = await show();
    await press('50.93 stands in the machine');
    expect(calls(page)).toEqual([['drive/set', { body: { what: 'number', value: 50.93 } }]]);
  });
  it.each([
    [50.93, 'typed in; back to 80 at the end'],
    [49, 'now 49: type the new number'],
  ])('%s: %s', async (numberSet, words) => {
    await show((i) => inWay(i, 'drive', {}, { numberSet }));
    expect(screen.getByText(words)).toBeTruthy();
  });

  it('is asked for again once number and acceleration were put back', async () => {
    const was = (i: BatchInput): BatchInput =>
      slower(inWay(i, 'drive', {}, { numberSet: 50.93, accelerationSet: 700 }));
    const back = ['y axis, steps/mm', 'y axis, acceleration'].map((setting, i) => ({ id: idOf(String(i + 1)), setting, was: '80', now: '1', restoredAt: '2026-11-20T10:00:00.000Z' })); // prettier-ignore
    await show((i) => ({ ...was(i), putbacks: back }));
    expect([screen.getByText('it was 80'), screen.getByText('it stands at 90000')]).toHaveLength(2);
  });
  it('asks for a slower axis where it would slip or throw, until it is set', async () => {
    const page = await show(slower);
    const wanted = Math.floor(page.shown.reckoning.own.round!.on!.throwing.recommended);
    expect(screen.getByText('it stands at 90000')).toBeTruthy();
    // What holds files back is no “Look”.
    expect(screen.getAllByText(/^The turning axis is set to 90000/)[0]!.parentElement!.textContent).toMatch(/^Wrong:/);
    await press(`${wanted} mm/s² is set`);
    expect(calls(page)).toEqual([['drive/set', { body: { what: 'acceleration', value: wanted } }]]);
  });
  it('says nothing of it where the axis is slow enough', async () => {
    await show();
    expect(screen.queryByText(/mm\/s² is set/)).toBeNull();
  });

  it('changes with the drive: another, or none', async () => {
    const page = await show(undefined, 'drive', { drives: [{ id: idOf('d'), name: 'Chuck', version: 1, spec: {} }] });
    await pick('Drive', 'Chuck');
    await pick('Drive', 'none: it lies still, in a cradle');
    expect(calls(page)).toEqual([
      ['drive', { body: { driveId: idOf('d') } }],
      ['drive', { body: { driveId: null } }],
    ]);
    fireEvent.click(screen.getByRole('radio', { name: 'left' }));
    await waitFor(() => expect(page.batch().setup.held.choice).toMatchObject({ rimFaces: 'left' }));
  });

  it('has its rollers set apart as carries the blank best, of the distances that they have', async () => {
    const apart = [{ apart: 60 }, { apart: 112 }];
    const page = await show((i) => ({ ...i, drive: { ...i.drive!, spacings: apart } as never }));
    // asin(30 / (46 + 10)) is 32°, inside the 45° beyond which it is pinched; 112 mm apart it falls through.
    expect(screen.getByText(/^Its rollers stand 40 mm apart\. 60 mm apart they carry this blank better/)).toBeTruthy();
    await pick('Rollers apart', '60 mm: best');
    expect(page.batch().setup.held.choice).toMatchObject({ spacing: 60 });
  });
  it('is drawn and reckoned as it was set for this blank', async () => {
    await show((i) => inWay({ ...i, drive: { ...i.drive!, spacings: [{ apart: 60 }] } as never }, 'drive', { spacing: 60 })); // prettier-ignore
    const drawing = screen.getByRole('img', { name: 'Rollers with the blank on it, end view and side view' });
    expect(drawing.textContent).toContain('θ 32.4°, axes 60 mm apart');
    expect(screen.queryByText(/they carry this blank better/)).toBeNull();
    expect(screen.getByText(/its rollers 60 mm apart/)).toBeTruthy();
  });
  it('asks for no distance where its rollers stand as they stand', async () => {
    await show();
    expect(screen.queryByLabelText('Rollers apart')).toBeNull();
  });

  it('keeps the contact circle at the widest until another is typed', async () => {
    const page = await show();
    const field = screen.getByLabelText<HTMLInputElement>(/^Contact circle/);
    expect(field.value).toBe('0');
    await enter(field, '0');
    expect(page.batch().setup.held.choice).toMatchObject({ contactAt: null });
    await enter(field, '12,5');
    expect(page.batch().setup.held.choice).toMatchObject({ contactAt: 12.5 });
  });
});

describe('the ring', () => {
  it('overlaps or leaves a gap, each in a field of its own', async () => {
    const page = await show();
    take('overlaps by, then Enter', '0,8');
    take('or a gap is left of, then Enter', '1.2');
    expect(calls(page)).toEqual([
      ['rings', { body: { overlap: 0.8 } }],
      ['rings', { body: { overlap: -1.2 } }],
    ]);
  });

  it('of more than a quarter turn is asked about, and may have been the other field', async () => {
    // π × 81.85 mm round where it is burned: a quarter is 64.3 mm.
    const page = await show();
    take('overlaps by, then Enter', '12');
    take('overlaps by, then Enter', '65');
    expect(screen.getByText(/65 mm is more than a quarter turn/)).toBeTruthy();
    await press('It is a gap');
    expect(screen.queryByText(/more than a quarter turn/)).toBeNull();
    take('overlaps by, then Enter', '65');
    await press('it is as I typed it');
    expect(calls(page).map((c) => (c[1] as { body: unknown }).body)).toEqual([
      { overlap: 12 },
      { overlap: -65, sure: true },
      { overlap: 65, sure: true },
    ]);
  });

  it('that is far off asks first whether the number stands in the machine', async () => {
    // A twentieth of 257.1 mm is 12.9 mm: no roller is so far from its own diameter.
    const page = await show();
    take('overlaps by, then Enter', '13');
    expect(screen.getByText(/13 mm of 257 is more than any drive is off by/).textContent).toMatch(/Does 50\.93 really stand in the machine\?/); // prettier-ignore
    await press('this one is let go');
    expect(screen.queryByText(/more than any drive/)).toBeNull();
    take('overlaps by, then Enter', '13');
    await press('it is as I typed it');
    expect(calls(page)).toEqual([['rings', { body: { overlap: 13, sure: true } }]]);
  });

  it('of a mug whose handle lets it turn a part of the way is measured along its line', async () => {
    const page = await show((i) => {
      const shape = { ...i.blank.shape, profile: [{ at: 0, diameter: 84 }, { at: 90, diameter: 84 }], feature: { kind: 'handle', from: 15, to: 75, reach: 40, mass: 0.02 } } as never; // prettier-ignore
      const mug = { ...i, machine: { ...i.machine, bedLowest: 400 }, drive: { ...i.drive!, height: 120 }, blank: { ...i.blank, shape } }; // prettier-ignore
      return inWay(mug, 'drive', { overhang: 200, zeroAt: Math.PI });
    });
    // Opposite the handle 180° − acos(48 / 82) are free on either side, less 0.05: 122.9° of 263.9 mm.
    const line = Math.PI * 84 * ((Math.PI - Math.acos(48 / 82) - 0.05) / (2 * Math.PI));
    expect(screen.queryByText(/^By a pen dot/)).toBeNull();
    take(`the line of ${line.toFixed(1)} mm is long, then Enter`, '91');
    const sent = (calls(page)[0]![1] as { body: { overlap: number } }).body.overlap;
    expect(sent).toBeCloseTo(91 - line, 9);
    // The handle hangs down in the drawing, half a turn from the crest.
    const drawing = screen.getByRole('img', { name: 'Rollers with the blank on it, end view and side view' });
    expect(drawing.querySelector('g[transform^="rotate(-180 0 "]')).toBeTruthy();
    expect(page.container.textContent).toContain('Copper: the handle, 180° from the crest.');
    await enter(screen.getByLabelText('Zeroed right of the handle'), '90');
    expect((page.batch().setup.held.choice as { zeroAt: number }).zeroAt).toBeCloseTo(Math.PI / 2, 9);
  });

  it('of a cup with more on it shows each at its angle', async () => {
    const page = await show((i) => {
      const feature = { kind: 'handle', from: 15, to: 75, reach: 10, mass: 0.02, others: [{ kind: 'existing logo', from: 20, to: 40, reach: 0, width: 30, mass: 0, angle: Math.PI / 2 }] }; // prettier-ignore
      return { ...i, blank: { ...i.blank, shape: { ...i.blank.shape, feature } as never } };
    });
    const drawing = screen.getByRole('img', { name: 'Rollers with the blank on it, end view and side view' });
    const turns = [...drawing.querySelectorAll('g')].map((g) => g.getAttribute('transform')).filter((t) => t?.startsWith('rotate(')); // prettier-ignore
    // The rim at the right is what is seen: angles go counter-clockwise, so a quarter turn on is a quarter to the left.
    expect(turns.map((t) => Number(/rotate\((-?[\d.]+)/.exec(t!)![1]))).toEqual(expect.arrayContaining([0, 90]));
    expect(page.container.textContent).toContain('Copper: the handle, at the crest; the existing logo at 90°, to the right of it.'); // prettier-ignore
  });

  it('goes with the diameter of the piece that carries it', async () => {
    const page = await show();
    await enter(screen.getByLabelText(/Diameter of this very piece/), '92,4');
    take('overlaps by, then Enter', '1');
    expect(calls(page)).toEqual([['rings', { body: { overlap: 1, diameter: 92.4 } }]]);
  });

  it('corrects the steps by what one turn of the surface missed, and can be taken out', async () => {
    const page = await show((i) => ({
      ...i,
      // One part in a hundred too far: 257.13 mm were asked for, 259.70 were turned.
      rings: [
        {
          ...{
            id: idOf('ring'),
            overlap: 2.57,
            circumference: 257.13,
            correction: 1,
            readingError: 0.2,
            diameter: null,
          },
          ...{ at: '2026-11-20T08:00:00.000Z', by: 'Odile', batchId: idOf('earlier') },
        },
      ],
    }));
    const list = screen.getByRole('list', { name: 'ring readings' });
    expect(list.textContent).toMatch(/^ring 1: overlap 2\.57 mm \(earlier batch\) ✕$/);
    expect(screen.getByText(/^Steps × 0\.990\d\d; the next ring on that piece closes to ±/)).toBeTruthy();
    expect(readingOf('seam')).toMatch(/1 ring$/);
    // One sample of 92 only: the catalogue’s tolerance / √3 stands for the spread.
    expect(screen.getByText(/was not measured, which leaves ±/)).toBeTruthy();
    await press('take ring 1 out');
    expect(calls(page)).toEqual([['rings/:ring', { params: { ring: expect.any(String) } }]]);
  });
});

describe('the F', () => {
  it('is one of eight pictures, all different, and says what is put right', async () => {
    const page = await show();
    const eight = within(screen.getByRole('group', { name: 'Which picture looks like the F?' })).getAllByRole('button');
    expect(new Set(eight.map((b) => b.querySelector('g')!.innerHTML)).size).toBe(8);
    await press('F turned a quarter to the left');
    expect(page.batch().setup.held.found).toMatchObject({ letter: { quarters: 1, mirrored: false } });
    expect(screen.getByText(/Burn it once more to see it upright\.$/)).toBeTruthy();
    // Burned with that put right it stands upright: nothing more is turned.
    await press('F upright');
    expect(page.batch().setup.held.found).toMatchObject({ letter: { quarters: 1, mirrored: false } });
    expect(screen.queryByText(/Burn it once more/)).toBeNull();
    // A second quarter adds to the first.
    await press('F turned a quarter to the left');
    expect(page.batch().setup.held.found).toMatchObject({ letter: { quarters: 2, mirrored: false } });
  });

  it('is asked for again when what it corrected was entered anew, and then counts from the start', async () => {
    const { drive } = DOCUMENTS;
    const { topMoves } = drive.drive!.spec;
    const other = topMoves === 'toward' ? 'away' : 'toward';
    const held = drive.setup.held as Extract<typeof drive.setup.held, { way: 'drive' }>;
    const letterWith = { rimFaces: held.choice.rimFaces, topMoves: other } as const;
    const found = { ...held.found, letter: { quarters: 0, mirrored: true } as const, letterWith };
    const page = await showStation({ ...drive, setup: { ...drive.setup, held: { ...held, found } } }, 'drive');
    expect(screen.getByText(/entered anew since the F was burned: burn it again\.$/)).toBeTruthy();
    await press('F turned a quarter to the left');
    // Not a quarter on a mirror image: what is seen now is all.
    expect(page.batch().setup.held.found).toMatchObject({ letter: { quarters: 1, mirrored: false }, letterWith: { ...letterWith, topMoves } }); // prettier-ignore
    expect(screen.queryByText(/entered anew since/)).toBeNull();
  });
});

describe('the simulated drive', () => {
  const burned = (part: Partial<CupRunView> = {}): CupRunView => ({
    ...{ thrown: false, strokes: [-3, -60, 3, -60], overlap: 0.84, dx: 0.1, dy: -0.2, lines: 40 },
    ...part,
  });
  const on = async (batch: BatchDocument, run: CupRunView, station: 'drive' | 'run' = 'drive') => {
    sessionStorage.setItem('bistre.sim', 'yes');
    const server = pretend(({ path, body }) =>
      path.endsWith('/burn') ? run : { where: 'y axis, steps/mm', unit: 'steps/mm', typed: true, value: 80, acceleration: 1000, ...body }); // prettier-ignore
    const page = await showStation(batch, station, {}, { asks: true });
    return { page, server };
  };

  it('shows what stands in it and takes what is typed at its panel', async () => {
    const { server } = await on(DOCUMENTS.drive, burned());
    const panel = within(await screen.findByRole('region', { name: 'Simulated drive' }));
    expect(panel.getByLabelText<HTMLInputElement>('panel: steps/mm').value).toBe('80');
    await enter(panel.getByLabelText('panel: steps/mm'), '50.93');
    await enter(panel.getByLabelText('panel: axis acceleration'), '400');
    await waitFor(() => expect(server.writes.map((w) => w.body)).toEqual([{ value: 50.93 }, { acceleration: 400 }]));
  });

  it.each([
    [0.84, 'By the rule the line overlaps its start by 0.84 mm.'],
    [-1.3, 'By the rule a gap of 1.30 mm is left.'],
    [0.004, 'By the rule the ring closes.'],
  ])('has a ring that closes to %s mm read off a rule: %s', async (overlap, words) => {
    await on(DOCUMENTS.drive, burned({ overlap }));
    await press('Burn a ring on tape');
    expect(await screen.findByText(words)).toBeTruthy();
    // Once for where it begins, and once a turn on each way, where the ends meet.
    const tape = screen.getByRole('img', { name: 'The tape where the ring meets itself' });
    expect(tape.querySelector('path')!.getAttribute('d')!.match(/M/g)).toHaveLength(3);
    expect(tape.querySelectorAll('line')).toHaveLength(17);
  });

  it('says why a blank left the rollers, and what to set', async () => {
    await on(documentOf(slower(input)), burned({ thrown: true, strokes: [], overlap: null }));
    await press('Burn the F on tape');
    const found = await screen.findByText(/^The blank left the rollers|The blank left the rollers/);
    expect(found.textContent).toMatch(/accelerates at 1000 mm\/s². Set at most \d+\. Lay it on again\./);
  });

  it('burns the piece that lies on it, which is then judged by where its art came', async () => {
    const piece = documentOf({ ...input, pieces: loadedPieces([1]) });
    const { page } = await on(piece, burned({ dx: 0.3, dy: -0.4 }), 'run');
    await press('Run the file on the simulated drive');
    // √(0.3² + 0.4²) of the tolerance.
    expect((await screen.findByText('0.50 mm')).parentElement!.textContent).toBe(
      'worst corner 0.50 mm of 0.60: inside.',
    );
    expect(screen.queryByText(/^Slot 1/)).toBeNull();
    await press('Done');
    expect(calls(page)).toEqual([
      ['pieces', { body: { pieces: [{ slot: 1, state: 'done', cause: null, dx: 0.3, dy: -0.4, yaw: 0 }] } }],
    ]);
  });
});

describe('a cup in a cradle', () => {
  it('says how far beside the crest it stays in focus', async () => {
    await showStation(DOCUMENTS.cradle, 'drive');
    const { focusRange } = DOCUMENTS.cradle.machine.profile;
    // √(2rs − s²) of a chord: r from the widest place, 92 mm; s half the focus range.
    const [r, s] = [92 / 2, focusRange / 2];
    expect(readingOf('without a drive: in focus beside the crest')).toMatch(new RegExp(`^± ${Math.sqrt(2 * r * s - s * s).toFixed(2)}mm`)); // prettier-ignore
    expect(screen.getByRole('button', { name: 'Cradle, SVG' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Walk file' })).toBeTruthy();
  });
});
