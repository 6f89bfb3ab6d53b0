import { AlertDialog } from 'radix-ui';
import { create } from '../data/store';

interface Question {
  readonly title: string;
  readonly text: string;
  readonly yes: string;
  readonly no: string;
  readonly answer: (yes: boolean) => void;
}

const question = create<Question | null>(null);

/** Asks one question over the page; resolves to the answer. A question that is left unanswered is a no. */
export const ask = (title: string, text: string, yes: string, no = 'Leave it'): Promise<boolean> =>
  new Promise((answer) => {
    question.get()?.answer(false);
    question.set({ title, text, yes, no, answer });
  });

/** Where questions are shown; once around the pages. */
export const AskHost = () => {
  const asked = question.use();
  const answer = (yes: boolean): void => {
    asked?.answer(yes);
    question.set(null);
  };
  return (
    <AlertDialog.Root open={asked !== null} onOpenChange={(open) => !open && answer(false)}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-50 bg-black/45" />
        <AlertDialog.Content className="fixed left-1/2 top-1/2 z-50 w-[94vw] max-w-xl -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-6">
          <AlertDialog.Title className="text-lg font-bold">{asked?.title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2">{asked?.text}</AlertDialog.Description>
          <p className="mt-5 flex justify-end gap-3">
            <AlertDialog.Cancel className="act">{asked?.no}</AlertDialog.Cancel>
            <AlertDialog.Action className="act act-main" onClick={() => answer(true)}>
              {asked?.yes}
            </AlertDialog.Action>
          </p>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
};
