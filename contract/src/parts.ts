/**
 * A batch crosses the wire in parts: what asks says which parts it has, and is sent the others only. A tick on a batch
 * of a thousand names is answered by its ticks, not by the names.
 */

/** Request: the parts that are there already, as `name=mark` with spaces between. */
export const HAVE = 'bistre-have';
/** Answer: the marks of all parts; those not in the body are the ones that were there. */
export const PARTS = 'bistre-parts';
/** Answer: which build of the pages the server has; another than the page’s own says that the page is older. */
export const PAGES = 'bistre-pages';

/** Marks of parts by their names. */
export type Marks = Readonly<Record<string, string>>;

export const writeMarks = (marks: Marks): string =>
  Object.entries(marks)
    .map(([name, mark]) => `${name}=${mark}`)
    .join(' ');

/** What is not understood is left out: the part is then sent. */
export const readMarks = (header: string | null | undefined): Marks =>
  Object.fromEntries(
    (header ?? '').split(' ').flatMap((pair) => {
      const [, name, mark] = /^(\w{1,40})=([\w-]{1,40})$/.exec(pair) ?? [];
      return name && mark ? [[name, mark]] : [];
    }),
  );
