import type { ComponentType, ReactNode } from 'react';
import type { BatchDocument, FileName, SimRunView } from '@bistre/contract';
import type { StationId, Step, Vec, Ordinal, SlotNumber } from '@bistre/core';
import type { Shown } from '../data/shown';
import type { BatchHandle } from '../data/use-batch';
import type { DrawnPiece } from '../drawing/board';

/** A batch and what follows from it: what every part of a page is given. */
export interface BatchProps {
  readonly handle: BatchHandle;
  readonly shown: Shown;
}

export type Picture = {
  readonly head?: Vec;
  readonly node?: ReactNode;
  /** One piece, as large as there is room, to move what lies in its zones. */
  readonly placing?: true;
};

/** What every station's sheet is given. */
export interface StationProps extends BatchProps {
  readonly pages: WayPages;
  /** Puts something else in the drawing's place, e.g. the result of a simulated run. */
  readonly draw: (picture: Picture | null) => void;
  /** How a simulated run came out, for the judging of its pieces. */
  readonly onRun: (run: SimRunView | null) => void;
}

export interface DrawingProps extends BatchProps {
  readonly station: StationId;
  /** The step of the bench view; null beside a station's sheet, where a drawing may be changed by hand. */
  readonly step: Step | null;
  /** Where the head stands, bed frame, mm. */
  readonly head?: Vec | undefined;
  readonly states?: readonly DrawnPiece[];
}

export type Files = readonly (readonly [FileName, string])[];

/** What the Hold station shows of a way. */
export interface HoldPages {
  readonly Settings: ComponentType<BatchProps>;
  readonly Reckon: ComponentType<BatchProps>;
  /** Files that the work needs before it is laid on. */
  readonly Files?: ComponentType<BatchProps>;
  /** Findings that are taken here. */
  readonly Check?: ComponentType<BatchProps>;
  /** What is kept on the Shelf, and what a kept one was made with; null where nothing is. */
  readonly kept: { readonly noun: 'board' | 'sheet'; readonly words: (batch: BatchDocument) => string } | null;
  /** Whether pins, a stand and tall things may stand beside the work. */
  readonly aids: boolean;
  /** Whether its settings say themselves what stands against it. */
  readonly saysProblem?: boolean;
}

/** What the Run station and the bench view say of a way while pieces are made. */
export interface RunPages {
  /** Why no roster is needed, and whether one may be brought in all the same. */
  readonly noNames: (shown: Shown) => { readonly words: string; readonly bring: boolean };
  /** Pieces are lettered, and burned, on both faces. */
  readonly bothFaces: boolean;
  /** One piece at a time is on, not a load of them. */
  readonly alone: boolean;
  /** Whether the load can be had as dots. */
  readonly dots: (shown: Shown) => boolean;
  /** Whether there is something to lay on; the server says why where there is not. */
  readonly ready?: (shown: Shown) => boolean;
  /** The program of the load, where pictures make it more than a file; null where it is one. */
  readonly program?: (batch: BatchDocument) => ReactNode | null;
  /** Runs the load's file on the simulated machine. */
  readonly Simulated: ComponentType<StationProps>;
  /** What must be burned elsewhere before pieces are judged; null when all is. */
  readonly elsewhere?: (props: BatchProps) => ReactNode | null;
  /** At the bench: that the work lies there, what is looked at, and how it is burned on the simulated machine. */
  readonly laid: string;
  readonly place: (slot: SlotNumber, ordinal: Ordinal | undefined) => string;
  readonly Burn: ComponentType<{ readonly handle: BatchHandle }>;
}

/** What the pages show of a way of holding: only what differs. */
export interface WayPages {
  readonly Drawing: ComponentType<DrawingProps>;
  /** Sheets of stations that this way has for itself. */
  readonly stations?: { readonly [S in StationId]?: ComponentType<StationProps> };
  readonly hold: HoldPages | null;
  readonly run: RunPages;
  /** What a step of the bench view takes, where only this way has such a step. */
  readonly Take?: ComponentType<BatchProps & { readonly step: Step }>;
}
