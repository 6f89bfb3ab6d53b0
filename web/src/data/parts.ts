import { HAVE, PARTS, readMarks, writeMarks, type Marks } from '@bistre/contract';

interface Known {
  readonly mark: string;
  readonly part: unknown;
}

/** The parts of batches as they were last answered, by batch: kept while the page is open. */
const KNOWN = new Map<string, ReadonlyMap<string, Known>>();
const MOST_BATCHES = 6;

/** What this page has of a batch already, as a header. */
export const haveOf = (id: string): Readonly<Record<string, string>> => {
  const known = KNOWN.get(id);
  if (!known) return {};
  const marks: Marks = Object.fromEntries([...known].map(([name, { mark }]) => [name, mark]));
  return { [HAVE]: writeMarks(marks) };
};

/**
 * The whole of a batch from what was answered and what was there; a part that did not change is the very same value.
 * @returns null when a part is missing that was not there either: the whole is to be asked for
 */
export const wholeOf = (
  id: string,
  headers: Headers,
  body: Record<string, unknown>,
): Record<string, unknown> | null => {
  const marks = Object.entries(readMarks(headers.get(PARTS)));
  if (marks.length === 0) return body;
  const before = KNOWN.get(id);
  const now = new Map<string, Known>();
  const whole = { ...body };
  for (const [name, mark] of marks) {
    const old = before?.get(name);
    const same = old?.mark === mark ? old : undefined;
    if (!(name in body) && !same) {
      // So that all of it is sent then.
      KNOWN.delete(id);
      return null;
    }
    // What came again though it was there is taken as it was, so that nothing is drawn anew.
    const part = same ? same.part : body[name];
    whole[name] = part;
    now.set(name, { mark, part });
  }
  KNOWN.delete(id);
  KNOWN.set(id, now);
  if (KNOWN.size > MOST_BATCHES) KNOWN.delete([...KNOWN.keys()][0]!);
  return whole;
};
