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

/** Shapes of artworks as they came first: each revision stays the same, and what follows from it is kept by it. */
type Carried = BatchDocument['artworks'];
const shapes = new Map<string, Carried[number]['shapes']>();
const sameShapes = (artworks: Carried): Carried =>
  artworks.map((a) => {
    const key = `${a.id} ${a.revision}`;
    const kept = shapes.get(key) ?? a.shapes;
    shapes.set(key, kept);
    return { ...a, shapes: kept };
  });

/** A batch reckoned in a worker; `pieces` is the size of the simulation behind the budget. */
export const prepare = async (
  batch: BatchDocument,
  pieces: number,
): Promise<{ input: ReturnType<typeof batchInput>; reckoning: BatchReckoning }> => {
  const input = batchInput({ ...batch, artworks: sameShapes(batch.artworks) });
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
