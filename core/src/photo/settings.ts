import type { Mm, Rad } from '../units';

/** A blank that a photograph showed, as it was accepted. Bed frame. */
export interface AcceptedBlank {
  readonly x: Mm;
  readonly y: Mm;
  readonly angle: Rad;
  /** A person must say whether it is one, and how it lies. */
  readonly ask: boolean;
  readonly why: string;
  /** Standard uncertainty of its middle per axis, and of its angle. */
  readonly doubt: Mm;
  readonly turn: Rad;
}

/** What is chosen and was found where blanks lie anywhere under a camera. */
export interface PhotoSettings {
  /** Height of the camera over the bed, mm. */
  readonly cameraHeight: Mm;
  /** Distance of the marks from the bed's edges, mm. */
  readonly inset: Mm;
  /** Blanks of the last photograph, in reading order. */
  readonly found: readonly AcceptedBlank[];
  /** Things on the bed that were left out. */
  readonly left: number;
  /** Spread of the marks' residuals, mm; null when nothing was taken. */
  readonly spread: Mm | null;
  readonly marks: number;
  /** Number of the last load before it was taken. */
  readonly afterLoad: number;
  readonly takenAt: string | null;
}

export const freshPhoto: PhotoSettings = {
  cameraHeight: 700,
  inset: 20,
  found: [],
  left: 0,
  spread: null,
  marks: 0,
  afterLoad: 0,
  takenAt: null,
};
