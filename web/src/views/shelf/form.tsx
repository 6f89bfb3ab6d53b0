import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { FieldValues } from 'react-hook-form';
import type { z } from 'zod';
import { api, type AwayKind } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import { queryClient } from '../../data/queries';
import { takeBack } from '../../data/undo';
import { DraftFields, firstError, useDraftForm } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { PutAway } from '../../parts/PutAway';
import { refusedField } from '../../parts/refused';
import { TopBar } from '../../parts/TopBar';

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
      if (!(await takeBack(change, (body) => call(api.undoShelf, { params: { id: subject }, body })))) return;
      await queryClient.invalidateQueries();
      toast('Taken back.');
      await navigate(-1);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <button className="act" title={change.summary} onClick={() => void undo()}>
      Take the last change back
    </button>
  );
};

/** A page of the Shelf about one thing; its last change can be taken back here. */
export const Page = ({
  title,
  subject,
  kind,
  children,
}: {
  title: string;
  subject?: string | undefined;
  /** What it is, where it can be put away. */
  kind?: AwayKind;
  children: ReactNode;
}) => {
  const navigate = useNavigate();
  return (
    <div className="flex min-h-dvh flex-col">
      <TopBar>Shelf</TopBar>
      <main className="mx-auto w-full max-w-4xl flex-1 px-6 py-6">
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

/**
 * A thing of the Shelf as it is filled in: saved when every field was taken and the whole is one that the server takes.
 */
export const ShelfForm = <T extends FieldValues>({
  kind,
  thing,
  fresh,
  schema,
  start,
  onSave,
  children,
}: {
  kind: AwayKind;
  thing: { readonly id: string; readonly name: string } | null;
  /** What a new one is called in the heading. */
  fresh: string;
  schema: z.ZodType<T, T>;
  start: T;
  onSave: (body: T) => Promise<unknown>;
  children: ReactNode;
}) => {
  const navigate = useNavigate();
  const form = useDraftForm(schema, start);
  const [said, setSaid] = useState<string | null>(null);
  const { isSubmitting } = form.formState;
  const save = async (body: T): Promise<void> => {
    try {
      await onSave(body);
      await queryClient.invalidateQueries();
      toast('Saved.');
      await navigate(`/shelf/${kind}`);
    } catch (error) {
      setSaid(messageOf(error));
    }
  };
  return (
    <Page kind={kind} subject={thing?.id} title={thing ? thing.name : fresh}>
      <DraftFields form={form} schema={schema}>
        {children}
      </DraftFields>
      {said && <Finding tone="out">{said}</Finding>}
      <p className="mt-3 flex gap-3">
        <button
          className="act act-main"
          disabled={isSubmitting}
          onClick={(event) => {
            const wrong = refusedField(event.currentTarget.closest('main')!);
            setSaid(wrong);
            if (wrong === null) void form.handleSubmit(save, (errors) => setSaid(firstError(errors)))();
          }}
        >
          Save
        </button>
        <button className="act" onClick={() => void navigate(`/shelf/${kind}`)}>
          Leave it
        </button>
      </p>
    </Page>
  );
};

/** Something that was measured before, by date. */
export const onDate = (at: string): string => new Date(at).toLocaleDateString('en-GB');
