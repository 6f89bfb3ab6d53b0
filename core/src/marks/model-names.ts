import type { WorkModel } from './solve';

/**
 * What may have happened between a drawing and the work, smallest first: turned and shifted; printed
 * at one other scale; stretched differently along and across the sheet; sheared as well.
 */
export const MODELS = ['rigid', 'similarity', 'two-scales', 'affine'] as const satisfies readonly WorkModel[];

export const PARAMETERS: Readonly<Record<WorkModel, number>> = { rigid: 3, similarity: 4, 'two-scales': 5, affine: 6 };

export const MODEL_WORDS: Readonly<Record<WorkModel, string>> = {
  rigid: 'turned and shifted',
  similarity: 'turned, shifted and scaled',
  'two-scales': 'turned, shifted and scaled differently along and across',
  affine: 'turned, shifted, scaled and sheared',
};
