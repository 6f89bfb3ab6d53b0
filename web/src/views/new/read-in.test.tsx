import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { JOBS, LOOK_AT_JOB, type JobChoices, type JobPlan, type JobThing } from '@bistre/contract';
import { showApp } from '../../testing/app';

const BATCH = 'b0000000-0000-4000-8000-000000000001';
const MACHINE = 'a0000000-0000-4000-8000-000000000002';
const thing = (part: Partial<JobThing>): JobThing => ({ kind: 'blanks', id: 'c0000000-0000-4000-8000-000000000003', name: 'Boat tag', state: 'new', differences: [], choices: [], choice: null, ...part }); // prettier-ignore
const kerf = thing({ kind: 'machines', id: MACHINE, name: 'Bench A', state: 'differs', choices: ['ours', 'beside'], differences: [{ label: 'Kerf', theirs: '0.2 mm', ours: '0.25 mm' }] }); // prettier-ignore

/** The page with a server that plans so; what it was sent. */
const show = async (plan: (choices: JobChoices) => Partial<JobPlan>, refusal?: string) => {
  const sent: { path: string; choices: JobChoices }[] = [];
  const page = await showApp('/read-in', {
    lists: {},
    answer: ({ path }) => {
      const [at, query] = path.split('?');
      if (at !== JOBS && at !== LOOK_AT_JOB) return undefined;
      const choices = JSON.parse(new URLSearchParams(query).get('choices')!) as JobChoices;
      sent.push({ path: at, choices });
      if (at === JOBS) return { id: BATCH, name: 'Boat tags', already: false };
      const made = plan(choices);
      return { batch: { id: BATCH, name: 'Boat tags', state: 'new', choice: null }, things: [], counts: ['24 names', '3 readings'], ready: true, ...made }; // prettier-ignore
    },
  });
  if (refusal) page.plan.push({ status: 422, code: 'bad-job', message: refusal });
  fireEvent.change(await screen.findByLabelText('The file of a job'), { target: { files: [new File(['PK'], 'boat-tags-job.zip')] } }); // prettier-ignore
  return { page, sent };
};
const enabled = (name: string) => !screen.getByRole<HTMLButtonElement>('button', { name }).disabled;

describe('reading a job in', () => {
  it('says what comes and what is here, and brings it in by one press', async () => {
    const things = [thing({ state: 'same', name: 'Boat tag' }), thing({ kind: 'recipes', id: MACHINE, name: 'Oak, deep' })]; // prettier-ignore
    const { page, sent } = await show(() => ({ things }));
    expect(await screen.findByRole('heading', { name: 'Boat tags' })).toBeTruthy();
    expect(document.body.textContent).toContain('with 24 names and 3 readings');
    expect(document.body.textContent).toMatch(/Is here alreadyblank Boat tagComes inrecipe Oak, deep/);
    await userEvent.click(screen.getByRole('button', { name: 'Read it in' }));
    await waitFor(() => expect(page.at()).toMatch(new RegExp(`^/batches/${BATCH}`)));
    expect(sent.at(-1)).toEqual({ path: JOBS, choices: {} });
  });

  it('asks of what differs, shows in what, and waits for every answer', async () => {
    const { sent } = await show((choices) => ({ things: [{ ...kerf, choice: choices[MACHINE] ?? null }], ready: MACHINE in choices })); // prettier-ignore
    const asked = await screen.findByRole('region', { name: 'Bench A' });
    expect(within(asked).getAllByRole('cell').map((c) => c.textContent)).toEqual(['Kerf', '0.2 mm', '0.25 mm']); // prettier-ignore
    expect(enabled('Read it in')).toBe(false);
    await userEvent.click(within(asked).getByRole('radio', { name: 'use ours' }));
    await waitFor(() => expect(enabled('Read it in')).toBe(true));
    await userEvent.click(screen.getByRole('button', { name: 'Read it in' }));
    await waitFor(() => expect(sent.at(-1)).toEqual({ path: JOBS, choices: { [MACHINE]: 'ours' } }));
  });

  it('offers no revision that is not here', async () => {
    await show(() => ({ things: [{ ...kerf, kind: 'fixtures', name: 'TAG-24', choices: ['beside'] }], ready: false }));
    const asked = await screen.findByRole('region', { name: 'TAG-24' });
    expect(within(asked).getAllByRole('radio').map((r) => r.textContent)).toEqual(['bring theirs in beside it']); // prettier-ignore
    expect(asked.textContent).toContain('The batch uses a revision that is not here');
  });

  it('of a batch that is here as it is in the file opens that; of one that was worked on asks', async () => {
    await show(() => ({ batch: { id: BATCH, name: 'Boat tags', state: 'same', choice: null } }));
    expect(await screen.findByText(/nothing would come in/)).toBeTruthy();
    expect(enabled('Open it')).toBe(true);
  });

  it('of a batch that was worked on since asks before it brings it in as one of its own', async () => {
    await show((choices) => ({ batch: { id: BATCH, name: 'Boat tags', state: 'differs', choice: choices[BATCH] ?? null }, ready: BATCH in choices })); // prettier-ignore
    expect(await screen.findByText('This batch is here already')).toBeTruthy();
    expect(enabled('Read it in')).toBe(false);
    await userEvent.click(screen.getByRole('radio', { name: 'bring it in as a batch of its own' }));
    await waitFor(() => expect(enabled('Read it in')).toBe(true));
  });

  it('says why a file is refused, by its name, and nothing can be pressed', async () => {
    const message = 'boat-tags-job.zip is damaged: readings.csv in it is not as it was written. Nothing was changed.';
    await show(() => ({}), message);
    expect(await screen.findByText(message)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Read it in' })).toBeNull();
  });
});
