import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import {
  driveSpec,
  machineProfile,
  type ArtworkDocument,
  type DriveDocument,
  type MachineDocument,
} from '@bistre/contract';
import { freshDrive, freshMachine } from '@bistre/core';
import { outbox } from '../../data/outbox';
import { queryClient } from '../../data/queries';
import { showApp, type Shop } from '../../testing/app';
import { DOCUMENTS, idOf } from '../../testing/batch';
import { wrongOn } from '../../testing/looks';
import { pick } from '../../testing/pick';

const batch = DOCUMENTS.pockets;
const machine: MachineDocument = {
  id: batch.machine.id,
  name: 'Bench A',
  version: 3,
  profile: machineProfile.parse({ ...freshMachine, kerfMeasuredAt: '2026-11-01T08:00:00.000Z' }),
  changes: [],
};
const drive = { id: idOf('drive'), name: 'Rollers', version: 1, spec: driveSpec.parse({ ...freshDrive, risers: [] }), history: [] } as unknown as DriveDocument; // prettier-ignore
const cup = { ...DOCUMENTS.drive.blank, id: idOf('cup'), name: 'Umpire cup' };
const crest = { id: idOf('crest'), name: 'Crest', version: 1, spec: { customer: '', roles: {} }, usedBy: [], revisions: [1, 2].map((number) => ({ number, fileName: 'crest.svg', bytes: 100, sha256: 'x', width: 40, height: 30, unit: 'mm', notes: [], styles: [], at: '2026-11-20T08:00:00.000Z', by: 'Odile' })) } as unknown as ArtworkDocument; // prettier-ignore

const begin = async (more: Shop['lists'] = {}) => {
  const user = userEvent.setup();
  const lists = { machines: [machine], blanks: [batch.blank, cup], recipes: [batch.recipe], drives: [drive], artworks: [crest], ...more }; // prettier-ignore
  const page = await showApp('/new', { batch, lists });
  await screen.findByText(/^Put the first machine|^Once the piece/);
  return { user, page };
};
const type = async (label: string, words: string): Promise<void> => {
  const field = await screen.findByLabelText(label);
  const user = userEvent.setup();
  await user.clear(field);
  await user.type(field, words);
};
/** A tag that is described on the spot. */
const describeTag = async (): Promise<void> => {
  for (const [label, words] of [
    ['What is it called?', 'Bow tags'],
    ['Name of the blank', 'Slate tag'],
    ['Made of', 'slate'],
    ['Length', '3 in'],
    ['Width', '25'],
    ['Thickness', '1.5'],
    ['Quantity', '24'],
  ] as const)
    await type(label, words);
};
const proposed = () => screen.findByText(/^Proposed: /, {}, { timeout: 15_000 });
const press = (name: string) => userEvent.setup().click(screen.getByRole('button', { name }));

afterEach(async () => {
  for (const kept of outbox.get().kept) await outbox.letGo(kept);
  queryClient.clear();
});

