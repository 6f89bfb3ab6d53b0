import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import type { z } from 'zod';
import { api, type BatchDocument } from '@bistre/contract';
import { listed, pieceCount, wayOf, type Roster } from '@bistre/core';
import { messageOf, newId } from '../../data/api';
import { AT_NEXT } from '../../data/at-next';
import { useBatch } from '../../data/use-batch';
import { KEPT, useWrite } from '../../data/write';
import { DraftFields, Field, Fields, useDraftForm } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { mayLeave, useEscape } from '../../parts/leave';
import { refusedField } from '../../parts/refused';
import { TopBar } from '../../parts/TopBar';
import { Begin } from './Begin';
import { Names } from './Names';

const schema = api.againBatch.body.pick({ name: true, quantity: true, spares: true, dueAt: true });
type Values = z.infer<typeof schema>;

/** Everything that comes along, in words. */
const Along = ({ batch }: { batch: BatchDocument }) => {
  const art = [...batch.artworks.map((a) => `${a.name} r${a.revision}`), ...batch.setup.lettering.lines.map((l) => `${l.column} in ${l.capHeight} mm`)]; // prettier-ignore
  const lines = [
    ['Piece', batch.blank.name],
    ['Machine', batch.machine.name],
    ['Held', `${wayOf(batch).words}${batch.fixture ? `: ${batch.fixture.name} r${batch.fixture.revision}` : ''}`],
    ['On it', art.length > 0 ? listed(art) : 'nothing yet'],
    ['Recipe', batch.recipe?.name ?? 'none yet'],
    ['Tolerance', `± ${batch.tolerance.toFixed(2)} mm`],
    ...(batch.setup.close.keep ? [['Kept for this time', batch.setup.close.keep]] : []),
  ];
  return (
    <dl className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1.5">
      {lines.map(([term, words]) => (
        <div key={term} className="contents">
          <dt className="text-soft">{term}</dt>
          <dd className="font-bold">{words}</dd>
        </div>
      ))}
    </dl>
  );
};

const Asked = ({ batch }: { batch: BatchDocument }) => {
  const navigate = useNavigate();
  const { name, quantity, spares } = batch;
  const form = useDraftForm<Values>(schema, { name, quantity, spares, dueAt: null });
  const writing = useWrite();
  const [roster, setRoster] = useState<Roster | null>(null);
  const [begun, setBegun] = useState<{ id: string; since: readonly string[] } | null>(null);
  const lettered = batch.setup.lettering.lines.map((l) => l.column);
  const missing = roster ? lettered.filter((c) => !roster.columns.includes(c)) : [];
  const bring = (list: Roster | null): void => {
    setRoster(list);
    if (list && !form.getFieldState('quantity').isDirty) form.setValue('quantity', list.rows.length);
  };
  const { isDirty } = form.formState;
  const leave = async (): Promise<void> => {
    if (await mayLeave(isDirty || roster !== null)) void navigate(-1);
  };
  useEscape(() => void leave());
  const go = (id: string): void => void navigate(`/batches/${id}/blank`, { state: AT_NEXT });
  const begin = async (values: Values): Promise<void> => {
    const list = roster && { columns: [...roster.columns], rows: roster.rows.map((r) => ({ ...r })) };
    try {
      const body = { ...values, id: newId(), ...(list ? { roster: list } : {}) };
      const answer = await writing.mutateAsync({ endpoint: api.againBatch, params: { id: batch.id }, body, scope: 'new', whole: true }); // prettier-ignore
      const since = answer.kept ? [] : ((answer.reply as { since?: readonly string[] } | null)?.since ?? []);
      if (answer.kept) {
        toast(KEPT);
        void navigate('/');
      } else if (since.length === 0) go(body.id);
      else setBegun({ id: body.id, since });
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  if (begun)
    return (
      <section aria-label="What changed since">
        <h2 className="text-xl font-bold">It is begun. Since the last time:</h2>
        <ul className="my-3 list-disc pl-6 text-lg">
          {begun.since.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
        <button className="act act-main" autoFocus onClick={() => go(begun.id)}>
          Go on with it
        </button>
      </section>
    );
  return (
    <form
      className="grid grid-cols-2 gap-8 max-[900px]:grid-cols-1"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        if (refusedField(e.currentTarget) === null) void form.handleSubmit(begin)(e);
      }}
    >
      <div>
        <h2 className="part-title mb-2">Comes along</h2>
        <Along batch={batch} />
        <p className="mt-3 text-soft">
          Readings of marks, ticks and verdicts stay with the old batch: where the work lies is found anew.
        </p>
      </div>
      <div>
        <h2 className="part-title mb-2">How many, when, and whose</h2>
        <DraftFields form={form} schema={schema}>
          <div className="grid grid-cols-2 gap-3">
            <div className="col-span-2">
              <Field at="name" label="What is it called?" />
            </div>
            <Fields at="quantity spares" />
            <Field at="dueAt" />
          </div>
        </DraftFields>
        {lettered.length > 0 && (
          <div className="mt-3">
            <p className="mb-1 text-[13px] text-soft">Lettered are: {listed(lettered)}.</p>
            <Names list={roster} onList={bring} letters="Lettered as before." />
            {missing.length > 0 && (
              <Finding tone="attention">
                The list has no column {listed(missing)}. Name it so in the first line, or choose another at the Run
                station.
              </Finding>
            )}
          </div>
        )}
        <Begin waits={writing.isPending} onLeave={() => void leave()} />
      </div>
    </form>
  );
};

/** The same again: what comes along is shown, and only how many, when and whose is asked. */
export const Again = () => {
  const { id = '' } = useParams();
  const { handle, error } = useBatch(id);
  return (
    <div className="flex min-h-dvh flex-col">
      <title>The same again · Bistre</title>
      <TopBar>The same again</TopBar>
      <main className="mx-auto w-full max-w-[1240px] flex-1 px-6 py-6">
        <h1 className="mb-1 text-3xl font-bold">The same again</h1>
        {handle ? (
          <>
            <p className="mb-5 text-lg text-soft">
              as {handle.batch.name}, {pieceCount(handle.batch.quantity)}
              {handle.batch.closedAt
                ? ` of ${new Date(handle.batch.closedAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })}`
                : ''}
            </p>
            <Asked batch={handle.batch} />
          </>
        ) : (
          <p>{error ? messageOf(error) : 'Opening …'}</p>
        )}
      </main>
    </div>
  );
};
