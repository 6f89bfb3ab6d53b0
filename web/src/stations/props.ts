import type { ReactNode } from 'react';
import type { BatchHandle } from '../data/use-batch';
import type { Shown } from '../data/reckon.worker';

/** What every station's sheet is given. */
export interface StationProps {
  readonly handle: BatchHandle;
  readonly shown: Shown;
  /** Puts something else in the drawing's place, e.g. the result of a simulated run. */
  readonly draw: (picture: Picture | null) => void;
}

export type Picture = { readonly head?: { x: number; y: number }; readonly node?: ReactNode };
