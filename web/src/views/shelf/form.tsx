import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type AwayKind } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import { queryClient } from '../../data/queries';
import { takeBack } from '../../data/undo';
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

/** Runs a save, says how it went. */
export const useSave = (): {
  busy: boolean;
  problem: string | null;
  save: (job: () => Promise<unknown>, after: string) => void;
} => {
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  return {
    busy,
    problem,
    save: (job, after) => {
      setBusy(true);
      setProblem(null);
      job()
        .then(async () => {
          await queryClient.invalidateQueries();
          toast('Saved.');
          void navigate(after);
        })
        .catch((error: unknown) => setProblem(messageOf(error)))
        .finally(() => setBusy(false));
    },
  };
};

/** Save, or leave without saving. */
export const Buttons = ({
  busy,
  problem,
  onSave,
  back,
}: {
  busy: boolean;
  problem: string | null;
  onSave: () => void;
  back: string;
}) => {
  const navigate = useNavigate();
  const [refused, setRefused] = useState<string | null>(null);
  const said = refused ?? problem;
  return (
    <>
      {said && <Finding tone="out">{said}</Finding>}
      <p className="mt-3 flex gap-3">
        <button
          className="act act-main"
          disabled={busy}
          onClick={(event) => {
            const wrong = refusedField(event.currentTarget.closest('main')!);
            setRefused(wrong);
            if (wrong === null) onSave();
          }}
        >
          Save
        </button>
        <button className="act" onClick={() => void navigate(back)}>
          Leave it
        </button>
      </p>
    </>
  );
};
