import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ShopStepDocument } from '@bistre/contract';
import { outbox } from '../../data/outbox';
import { queryClient } from '../../data/queries';
import { showApp } from '../../testing/app';
import { DOCUMENTS, idOf } from '../../testing/batch';
import { wrongOn } from '../../testing/looks';
import { enter, pick } from '../../testing/pick';

const { blank, machine, recipe } = DOCUMENTS.pockets;
const step: ShopStepDocument = {
  id: idOf('scrub'),
  name: 'Scrub the face',
  version: 2,
  spec: {
    of: { kind: 'material', material: 'slate' },
    station: 'run',
    when: 'first',
    detail: 'Dust shines through.',
    caution: '',
    minutes: 20,
    photoId: null,
  },
};
const lists = { steps: [step], blanks: [blank], machines: [machine], recipes: [recipe] };

afterEach(async () => {
  for (const kept of outbox.get().kept) await outbox.letGo(kept);
  queryClient.clear();
});

it('lists what the shop does beside, with where it stands and of what', async () => {
  const of = (spec: ShopStepDocument['spec']['of'], id: string): ShopStepDocument => ({ ...step, id: idOf(id), name: id, spec: { ...step.spec, of: spec } }); // prettier-ignore
  const steps = [
    step,
    of({ kind: 'blank', blankId: blank.id }, 'one'),
    of({ kind: 'way', way: 'drive' }, 'two'),
    of({ kind: 'machine', machineId: idOf('sold') }, 'three'),
  ];
  await showApp('/shelf/steps', { lists: { ...lists, steps } });
  expect((await screen.findByText('Scrub the face')).closest('a')!.textContent).toBe('Scrub the faceDust shines through.; 20 minRun, of slate'); // prettier-ignore
  await screen.findByText(`Run, of ${blank.name}`);
  expect(screen.getByText('Run, of a drive that turns it')).toBeTruthy();
  expect(screen.getByText('Run, of something that was put away')).toBeTruthy();
  expect(wrongOn(document.body)).toEqual([]);
});

it('says what they are for where there are none', async () => {
  await showApp('/shelf/steps', { lists: { ...lists, steps: [] } });
  expect(await screen.findByText(/^No steps of your own yet\./)).toBeTruthy();
});

it('a new one begins at the station and blank it was asked for, and is sent with what it belongs to', async () => {
  const user = userEvent.setup();
  const page = await showApp(`/shelf/steps/new?station=close&blank=${blank.id}`, { lists });
  await screen.findByRole('heading', { name: 'New step' });
  await enter(screen.getByLabelText('What is done'), 'Oil it');
  await enter(screen.getByLabelText('Wait'), '1.5');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(page.writes).toHaveLength(1));
  expect(page.writes[0]).toMatchObject({
    method: 'POST',
    path: '/api/steps',
    body: { name: 'Oil it', spec: { of: { kind: 'blank', blankId: blank.id }, station: 'close', when: 'last', minutes: 1.5, photoId: null } }, // prettier-ignore
  });
});

it('is moved to a material, a way or a machine; one that names none is refused beside its field', async () => {
  const user = userEvent.setup();
  const page = await showApp(`/shelf/steps/${step.id}`, { lists });
  await screen.findByRole('heading', { name: step.name });
  await pick('Stands in every batch of', 'a way of holding');
  await pick('Way of holding', 'a drive that turns it');
  await pick('Stands in every batch of', 'a material');
  const material = screen.getByLabelText('Material');
  expect((material as HTMLInputElement).value).toBe(recipe!.spec.material);
  await pick('Stands in every batch of', 'a machine');
  expect(screen.getByLabelText('Machine').textContent).toContain(machine.name);
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(page.writes).toHaveLength(1));
  expect(page.writes[0]!.body).toMatchObject({ version: 2, spec: { of: { kind: 'machine', machineId: machine.id }, station: 'run' } }); // prettier-ignore
});

it('keeps a photograph by the name the server gives it, and takes it out again', async () => {
  const user = userEvent.setup();
  const photoId = idOf('photo');
  const page = await showApp(`/shelf/steps/${step.id}`, {
    lists,
    answer: ({ path }) =>
      path.startsWith('/api/photographs') ? { id: photoId, width: 1200, height: 1600 } : undefined,
  });
  const file = new File([new Uint8Array([0xff, 0xd8, 0xff])], 'coat.jpg', { type: 'image/jpeg' });
  await user.upload(await screen.findByLabelText(/PNG, JPEG or WebP/), file);
  expect((await screen.findByRole('img', { name: 'as it is kept' })).getAttribute('src')).toBe(`/api/photographs/${photoId}`); // prettier-ignore
  await user.click(screen.getByRole('button', { name: 'take it out' }));
  expect(screen.queryByRole('img', { name: 'as it is kept' })).toBeNull();
  await user.upload(screen.getByLabelText(/PNG, JPEG or WebP/), file);
  await screen.findByRole('img', { name: 'as it is kept' });
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(page.writes.at(-1)!.body).toMatchObject({ spec: { photoId } }));
});
