import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { machineProfile, type BlankDocument, type FixtureDocument, type MachineDocument, type RunRow } from '@bistre/contract'; // prettier-ignore
import { freshMachine } from '@bistre/core';
import { queryClient } from '../../data/queries';
import { showApp } from '../../testing/app';
import { DOCUMENTS, idOf } from '../../testing/batch';
import { enter, pick } from '../../testing/pick';

const batch = DOCUMENTS.pockets;
const AT = '2026-11-20T08:00:00.000Z';
const machine: MachineDocument = {
  id: batch.machine.id,
  name: 'Bench A',
  version: 3,
  profile: machineProfile.parse({ ...freshMachine, kerfMeasuredAt: '2026-11-01T08:00:00.000Z' }),
  changes: [{ id: idOf('change'), what: 'lens', note: '50 mm', at: AT, by: 'Odile' }],
};
const run = (part: Partial<RunRow> = {}): RunRow => ({ id: batch.id, name: 'Boat tags', machineName: 'Bench A', quantity: 24, done: 22, scrapped: 1, revision: 2, closedAt: AT, updatedAt: AT, ...part }); // prettier-ignore
const fixture: FixtureDocument = {
  id: idOf('fixture'),
  name: 'TAG-24',
  blankId: batch.blank.id,
  blankName: batch.blank.name,
  usedBy: ['Boat tags'],
  revisions: [1, 2].map((revision) => ({ id: idOf(`r${revision}`), fixtureId: idOf('fixture'), name: 'TAG-24', revision, held: { way: batch.setup.held.way, choice: batch.setup.held.choice }, beside: batch.setup.beside, basis: { shape: '', length: 60.04, width: 25.03, pocketLength: 60.3 + revision / 10, pocketWidth: 25.4 }, savedAt: AT, savedBy: 'Imre' })), // prettier-ignore
} as unknown as FixtureDocument;
const blank: BlankDocument = { ...batch.blank, samples: [59.9, 60, 60.1].map((value, i) => ({ id: idOf(`s${i}`), dimension: 'length', value, at: `2026-11-0${i + 1}T08:00:00.000Z`, by: 'Odile' })) }; // prettier-ignore

const show = (path: string, runs: readonly RunRow[] = [run()]) =>
  showApp(path, {
    batch,
    lists: { machines: [machine], fixtures: [fixture], blanks: [blank] },
    answer: ({ path: at, method }) => (at.startsWith('/api/runs/') ? runs : method !== 'GET' && at.startsWith('/api/machines/') ? machine : undefined), // prettier-ignore
  });

beforeEach(() => queryClient.clear());

describe('a fixture, opened', () => {
  it('shows its revisions, the newest first, its runs and the way to the same again', async () => {
    await show(`/shelf/fixtures/${fixture.id}`);
    expect(await screen.findByRole('heading', { name: 'TAG-24' })).toBeTruthy();
    const items = within(screen.getByRole('region', { name: 'Revisions' })).getAllByRole('listitem');
    expect(items.map((li) => li.textContent.slice(0, 2))).toEqual(['r2', 'r1']);
    expect(items[0]!.textContent).toContain('pockets 60.50 × 25.40 mm for pieces of 60.04 × 25.03 mm');
    const runs = await screen.findByRole('region', { name: 'Runs' });
    expect(runs.textContent).toContain('22 of 24 pieces, 1 scrapped');
    expect(within(runs).getByRole('link', { name: 'again as Boat tags' }).getAttribute('href')).toBe(`/batches/${batch.id}/again`); // prettier-ignore
    expect(screen.getByRole('link', { name: 'The same again' }).getAttribute('href')).toBe(`/batches/${batch.id}/again`); // prettier-ignore
  });

  it('is drawn as the batch that used it last has it, with its files', async () => {
    await show(`/shelf/fixtures/${fixture.id}`);
    await waitFor(() => expect(screen.getByRole('button', { name: 'DXF' })).toBeTruthy(), { timeout: 5_000 });
    expect(document.querySelector('svg')).toBeTruthy();
  });

  it('that no batch uses has nothing to draw, and says so', async () => {
    await show(`/shelf/fixtures/${fixture.id}`, []);
    expect(await screen.findByText('No batch uses it: there is nothing to draw.')).toBeTruthy();
    expect(await screen.findByText('No batch used it yet.')).toBeTruthy();
  });
});

describe('from anywhere', () => {
  it('a fixture is found by the name that stands on it', async () => {
    const page = await show('/shelf/fixtures');
    await userEvent.keyboard('/');
    await userEvent.type(await screen.findByPlaceholderText(/^Find a batch/), 'tag-24');
    await userEvent.click(await screen.findByText(/^Fixture TAG-24, for /));
    await waitFor(() => expect(page.at()).toBe(`/shelf/fixtures/${fixture.id}`));
  });

  it('the Log of a batch leads to the same again', async () => {
    await show(`/log?batch=${batch.id}`);
    expect((await screen.findByRole('link', { name: 'The same again' })).getAttribute('href')).toBe(`/batches/${batch.id}/again`); // prettier-ignore
  });
});

describe('a blank, opened', () => {
  it('shows its measured sizes over time, with their mean and spread', async () => {
    await show(`/shelf/blanks/${blank.id}`);
    const sizes = await screen.findByRole('region', { name: 'Measured sizes' });
    // Mean 60, s = 0.1 of 59.9, 60.0, 60.1.
    expect(sizes.textContent).toMatch(/length: 60(\.0+)? ± 0\.1\d* mm, 3 pieces, 01\/11\/2026 to 03\/11\/2026/);
    expect(sizes.querySelectorAll('circle')).toHaveLength(3);
    const [first, , last] = [...sizes.querySelectorAll('circle')].map((c) => [Number(c.getAttribute('cx')), Number(c.getAttribute('cy'))]); // prettier-ignore
    expect(last![0]!).toBeGreaterThan(first![0]!);
    expect(last![1]!).toBeLessThan(first![1]!);
    expect(await screen.findByRole('region', { name: 'Runs' })).toBeTruthy();
  });
});

describe('a machine, opened', () => {
  it('shows what was changed on it and which calibrations are older', async () => {
    await show(`/shelf/machines/${machine.id}`);
    const changed = await screen.findByRole('region', { name: 'Changed on it' });
    expect(changed.textContent).toContain('lens changed: 50 mm by Odile');
    expect(changed.textContent).toContain('The kerf was measured before the lens was changed on 2026-11-20: measure it again.'); // prettier-ignore
  });

  it('keeps another change, and takes one out', async () => {
    const page = await show(`/shelf/machines/${machine.id}`);
    const changed = await screen.findByRole('region', { name: 'Changed on it' });
    await pick('What', 'belts changed or tightened');
    await enter(within(changed).getByLabelText('Note'), 'both');
    await userEvent.click(within(changed).getByRole('button', { name: 'Keep it' }));
    await waitFor(() => expect(page.writes.at(-1)).toMatchObject({ method: 'POST', path: `/api/machines/${machine.id}/changes`, body: { what: 'belts', note: 'both' } })); // prettier-ignore
    await userEvent.click(within(changed).getByRole('button', { name: 'take it out' }));
    await waitFor(() => expect(page.writes.at(-1)).toMatchObject({ method: 'DELETE', path: `/api/machines/${machine.id}/changes/${idOf('change')}` })); // prettier-ignore
  });
});
