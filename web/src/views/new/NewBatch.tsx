import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { api, type ArtworkDocument, type BlankDocument } from '@bistre/contract';
import { boardName, type HeldSection, type Proposal, type Roster } from '@bistre/core';
import { messageOf, newId } from '../../data/api';
import { AT_NEXT } from '../../data/at-next';
import { useArtworks, useBlanks, useDrives, useFeeders, useMachines, useRecipes } from '../../data/queries';
import { KEPT, useWrite } from '../../data/write';
import { DraftFields, Field, Fields, Select, useDraftForm, usePart } from '../../parts/fields';
import { mayLeave, useEscape } from '../../parts/leave';
import { refusedField } from '../../parts/refused';
import { TopBar } from '../../parts/TopBar';
import { Begin } from './Begin';
import { Names } from './Names';
import { contentsOf, FLAT, FRESH, pieceOf, ROUND, schema, specOf, type NewBlank, type Values } from './schema';
import { useProposals, Ways, type Tools } from './Ways';

const Frame = ({ children }: { children: React.ReactNode }) => (
  <div className="flex min-h-dvh flex-col">
    <title>New batch · Bistre</title>
    <TopBar>New batch</TopBar>
    <main className="mx-auto w-full max-w-[1240px] flex-1 px-6 py-6">
      <h1 className="mb-4 text-3xl font-bold">New batch</h1>
      {children}
    </main>
  </div>
);

/** Begins a batch by three questions: which piece, what is on it, how many and when. Ways to hold it are proposed. */
export const NewBatch = () => {
  const machines = useMachines().data;
  const recipes = useRecipes().data;
  const drives = useDrives().data;
  const feeders = useFeeders().data;
  const blanks = useBlanks().data;
  const artworks = useArtworks().data;
  if (!machines || !recipes || !drives || !feeders || !blanks || !artworks)
    return (
      <Frame>
        <p>Opening …</p>
      </Frame>
    );
  if (machines.length === 0)
    return (
      <Frame>
        <p className="border border-hairline bg-sheet p-6 text-lg">
          A batch is for a machine: its bed, its corner of zero, its power.{' '}
          <Link className="link" to="/shelf/machines/new?then=/new">
            Put the first machine on the Shelf
          </Link>
          , then come back here.
        </p>
      </Frame>
    );
  return (
    <Frame>
      <Questions tools={{ machines, recipes, drives, feeders }} blanks={blanks} artworks={artworks} />
    </Frame>
  );
};

const Question = ({ n, title, children }: { n: number; title: string; children: React.ReactNode }) => (
  <fieldset className="mb-6">
    <legend className="part-title mb-2 w-full !text-[15px] !tracking-normal !normal-case">
      <b className="mr-2 text-ink">{n}</b>
      <b className="text-ink">{title}</b>
    </legend>
    {children}
  </fieldset>
);

const Piece = ({ blanks, tools }: { blanks: readonly BlankDocument[]; tools: Tools }) => {
  const [blank, put] = usePart<NewBlank>('blank');
  const { kind } = blank;
  const round = pieceOf(blank, blanks)?.spec.shape.kind === 'round' || kind === 'round';
  const materials = [...new Set(tools.recipes.map((r) => r.spec.material))];
  return (
    <div className="grid grid-cols-2 gap-3 max-[700px]:grid-cols-1">
      <div className="col-span-full">
        <Select
          label="Blank"
          value={kind === 'kept' ? blank.id : kind}
          options={[
            ['flat', 'a new flat blank …'],
            ['round', 'a new cup, glass or bar …'],
            ...blanks.map((b) => [b.id, b.name] as const),
          ]}
          onChange={(v) => put(v === 'flat' ? FLAT : v === 'round' ? ROUND : { kind: 'kept', id: v })}
        />
      </div>
      {kind !== 'kept' && (
        <>
          <Field at="blank.name" />
          <Field key={`${kind} of`} at="blank.material" suggest={materials} />
          <div key={kind} className="col-span-full grid grid-cols-3 gap-3">
            <Field at="blank.length" />
            <Field at={kind === 'flat' ? 'blank.width' : 'blank.rim'} />
            <Field at={kind === 'flat' ? 'blank.thickness' : 'blank.base'} />
          </div>
        </>
      )}
      {!round && (
        <div className="col-span-full">
          <Field at="comes" />
        </div>
      )}
    </div>
  ); // prettier-ignore
};

/** A board is called as its batch is, which may be said after the way was chosen. */
const called = (held: HeldSection, name: string): HeldSection => 'name' in held.choice ? ({ ...held, choice: { ...held.choice, name: boardName(name) } } as HeldSection) : held; // prettier-ignore

