import { Popover } from 'radix-ui';
import { manyWords, useWaiting } from '../data/outbox';

/** What is kept in this browser because the server does not take it at the moment: how much, of what, and why. */
export const Waits = () => {
  const { kept, away } = useWaiting();
  const waiting = kept.filter((k) => !k.refused);
  if (away === null || waiting.length === 0) return null;
  return (
    <span role="status" className="min-w-0 shrink">
      <Popover.Root>
        <Popover.Trigger className="block max-w-80 truncate font-bold text-ochre underline decoration-dotted underline-offset-4">
          {waiting.length} {waiting.length === 1 ? 'change waits' : 'changes wait'}: {manyWords(waiting)}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            collisionPadding={12}
            sideOffset={6}
            className="z-50 w-96 max-w-[94vw] border border-ink bg-sheet p-4 whitespace-normal"
            aria-label="What waits"
          >
            <p>{away}</p>
            <p className="mt-2">
              Kept in this browser, through a reload too, and sent by itself in this order once it answers. Go on
              working.
            </p>
            <ol className="mt-2 list-decimal pl-6">
              {waiting.map((k) => (
                <li key={k.seq}>
                  {k.words} <span className="text-soft">{new Date(k.madeAt).toTimeString().slice(0, 5)}</span>
                </li>
              ))}
            </ol>
            <Popover.Arrow className="fill-ink" />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
};
