import type { BatchDocument } from '@bistre/contract';

/** A batch's pockets with parts of their choice replaced. */
export const inPockets = (
  { setup: { held } }: BatchDocument,
  part: { readonly wall: number },
): BatchDocument['setup']['held'] => {
  if (held.way !== 'pockets') throw new Error(`The batch is held in the way ${held.way}.`);
  return { ...held, choice: { ...held.choice, ...part } };
};
