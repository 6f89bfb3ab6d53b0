import { batchInput, type BatchDocument } from '@bistre/contract';
import {
  alphabetsIn,
  batchArt,
  reckonBatch,
  type Alphabet,
  type BatchArt,
  type BatchReckoning,
  type ReckonOptions,
} from '@bistre/core';

const kept = new Map<string, Alphabet>();
const LABELS = 'readability';

const need = async (ids: readonly string[]): Promise<Record<string, Alphabet>> => {
  await Promise.all(
    [...new Set([...ids, LABELS])]
      .filter((id) => !kept.has(id))
      .map(async (id) => {
        const response = await fetch(`/api/alphabets/${id}`);
        if (response.ok) kept.set(id, (await response.json()) as Alphabet);
      }),
  );
  return Object.fromEntries(kept);
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
  const known = shapes.get(key) ?? (here ? Promise.resolve(here) : fetched());
  shapes.set(key, known);
  known.catch(() => shapes.delete(key));
  return known;
};

const withShapes = (artworks: Carried): Promise<Carried> =>
  Promise.all(artworks.map(async (a) => ({ ...a, shapes: await shapesOf(a.id, a.revision, a.shapes) })));

/** How what carries no lettering yet is reckoned. */
export const plainOptions = async (): Promise<Omit<ReckonOptions, 'simulatedPieces'>> => ({
  now: new Date(),
  alphabets: await need([]),
  labels: LABELS,
});

/** A batch reckoned in a worker; `pieces` is the size of the simulation behind the budget. */
export const prepare = async (
  batch: BatchDocument,
  pieces: number,
): Promise<{ input: ReturnType<typeof batchInput>; reckoning: BatchReckoning }> => {
  const input = batchInput({ ...batch, artworks: await withShapes(batch.artworks) });
  const alphabets = await need(alphabetsIn(input.setup));
  return {
    input,
    reckoning: reckonBatch(input, {
      now: new Date(),
      alphabets,
      labels: LABELS,
      simulatedPieces: pieces,
      art: artOf,
    }),
  };
};
