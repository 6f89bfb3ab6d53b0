import { batchInput, type BatchDocument } from '@bistre/contract';
import { alphabetsIn, batchArt, reckonBatch, type Alphabet, type BatchArt, type BatchReckoning } from '@bistre/core';

const alphabets = new Map<string, Alphabet>();
const LABELS = 'readability';

const need = async (ids: readonly string[]): Promise<Record<string, Alphabet>> => {
  await Promise.all(
    [...new Set([...ids, LABELS])]
      .filter((id) => !alphabets.has(id))
      .map(async (id) => {
        const response = await fetch(`/api/alphabets/${id}`);
        if (response.ok) alphabets.set(id, (await response.json()) as Alphabet);
      }),
  );
  return Object.fromEntries(alphabets);
};

let lastArt: { readonly key: string; readonly art: BatchArt } | null = null;

/** The roster as set; kept while nothing that it follows from changes, which is so for most keystrokes. */
const artOf: typeof batchArt = (blank, zone, settings, rows, set) => {
  const key = JSON.stringify([blank.holes, zone, settings, Object.keys(set), rows]);
  if (lastArt?.key !== key) lastArt = { key, art: batchArt(blank, zone, settings, rows, set) };
  return lastArt.art;
};

type Carried = BatchDocument['artworks'];
type Shapes = NonNullable<Carried[number]['shapes']>;
/** Shapes of artworks as they came first: each revision stays the same, and what follows from it is kept by it. */
const shapes = new Map<string, Promise<Shapes>>();

/** The shapes of a revision, fetched once. @throws where the server does not give them; they are asked for again then */
export const shapesOf = (id: string, revision: number, here?: Shapes): Promise<Shapes> => {
  const key = `${id} ${revision}`;
  const fetched = async (): Promise<Shapes> => {
    const response = await fetch(`/api/artworks/${id}/revisions/${revision}`);
    if (!response.ok)
      throw new Error('A file of art cannot be had from the server now. Nothing is lost; renew the page.');
    return ((await response.json()) as { shapes: Shapes }).shapes;
  };
  const kept = shapes.get(key) ?? (here ? Promise.resolve(here) : fetched());
  shapes.set(key, kept);
  kept.catch(() => shapes.delete(key));
  return kept;
};

const withShapes = (artworks: Carried): Promise<Carried> =>
  Promise.all(artworks.map(async (a) => ({ ...a, shapes: await shapesOf(a.id, a.revision, a.shapes) })));

/** A batch reckoned in a worker; `pieces` is the size of the simulation behind the budget. */
export const prepare = async (
  batch: BatchDocument,
  pieces: number,
): Promise<{ input: ReturnType<typeof batchInput>; reckoning: BatchReckoning }> => {
  const input = batchInput({ ...batch, artworks: await withShapes(batch.artworks) });
  const set = await need(alphabetsIn(input.setup));
  return {
    input,
    reckoning: reckonBatch(input, {
      now: new Date(),
      alphabets: set,
      labels: LABELS,
      simulatedPieces: pieces,
      art: artOf,
    }),
  };
};
