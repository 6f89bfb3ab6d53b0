import { useState, type ReactNode } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { FieldValues } from 'react-hook-form';
import type { z } from 'zod';
import { api, type AnyEndpoint, type AwayKind, type BodyOf } from '@bistre/contract';
import { call, CallFailed, messageOf } from '../../data/api';
import { nameOf } from '../../data/outbox';
import { takeBack } from '../../data/undo';
import { KEPT, useWrite, write } from '../../data/write';
import { DraftFields, firstError, useDraftForm } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { PutAway } from '../../parts/PutAway';
import { mayLeave, useEscape } from '../../parts/leave';
import { refusedField } from '../../parts/refused';
import { TopBar } from '../../parts/TopBar';
import { Differences, NotTaken } from './NotTaken';
import { Tip } from '../../parts/Tip';

const TakeBack = ({ subject }: { subject: string }) => {
  const navigate = useNavigate();
  const { data } = useQuery({
    queryKey: ['shelf-undo', subject],
    queryFn: () => call(api.shelfUndoable, { params: { id: subject } }),
  });
  if (!data?.change) return null;
  const { change } = data;
  const undo = async (): Promise<void> => {
    try {
      const send = (body: BodyOf<typeof api.undoShelf>) =>
        write({ endpoint: api.undoShelf, params: { id: subject }, body, scope: subject });
      if (!(await takeBack(change, send))) return;
      toast('Taken back.');
      await navigate(-1);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <Tip says={change.summary}>
      <button className="act" onClick={() => void undo()}>
        Take the last change back
      </button>
    </Tip>
  );
};

/** A page of the Shelf about one thing; its last change can be taken back here. */
export const Page = ({
  title,
  subject,
  kind,
  wide = false,
  children,
}: {
  title: string;
  /** Takes the width that a picture wants. */
  wide?: boolean;
  subject?: string | undefined;
  /** What it is, where it can be put away. */
  kind?: AwayKind;
  children: ReactNode;
}) => {
  const navigate = useNavigate();
  return (
    <div className="flex min-h-dvh flex-col">
      <title>{`${title} · Shelf · Bistre`}</title>
      <TopBar>Shelf</TopBar>
      <main className={`mx-auto w-full ${wide ? 'max-w-[1240px]' : 'max-w-4xl'} flex-1 px-6 py-6`}>
        <div className="mb-4 flex items-baseline justify-between gap-4">
          <h1 className="text-3xl font-bold">{title}</h1>
          {subject && (
            <span className="flex gap-3">
              <TakeBack subject={subject} />
              {kind && <PutAway kind={kind} id={subject} name={title} after={() => void navigate(`/shelf/${kind}`)} />}
            </span>
          )}
        </div>
        {children}
      </main>
    </div>
  );
};
/** A few fields that belong together. */
export const Group = ({ title, children }: { title: string; children: ReactNode }) => (
  <section className="mb-5">
    <h2 className="part-title mb-2">{title}</h2>
    <div className="grid grid-cols-3 gap-3">{children}</div>
  </section>
);

/** What a form of the Shelf edits, as far as all of them are alike. */
interface Thing {
  readonly id: string;
  readonly name: string;
  readonly version: number;
}

/** How a thing of the Shelf is made and changed. */
export interface Calls<T> {
  readonly create: AnyEndpoint;
  readonly save: AnyEndpoint;
  /** What is sent of what was typed. */
  readonly bodyOf?: ((typed: T, making: boolean) => object) | undefined;
}

/**
 * A form of a thing, saved through the outbox. Where somebody else saved meanwhile, both values are shown and saving
 * again means mine.
 */
export const useThing = <T extends FieldValues>({
  thing,
  start,
  schema,
  calls: { create, save, bodyOf = (typed) => typed },
  onSaved,
}: {
  thing: Thing | null;
  start: T;
  schema: z.ZodType<T, T>;
  calls: Calls<T>;
  /** Told when it was saved, or is left. */
  onSaved: () => void;
}) => {
  const form = useDraftForm(schema, start);
  const { isDirty } = form.formState;
  const leave = async (): Promise<void> => {
    if (await mayLeave(isDirty)) onSaved();
  };
  const [said, setSaid] = useState<string | null>(null);
  const [theirs, setTheirs] = useState<T | null>(null);
  const writing = useWrite();
  const scope = thing?.id ?? 'new';
  const call = nameOf(thing ? save : create);
  const put = async (typed: T): Promise<void> => {
    try {
      const answer = await writing.mutateAsync({
        endpoint: thing ? save : create,
        params: thing ? { id: thing.id } : {},
        body: bodyOf(typed, thing === null),
        scope,
        base: thing?.version ?? 0,
        whole: true,
      });
      toast(answer.kept ? KEPT : 'Saved.');
      onSaved();
    } catch (error) {
      setSaid(messageOf(error));
      const now = error instanceof CallFailed ? (error.problem.now as T | undefined) : undefined;
      if (!now) return setTheirs(null);
      const stored = Object.fromEntries(Object.keys(start).map((k) => [k, now[k] as unknown])) as T;
      setTheirs(stored);
      // Only what was typed here is mine: the rest is as it is stored now.
      form.reset(stored, { keepDirtyValues: true });
    }
  };
  /** Saves what is in the form, unless a field of it was refused. */
  const submit = (page: HTMLElement): void => {
    const wrong = refusedField(page);
    setSaid(wrong);
    if (wrong === null) void form.handleSubmit(put, (errors) => setSaid(firstError(errors)))();
  };
  const findings = (
    <>
      <NotTaken
        scope={scope}
        call={call}
        schema={schema}
        stored={start}
        onTake={(typed) => form.reset(typed, { keepDefaultValues: true })}
      />
      {said && <Finding tone="out">{said}</Finding>}
      {said && theirs && (
        <div className="my-2">
          <Differences schema={schema} theirs={theirs} mine={form.getValues()} />
          <button
            type="button"
            className="act mt-2"
            onClick={() => {
              form.reset(theirs);
              setTheirs(null);
              setSaid(null);
            }}
          >
            Take what is stored
          </button>
        </div>
      )}
    </>
  );
  return { form, submit, findings, busy: writing.isPending, leave: () => void leave() };
};

/**
 * A thing of the Shelf as it is filled in: saved when every field was taken and the whole is one that the server takes.
 */
export const ShelfForm = <T extends FieldValues>({
  kind,
  thing,
  fresh,
  schema,
  start,
  calls,
  children,
  below,
}: {
  kind: AwayKind;
  thing: Thing | null;
  /** What a new one is called in the heading. */
  fresh: string;
  schema: z.ZodType<T, T>;
  start: T;
  calls: Calls<T>;
  children: ReactNode;
  /** What is known of it beside its form; nothing of a new one. */
  below?: ReactNode;
}) => {
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const then = params.get('then');
  // Where it was begun from, within these pages.
  const back = (): void => void navigate(then?.startsWith('/') && !then.startsWith('//') ? then : `/shelf/${kind}`);
  const { form, submit, findings, busy, leave } = useThing({ thing, start, schema, calls, onSaved: back });
  useEscape(leave);
  return (
    <Page kind={kind} subject={thing?.id} title={thing ? thing.name : fresh}>
      <DraftFields form={form} schema={schema}>
        {children}
      </DraftFields>
      {findings}
      <p className="mt-3 flex gap-3">
        <button
          className="act act-main"
          disabled={busy}
          onClick={(event) => submit(event.currentTarget.closest('main')!)}
        >
          Save
        </button>
        <button className="act" onClick={leave}>
          Leave it
        </button>
      </p>
      {thing && below}
    </Page>
  );
};

/** Something that was measured before, by date. */
export const onDate = (at: string): string => new Date(at).toLocaleDateString('en-GB');
