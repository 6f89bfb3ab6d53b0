import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { BatchInput, PictureContent } from '@bistre/core';
import { wholeZone } from '../../../../core/src/test-drawn';
import { loadedPieces, testBatch } from '../../../../core/src/test-batch';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { aimed } from '../../testing/aim';
import { documentOf, idOf } from '../../testing/batch';
import { press } from '../../testing/pick';
import { showStation } from '../../testing/station';

const show = (input: BatchInput) => showStation(documentOf(input), 'run');
const desk = (): HTMLElement => screen.getByRole('region', { name: 'Next at the desk' });
const done = (count: number): BatchInput['pieces'] => loadedPieces(Array.from({ length: count }, (_, i) => i + 1)).map((p) => ({ ...p, state: 'done' as const })); // prettier-ignore

describe('the strip of a run', () => {
  it('takes the load that is next in its own words, once there are names for it', async () => {
    const page = await show(testBatch());
    const take = within(desk()).getByRole('button', { name: page.shown.load.take });
    expect(desk().textContent).toContain('0 of 24 done.');
    fireEvent.click(take);
    await waitFor(() => expect(page.acts.map((a) => a.path)).toEqual(['/api/batches/:id/loads']));
  });

  it('waits for the roster where pieces are lettered from it', async () => {
    const page = await show(testBatch({ roster: [] }));
    expect(within(desk()).getByRole<HTMLButtonElement>('button', { name: page.shown.load.take }).disabled).toBe(true);
  });

  it('says where a long work is burned before it is judged, and judges it as one when it is', async () => {
    await show({ ...EXAMPLES.long, pieces: loadedPieces([1]) });
    expect(desk().textContent).toContain('Segment 1 is on.');
    expect(within(desk()).getByRole('link').getAttribute('href')).toMatch(/\/place$/);
    expect(screen.queryByRole('button', { name: 'Done' })).toBeNull();
  });

  it('goes to the putting away when all pieces are done', async () => {
    const input = testBatch({ quantity: 3, pieces: done(3) });
    await show({ ...input, roster: input.roster.slice(0, 3) });
    expect(desk().textContent).toContain('All 3 pieces are done.');
    expect(within(desk()).getByRole('link', { name: 'Put things back and close' }).getAttribute('href')).toMatch(/\/close$/); // prettier-ignore
    // Nothing more is done at the station itself.
    expect(screen.queryByRole('region', { name: 'Do' })).toBeNull();
  });

  it('has the load’s file at hand where nothing stands against it, and the piece by its place on a drive', async () => {
    await show(aimed(testBatch({ pieces: loadedPieces([1, 2]) })));
    expect(within(desk()).getByRole('button', { name: 'G-code of the load' })).toBeTruthy();
    expect(within(desk()).queryByRole('list', { name: 'Held back' })).toBeNull();
  });

  it('of one round piece at a time names the piece and no slot', async () => {
    await show({ ...EXAMPLES.drive, pieces: loadedPieces([1]) });
    expect(desk().textContent).toMatch(/^(?!.*Slot).*Piece 1/s);
    expect(within(desk()).getByLabelText('around, right')).toBeTruthy();
    expect(within(desk()).queryByText(/are done$/)).toBeNull();
  });

  it('keeps a doubted reason for the load and forgets that of one piece', async () => {
    const page = await show(aimed(testBatch({ pieces: loadedPieces([1, 2]) })));
    fireEvent.change(within(desk()).getByLabelText('off to the right'), { target: { value: '2' } });
    const why = await screen.findByLabelText<HTMLInputElement>('why it passes');
    fireEvent.change(why, { target: { value: 'the edge hides it' } });
    await press('Done');
    expect(page.acts).toHaveLength(1);
    expect((page.acts[0]!.input as { body: { pieces: { cause: string }[] } }).body.pieces[0]!.cause).toBe('the edge hides it'); // prettier-ignore
  });
});

describe('a picture on a long work', () => {
  const picture: PictureContent = { kind: 'picture', id: 'p', zoneId: 'work', pictureId: idOf('gull'), name: 'gull', width: 90, height: 60, darkness: 0.4, treatment: { kernel: 'stucki', densest: 1, gamma: 1, negative: false }, size: { kind: 'width', width: 90 }, turn: 0, mirrored: false }; // prettier-ignore
  const carrying: BatchInput = {
    ...EXAMPLES.long,
    blank: { ...EXAMPLES.long.blank, zones: [wholeZone(EXAMPLES.long.blank)] },
    setup: { ...EXAMPLES.long.setup, contents: [...EXAMPLES.long.setup.contents!, picture] },
  };
  it('is drawn where it lies, once, and no seam goes through it', async () => {
    const page = await showStation(documentOf(carrying), 'hold');
    const images = [...page.container.querySelectorAll('image')];
    // On the work, and in the loupes of the seams beside it.
    expect(new Set(images.map((i) => i.getAttribute('href')))).toEqual(new Set([`/api/pictures/${idOf('gull')}`]));
    // A millimetre a dot, its upper left corner 45 left of and 30 above the middle of 2000 × 300.
    expect(images[0]!.getAttribute('transform')).toBe('matrix(1 0 0 -1 955 180)');
    const seams = page.shown.reckoning.own.long!.plan!.seams.map((s) => s.at);
    expect(seams.some((at) => at > 955 && at < 1045)).toBe(false);
  });
});
