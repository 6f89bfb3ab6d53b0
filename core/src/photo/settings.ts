import type { Vec } from '../geometry';
import type { Mm, Rad, Share } from '../units';

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

/** A piece of stock as a photograph showed it, with holes and knots. Bed frame, mm. */
export interface SeenOffcut {
  readonly outline: readonly Vec[];
  readonly defects: readonly (readonly Vec[])[];
}

/** What is chosen and was found where blanks lie anywhere under a camera. */
export interface PhotoSettings {
  /** Blanks that are engraved as they lie, or offcuts that parts are laid into and cut from. */
  readonly use: 'blanks' | 'offcuts';
  /** Height of the camera over the bed, mm. */
  readonly cameraHeight: Mm;
  /** Distance of the marks from the bed's edges, mm. */
  readonly inset: Mm;
  /** Free between parts, kerf not counted, mm. */
  readonly gap: Mm;
  /** Parts lie along the bed's x, as the grain runs, or by any quarter turn. */
  readonly grain: 'along' | 'any';
  readonly offcuts: readonly SeenOffcut[];
  /** Area of parts over the stock they take, 0 to 1; null before they are laid. */
  readonly density: Share | null;
  /** Blanks of the last photograph, in reading order; parts as they were laid into its offcuts. */
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
  use: 'blanks',
  gap: 1,
  grain: 'along',
  offcuts: [],
  density: null,
  cameraHeight: 700,
  inset: 20,
  found: [],
  left: 0,
  spread: null,
  marks: 0,
  afterLoad: 0,
  takenAt: null,
};