describe('a new batch, in three questions', () => {
  it('fills nothing in that is measured, and asks for each number that is missing', async () => {
    const { page } = await begin();
    for (const label of ['Length', 'Width', 'Thickness', 'Quantity'])
      expect((await screen.findByLabelText<HTMLInputElement>(label)).value).toBe('');
    expect(screen.getByText(/^Once the piece and how many are known/)).toBeTruthy();
    await press('Begin');
    expect((await screen.findAllByText(/must be a (whole )?number between/)).length).toBeGreaterThan(2);
    expect(page.writes).toEqual([]);
    expect(wrongOn(document.body)).toEqual([]);
  });

  it('proposes ways with their work, loads, error and needs, and begins with the one that is chosen', async () => {
    const { page } = await begin();
    await describeTag();
    const best = (await proposed()).closest('li')!;
    expect(best.querySelector('input')!.checked).toBe(true);
    for (const words of [/\d+ min to set up/, /of laying on/, /± \d\.\d\d of 0\.50 mm/, /on Bench A/]) expect(best.textContent).toMatch(words); // prettier-ignore
    const pockets = screen.getByRole<HTMLInputElement>('radio', { name: /^pockets: drop in/ });
    expect(pockets.closest('li')!.textContent).toMatch(/Needs a board of \d+.* mm that is cut/);
    await userEvent.setup().click(pockets);
    await press('Begin');
    await waitFor(() => expect(page.writes).toHaveLength(2));
    const [blank, made] = page.writes as [(typeof page.writes)[0], (typeof page.writes)[0]];
    expect([blank.path, made.path]).toEqual(['/api/blanks', '/api/batches']);
    expect(blank.body).toMatchObject({ name: 'Slate tag', spec: { shape: { kind: 'rectangle', length: 76.2, width: 25 }, material: 'slate' } }); // prettier-ignore
    // The zone lies inside the tag, 2 mm from its edges.
    expect((blank.body['spec'] as { zones: { width: number; height: number }[] }).zones[0]).toMatchObject({ width: expect.closeTo(72.2, 9), height: 21 }); // prettier-ignore
    expect(made.body).toMatchObject({ name: 'Bow tags', quantity: 24, blankId: blank.body['id'], machineId: machine.id, held: { way: 'pockets', choice: { name: 'BOW-TAGS', extent: { kind: 'count', count: 24 } } } }); // prettier-ignore
    await waitFor(() => expect(page.at()).toBe(`/batches/${String(made.body['id'])}/blank`));
  });

  it('takes the names with it, and as many pieces as there are names', async () => {
    const { page } = await begin();
    await pick('Blank', batch.blank.name);
    await type('What is it called?', 'Crew tags');
    const names = screen.getByLabelText(/^Names or numbers/);
    await userEvent.setup().type(names, 'name,lane{enter}KESTREL,1{enter}DUNLIN,2');
    await screen.findByText(/: name, lane\. The letters/);
    expect(screen.getByLabelText<HTMLInputElement>('Quantity').value).toBe('2');
    await pick('Artwork of the Shelf', 'Crest');
    await proposed();
    await press('Begin');
    await waitFor(() => expect(page.writes).toHaveLength(1));
    expect(page.writes[0]!.body).toMatchObject({
      blankId: batch.blank.id,
      quantity: 2,
      roster: { columns: ['name', 'lane'], rows: [{ name: 'KESTREL', lane: '1' }, { name: 'DUNLIN', lane: '2' }] },
      contents: [{ kind: 'artwork', artworkId: crest.id, revision: 2, size: { kind: 'fit' } }],
    }); // prettier-ignore
  });

  it('a round piece is turned by a drive of the Shelf or lies still; its face carries the names', async () => {
    const { page } = await begin();
    await pick('Blank', cup.name);
    expect(screen.queryByLabelText('It comes as')).toBeNull();
    await type('What is it called?', 'Cups');
    await userEvent.setup().type(screen.getByLabelText(/^Names or numbers/), 'name{enter}KESTREL');
    await proposed();
    expect(screen.getAllByRole('radio').map((r) => r.closest('li')!.querySelector('b')!.textContent).sort()).toEqual(['a drive that turns it: Rollers', 'lying still, in a cradle']); // prettier-ignore
    await userEvent.setup().click(screen.getByRole('radio', { name: /^a drive that turns it/ }));
    await press('Begin');
    await waitFor(() => expect(page.writes).toHaveLength(1));
    expect(page.writes[0]!.body).toMatchObject({ held: { way: 'drive', choice: { driveId: drive.id } }, faces: [{ content: { kind: 'lettering' } }] }); // prettier-ignore
  });

  it('begun while the server is away is kept, and on the Board once it is back', async () => {
    const { page } = await begin();
    await describeTag();
    page.plan.push('away', 'away');
    await press('Begin');
    await waitFor(() => expect(page.at()).toBe('/'), { timeout: 4000 });
    expect(outbox.get().kept.map((k) => k.words)).toEqual(['new blank Slate tag', 'new batch Bow tags']);
    await waitFor(() => expect(outbox.get().kept).toEqual([]), { timeout: 6000 });
    expect(new Set(page.writes.map((w) => w.key)).size).toBe(2);
  });

  it('that the server refuses stays open with what was typed, and its blank is not made twice', async () => {
    const { page } = await begin();
    await describeTag();
    page.plan.length = 0;
    page.plan.push(undefined as never, { status: 409, code: 'taken', message: 'There is a batch of this name.' });
    await press('Begin');
    expect(await screen.findByText('There is a batch of this name.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('What is it called?').value).toBe('Bow tags');
    await type('What is it called?', 'Stern tags');
    await press('Begin');
    await waitFor(() => expect(page.writes).toHaveLength(3));
    expect(page.writes.map((w) => w.path)).toEqual(['/api/blanks', '/api/batches', '/api/batches']);
    expect(page.writes[2]!.body).toMatchObject({ name: 'Stern tags', blankId: page.writes[0]!.body['id'] });
  });

  it('a shop without a machine is sent to describe one first, and comes back', async () => {
    const { user, page } = await begin({ machines: [] });
    await user.click(await screen.findByRole('link', { name: 'Put the first machine on the Shelf' }));
    await waitFor(() => expect(page.at()).toBe('/shelf/machines/new?then=/new'));
    await user.click(await screen.findByRole('button', { name: 'Leave it' }));
    await waitFor(() => expect(page.at()).toBe('/new'));
  });
});
