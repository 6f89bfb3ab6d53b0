import { readlinkSync } from 'node:fs';
import { constants, setPriority } from 'node:os';

/** The operating system's number of this thread; 0 where it does not tell. */
export const threadNumber = (): number => {
  try {
    return Number(readlinkSync('/proc/thread-self').split('/').pop());
  } catch {
    return 0;
  }
};

/** Lets the server's own thread go first when the cores are few. */
export const stepBack = (): void => {
  const thread = threadNumber();
  if (thread === 0) return;
  try {
    setPriority(thread, constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // Not allowed here: the threads share alike.
  }
};