const Questions = ({
  tools,
  blanks,
  artworks,
}: {
  tools: Tools;
  blanks: readonly BlankDocument[];
  artworks: readonly ArtworkDocument[];
}) => {
  const navigate = useNavigate();
  const form = useDraftForm<Values>(schema, FRESH);
  const writing = useWrite();
  const [roster, setRoster] = useState<Roster | null>(null);
  const [own, setOwn] = useState<Proposal['id'] | null>(null);
  const now = useWatch({ control: form.control }) as Values;
  const piece = pieceOf(now.blank, blanks);
  const comes = piece?.spec.shape.kind === 'round' ? 'round' : now.comes;
  const { quantity, tolerance } = now;
  const ways = useProposals(piece, { name: 'New batch', quantity, tolerance, comes }, tools);
  const able = (ways ?? []).filter((p) => p.problem === null);
  const chosen = able.find((p) => p.id === own) ?? able[0] ?? null;
  const bring = (list: Roster | null): void => {
    setRoster(list);
    // As many as there are names, unless somebody said how many.
    if (list && !form.getFieldState('quantity').isDirty) form.setValue('quantity', list.rows.length);
  };
  const { isDirty } = form.formState;
  const leave = async (): Promise<void> => {
    if (await mayLeave(isDirty || roster !== null)) void navigate('/');
  };
  useEscape(() => void leave());
  const begin = async ({ blank, artworkId, comes: _comes, ...batch }: Values): Promise<void> => {
    const [id, blankId] = [newId(), blank.kind === 'kept' ? blank.id : newId()];
    try {
      if (blank.kind !== 'kept') {
        const body = { id: blankId, name: blank.name, spec: specOf(blank) };
        await writing.mutateAsync({ endpoint: api.createBlank, body, scope: 'new', whole: true });
        // Made, whatever becomes of the batch: the next attempt takes it from the Shelf.
        form.setValue('blank', { kind: 'kept', id: blankId });
      }
      const art = artworks.find((a) => a.id === artworkId);
      const spec = blank.kind === 'kept' ? blanks.find((b) => b.id === blank.id)?.spec : specOf(blank);
      const body = {
        ...batch,
        id,
        blankId,
        machineId: chosen?.machineId ?? tools.machines[0]!.id,
        ...(chosen ? { held: called(chosen.held, batch.name) } : {}),
        ...(spec ? contentsOf(spec, roster !== null, art ? { ...art, revision: art.revisions.length } : null) : {}),
        ...(roster ? { roster: { columns: [...roster.columns], rows: roster.rows.map((r) => ({ ...r })) } } : {}),
      };
      const answer = await writing.mutateAsync({ endpoint: api.createBatch, body, scope: 'new', whole: true });
      if (answer.kept) {
        toast(KEPT);
        void navigate('/');
      } else void navigate(`/batches/${id}/blank`, { state: AT_NEXT });
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <form
      className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)] gap-8 max-[900px]:grid-cols-1"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        if (refusedField(e.currentTarget) === null) void form.handleSubmit(begin)(e);
      }}
    >
      <div>
        <DraftFields form={form} schema={schema}>
          <Question n={1} title="Which piece?">
            <Piece blanks={blanks} tools={tools} />
          </Question>
          <Question n={2} title="What is on it?">
            <div className="grid gap-3">
              <Names list={roster} onList={bring} />
              <Field at="artworkId" label="Artwork of the Shelf" of={[['', 'none'], ...artworks.map((a) => [a.id, a.name] as const)]} />
            </div>
          </Question>
          <Question n={3} title="How many, and when?">
            <div className="grid grid-cols-3 gap-3">
              <Fields at="quantity spares tolerance" />
              <div className="col-span-2">
                <Field at="name" label="What is it called?" />
              </div>
              <Field at="dueAt" />
              <div className="col-span-2">
                <Field at="customer" />
              </div>
            </div>
          </Question>
        </DraftFields>
      </div>
      <div>
        <h2 className="part-title mb-2 !text-[15px] font-bold !tracking-normal !text-ink !normal-case">How it can be held</h2>
        <div aria-live="polite">
          {!piece || !(quantity >= 1) ? (
            <p className="text-soft">Once the piece and how many are known, the ways to hold it stand here, best first.</p>
          ) : !ways ? (
            <p className="text-soft">Reckoning every way on every machine …</p>
          ) : (
            <Ways all={ways} tolerance={tolerance} chosen={chosen} onChoose={(p) => setOwn(p.id)} />
          )}
        </div>
        <Begin waits={writing.isPending} onLeave={() => void leave()} />
      </div>
    </form>
  ); // prettier-ignore
};
