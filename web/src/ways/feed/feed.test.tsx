import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { BatchInput } from '@bistre/core';
import { loadedPieces } from '../../../../core/src/test-batch';
import { inWay } from '../../../../core/src/test-held';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { documentOf, idOf } from '../../testing/batch';
import { enter, pick, press, readingOf } from '../../testing/pick';
import { pretend } from '../../testing/server';
import { showStation } from '../../testing/station';
import { calls } from '../../testing/page';

const input = EXAMPLES.feed;
const known = { feeders: [{ id: input.feeder!.id, name: 'Feeder', version: 1, spec: {}, readings: [] }] };
const show = (change: BatchInput = input) => showStation(documentOf(change), 'feed', known);
const fed = (commanded: number, measured: number, missed: number | null = null) => ({ id: idOf(`fed ${measured}`), at: '2026-11-20T08:00:00.000Z', by: 'Odile', commanded, measured, missed }); // prettier-ignore

afterEach(() => sessionStorage.clear());

describe('a strip through a feeder', () => {
  it('goes through in as many stops as its window asks for', async () => {
    const page = await show();
    // 60 mm pieces 15 apart in a row of 1900: 24 fit it, eight to a window.
    expect(readingOf('stops')).toMatch(/^3a strip, 24 places.*1 strip, 8 \+ 8 \+ 8$/);
    // The first begins 30 mm behind the leading end; 1900 − 30 − 24 × 60 − 23 × 15 are left behind the last.
    expect(1900 - 30 - 24 * 60 - 23 * 15).toBe(85);
    expect(readingOf('lost at the ends')).toMatch(/^30 \+ 8[45]mm/);
    expect(readingOf('feed factor')).toMatch(/^1\.0000.*not measured: ± 0\.5 % is carried$/);
    await enter(screen.getByLabelText('Pitch, piece to piece'), '80');
    expect(page.batch().setup.held.choice).toMatchObject({ pitch: 80 });
    fireEvent.click(screen.getByRole('radio', { name: 'width 25' }));
    // Turned, another pitch would be meant: it is reckoned again.
    await waitFor(() => expect(page.batch().setup.held.choice).toMatchObject({ turned: true, pitch: null }));
  });

  it('is measured by long feeds: the factor is what was told over what went through', async () => {
    const page = await show({ ...input, feedReadings: [fed(500, 505), fed(1000, 1010)] });
    // Both went 1 % too far.
    expect(readingOf('feed factor')).toMatch(/^(1\.0100|0\.9901)± 0\.\d{4}, 2 feeds$/);
    fireEvent.click(screen.getByText('2 feeds measured'));
    const list = screen.getByRole('list', { name: 'feed readings' });
    expect(list.textContent).toBe('500 → 505.0 mm ✕1000 → 1010.0 mm ✕');
    await press('take out feed 505.0');
    expect(calls(page)).toEqual([['feeds/:feed', { params: { feed: idOf('fed 505') } }]]);
  });

  it('takes a feed with what was missed going back, or without', async () => {
    const page = await show();
    const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
    expect(keep.disabled).toBe(true);
    await enter(screen.getByLabelText('tape shows'), '502,5');
    await press('Keep');
    await enter(screen.getByLabelText('told to feed'), '800');
    await enter(screen.getByLabelText('tape shows'), '803');
    await enter(screen.getByLabelText('back, missed by'), '0.5');
    fireEvent.keyDown(screen.getByLabelText('tape shows'), { key: 'Enter' });
    await waitFor(() => expect(page.acts).toHaveLength(2));
    expect(calls(page)).toEqual([
      ['feeds', { body: { commanded: 500, measured: 502.5, missed: null } }],
      ['feeds', { body: { commanded: 800, measured: 803, missed: 0.5 } }],
    ]);
  });

  it('lies aslant by what its edge is off the guide at two stations', async () => {
    const page = await show();
    await enter(screen.getByLabelText('Leading, off guide'), '10');
    expect(page.updates).toEqual([]);
    await enter(screen.getByLabelText('Behind, off guide'), '11.2');
    expect(page.batch().setup.held.found).toMatchObject({ squaring: { apart: 400, first: 10, second: 11.2 } });
    page.unmount();
    await show(inWay(input, 'feed', {}, { squaring: { apart: 400, first: 10, second: 11.2 } }));
    // 1.2 mm over 400 mm are 3 mm to the metre.
    expect(readingOf('skew')).toMatch(/^[−]?3\.00mm\/m.* turned out; guide ± 1 carried$/);
  });

  it('turns with its guide, read at two places; all four numbers make a reading', async () => {
    const page = await show();
    const typed = [['Guide, one end: x', '150'], ['Guide, one end: y', '520'], ['Guide, other end: x', '750']] as const; // prettier-ignore
    for (const [label, value] of typed) await enter(screen.getByLabelText(label), value);
    expect(page.updates).toEqual([]);
    expect(readingOf('skew')).toContain('guide ± 1 carried');
    await enter(screen.getByLabelText('Guide, other end: y'), '518,8');
    expect(page.batch().setup.held.found).toMatchObject({ guide: { a: { x: 150, y: 520 }, b: { x: 750, y: 518.8 } } });
    page.unmount();
    await show(inWay(input, 'feed', {}, { guide: { a: { x: 150, y: 520 }, b: { x: 750, y: 518.8 } } }));
    // 1.2 mm over 600; y is shown from the back.
    expect(readingOf('skew')).toMatch(/guide 2\.00/);
  });

  it('is fed and measured with the simulated feeder as with a tape', async () => {
    sessionStorage.setItem('bistre.sim', 'yes');
    const page = await show();
    const view = { homed: true, display: { x: 0, y: 0 }, head: { x: 0, y: 0 }, boardCorners: [], marksSeen: [], loupe: { radius: 4, lines: [] }, dots: 0, landed: [] }; // prettier-ignore
    const server = pretend(({ body }) => ({
      ...view,
      feeder: { moved: body['act'] === 'feed' ? { commanded: 500, measured: 498.4, missed: 0.3 } : null, offsets: body['act'] === 'square' ? { apart: 400, first: 5, second: 5.4 } : null, guide: body['act'] === 'guide' ? { a: { x: 160, y: 519.9 }, b: { x: 740, y: 519.6 } } : null }, // prettier-ignore
    }));
    await press('Feed it');
    await waitFor(() => expect(calls(page)).toEqual([['feeds', { body: { commanded: 500, measured: 498.4, missed: 0.3 } }]])); // prettier-ignore
    await press('Measure it');
    await waitFor(() => expect(page.batch().setup.held.found).toMatchObject({ squaring: { apart: 400, first: 5, second: 5.4 } })); // prettier-ignore
    await press('Read it');
    await waitFor(() => expect(page.batch().setup.held.found).toMatchObject({ guide: { a: { x: 160, y: 519.9 } } }));
    expect(server.writes.map((w) => w.body)).toEqual([
      { act: 'feed', commanded: 500 },
      { act: 'square', apart: 400 },
      { act: 'guide' },
    ]);
  });

  it('carries other work, and goes back to the bed', async () => {
    const page = await show();
    fireEvent.click(screen.getByRole('radio', { name: 'parts of a strip' }));
    await waitFor(() => expect(page.batch().setup.held.choice).toMatchObject({ work: { kind: 'parts' } }));
    await pick('Feeder', 'none: on the bed');
    expect(page.batch().setup.held.way).toBe('pockets');
  });

  it('keeps clear of places that were used, one by one', async () => {
    const page = await show();
    fireEvent.click(screen.getByText('more settings'));
    await press('add one');
    const used = () => (page.batch().setup.held.found as { used: readonly { x: number }[] }).used;
    await waitFor(() => expect(used()).toEqual([{ x: 40, y: 5, width: 40, height: 30 }]));
    await press('Take out used place 1');
    await waitFor(() => expect(used()).toEqual([]));
  });

  it('is begun, aimed at where the stop asks for it, and burned stop by stop', async () => {
    const page = await show();
    await press('It lies in the feeder: begin');
    expect(calls(page)).toEqual([['loads', {}]]);
    page.unmount();
    const on = { ...inWay(input, 'feed', { aimEvery: 1 }), pieces: loadedPieces([1, 2, 3, 4, 5, 6, 7, 8]) };
    const aimed = await show(on);
    const marks = aimed.shown.reckoning.own.feed!.unread;
    expect(screen.getAllByText('to be read')).toHaveLength(marks.length);
    expect(screen.queryByText(/^Stop 1:$/)).toBeNull();
    const place = within(screen.getByRole('region', { name: 'Do' }));
    await enter(place.getByLabelText('x on the machine'), '101');
    await enter(place.getByLabelText('y on the machine'), '220.5');
    await press('Keep', place);
    expect(calls(aimed)).toEqual([
      ['readings', { body: { mark: marks[0], x: 101, y: 220.5, source: 'typed', purpose: 'place' } }],
    ]);
    await pick('Aim at the strip again', 'every 2 stops');
    expect(aimed.batch().setup.held.choice).toMatchObject({ aimEvery: 2 });
  });
});
