import { useState } from 'react';
import { useNavigate } from 'react-router';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { JobChoice, JobChoices, JobPlan, JobThing } from '@bistre/contract';
import { counted, listed } from '@bistre/core';
import { lookAtJob, messageOf, readJob } from '../../data/api';
import { AT_NEXT } from '../../data/at-next';
import { Choice } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { TopBar } from '../../parts/TopBar';

/** What things of a job are, one and several. */
const KINDS: Readonly<Record<string, string>> = {
  machines: 'machine',
  blanks: 'blank',
  recipes: 'recipe',
  trials: 'trial',
  drives: 'drive',
  feeders: 'feeder',
  artworks: 'artwork',
  pictures: 'picture',
  photographs: 'photograph',
  steps: 'step',
  fixtures: 'fixture',
};
const kindOf = ({ kind }: JobThing): string => KINDS[kind] ?? kind;

const WORDS: Readonly<Record<JobChoice, string>> = { ours: 'use ours', beside: 'bring theirs in beside it' };

/** A thing that is here otherwise: in what, and what is done with it. */
const Asked = ({ thing, onChoose }: { thing: JobThing; onChoose: (choice: JobChoice) => void }) => (
  <section aria-label={thing.name} className="mb-4 border-l-4 border-ochre bg-sheet px-3 py-2">
    <p>
      <b>
        {kindOf(thing)[0]!.toUpperCase() + kindOf(thing).slice(1)} {thing.name}
      </b>{' '}
      {thing.state === 'namesake' ? 'has its name here, and is another:' : 'is here, and is otherwise:'}
    </p>
    <table className="my-1 text-[13px]">
      <thead>
        <tr className="text-left text-soft">
          <th className="pr-4 font-normal">what</th>
          <th className="pr-4 font-normal">in the file</th>
          <th className="font-normal">here</th>
        </tr>
      </thead>
      <tbody>
        {thing.differences.map((d, i) => (
          <tr key={`${d.label} ${i}`}>
            <td className="pr-4">{d.label}</td>
            <td className="pr-4">{d.theirs}</td>
            <td>{d.ours}</td>
          </tr>
        ))}
      </tbody>
    </table>
    <Choice
      label={thing.choices.includes('ours') ? 'What is done with it' : 'The batch uses a revision that is not here'}
      value={thing.choice ?? ('' as JobChoice)}
      options={thing.choices.map((c) => [c, WORDS[c]] as const)}
      onChange={onChoose}
    />
  </section>
);

/** What is recognised and what comes in, by kind. */
const Recognised = ({ things }: { things: readonly JobThing[] }) => {
  const lines = ([['same', 'Is here already'], ['new', 'Comes in']] as const).flatMap(([state, words]) => {
    const its = things.filter((t) => t.state === state);
    return its.length > 0 ? [[words, its.map((t) => `${kindOf(t)} ${t.name}`)] as const] : [];
  }); // prettier-ignore
  return (
    <dl className="mb-4 grid grid-cols-[9rem_1fr] gap-x-3 gap-y-1.5">
      {lines.map(([words, names]) => (
        <div key={words} className="contents">
          <dt className="text-soft">{words}</dt>
          <dd>
            {names.length > 12 ? `${names.slice(0, 12).join(', ')} and ${names.length - 12} more` : listed(names)}
          </dd>
        </div>
      ))}
    </dl>
  );
};

const Plan = ({ plan, choose }: { plan: JobPlan; choose: (id: string, choice: JobChoice) => void }) => {
  const { batch, things, counts } = plan;
  const asked = things.filter((t) => t.choices.length > 0);
  return (
    <>
      <h2 className="text-xl font-bold">{batch.name}</h2>
      <p className="mb-3 text-soft">with {counts.length > 0 ? listed(counts) : 'nothing done of it yet'}</p>
      {batch.state === 'same' && (
        <Finding tone="inside">This batch is here already, as it is in the file: nothing would come in.</Finding>
      )}
      {batch.state === 'differs' && (
        <section aria-label={batch.name} className="mb-4 border-l-4 border-ochre bg-sheet px-3 py-2">
          <p>
            <b>This batch is here already</b>, and was worked on since: here, or where the file was written.
          </p>
          <Choice
            label="What is done with it"
            value={batch.choice ?? ('' as JobChoice)}
            options={[['beside', 'bring it in as a batch of its own']]}
            onChange={(c) => choose(batch.id, c)}
          />
        </section>
      )}
      <Recognised things={things} />
      {asked.length > 0 && (
        <p className="mb-2">
          {counted(asked.length, 'thing')} {asked.length === 1 ? 'is' : 'are'} here otherwise. Nothing here is changed
          either way.
        </p>
      )}
      {asked.map((t) => (
        <Asked key={t.id} thing={t} onChoose={(c) => choose(t.id, c)} />
      ))}
    </>
  );
};

/** One job as one file, read in: what is here is recognised, what differs is asked. */
export const ReadIn = () => {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const [choices, setChoices] = useState<JobChoices>({});
  const plan = useQuery({
    queryKey: ['job', file?.name, file?.size, file?.lastModified, choices],
    queryFn: ({ signal }) => lookAtJob(file!, choices, signal),
    enabled: file !== null,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 0,
  });
  const bring = useMutation({
    mutationFn: () => readJob(file!, choices),
    onSuccess: ({ id }) => {
      void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'job' });
      void navigate(`/batches/${id}`, { state: AT_NEXT });
    },
  });
  const error = bring.error ?? plan.error;
  return (
    <div className="flex min-h-dvh flex-col">
      <title>Read a job in · Bistre</title>
      <TopBar>Read a job in</TopBar>
      <main className="mx-auto w-full max-w-[900px] flex-1 px-6 py-6">
        <h1 className="mb-1 text-3xl font-bold">Read a job in</h1>
        <p className="mb-4 text-lg text-soft">
          The ZIP that another Bistre, or this one, wrote of a batch: <b>One file of all</b> at Run and Close.
        </p>
        <label className="mb-5 block">
          <span className="block text-[13px] text-soft">The file of a job</span>
          <input
            type="file"
            accept=".zip,application/zip"
            onChange={(e) => {
              setChoices({});
              bring.reset();
              setFile(e.target.files?.[0] ?? null);
            }}
          />
        </label>
        {file && plan.isFetching && !plan.data && <p>Reading {file.name} …</p>}
        {error && <Finding tone="out">{messageOf(error)}</Finding>}
        {file && plan.data && !plan.error && (
          <>
            <Plan plan={plan.data} choose={(id, choice) => setChoices({ ...choices, [id]: choice })} />
            <p className="mt-4 flex justify-end gap-3">
              <button className="act" onClick={() => void navigate(-1)}>
                Leave it
              </button>
              <button
                className="act act-main"
                disabled={!plan.data.ready || plan.isFetching || bring.isPending}
                onClick={() => bring.mutate()}
              >
                {plan.data.batch.state === 'same' ? 'Open it' : 'Read it in'}
              </button>
            </p>
          </>
        )}
      </main>
    </div>
  );
};
