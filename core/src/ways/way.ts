import type { ZoneContent } from '../artwork';
import type { Pictures } from '../picture';
import type { Problem, Result } from '../result';
import type {
  BatchInput,
  BatchReckoning,
  Comes,
  Held,
  HeldBatch,
  WayId,
  ReckonOptions,
  Drawing,
  RunWords,
  StationId,
  StationState,
  Step,
  TimeEstimate,
} from '../setup';
import type { Ordinal, SlotNumber } from '../units';

export type State = Omit<StationState, 'id'>;

/** The stations whose state is a way's own; the others are true of every batch. */
export type OwnStation = 'hold' | 'drive' | 'feed' | 'place';

/** One piece that goes on next: its line of the roster, from 1, and the place it goes to. */
export interface Fill {
  readonly ordinal: Ordinal;
  readonly slot: SlotNumber;
}

/** What a run waits for, in words. */
export interface RunWaits {
  /** Nothing was ever laid on. */
  first(batch: HeldBatch): string;
  /** The next load. */
  next(r: BatchReckoning): string;
  /** A load is on. */
  look(r: BatchReckoning): string;
}

/** What a file is written with beside the batch. */
export interface FileKit {
  readonly title: string;
  readonly pictures: Pictures;
  /** Told the share that is written, where that takes long. */
  readonly progress?: (share: number) => void;
}

/** Makes a drawing, or says what stands against it and where that is mended. */
export type Drawer = (input: BatchInput, r: BatchReckoning, title: string) => Result<Drawing>;
/** Makes a program for the machine, at once or in chunks. */
export type Programmer = (input: BatchInput, r: BatchReckoning, kit: FileKit) => Result<string | Generator<string>>;
export type Lister = (r: BatchReckoning) => Result<readonly (readonly string[])[]>;

export type DrawingName =
  | 'board'
  | 'load'
  | 'marks'
  | 'wrap'
  | 'template'
  | 'cradle'
  | 'card'
  | 'grid'
  | 'locator'
  | 'pins'
  | 'pin-gauge'
  | 'stand'
  | 'square';
export type ProgramName =
  | 'board'
  | 'load'
  | 'walk'
  | 'target'
  | 'strip'
  | 'marks'
  | 'ring'
  | 'letter'
  | 'card'
  | 'grid'
  | 'pins'
  | 'square'
  | 'turn';
/** A file by its name: a drawing, whatever it is written as, or a program. */
export type FileKey = DrawingName | `${ProgramName}.gcode`;
/** What must be there before a file can be made, as far as that is told without making it; what is there already is left out. */
export type Needs = (input: BatchInput, r: BatchReckoning) => readonly (Problem | null)[];
/** Papers whose layout is drawn elsewhere: what is printed and cut, marks for the camera, a template to wrap. */
export type PaperName = 'print' | 'marks' | 'template';

/** The files that a way has; what is not here there is no such file of. */
export interface WayFiles {
  readonly drawings: { readonly [N in DrawingName]?: Drawer } & { readonly load: Drawer };
  readonly programs: { readonly [N in ProgramName]?: Programmer } & {
    readonly load: Programmer;
    readonly walk: Programmer;
  };
  /** What each of them waits for, beside its recipe. */
  readonly needs: { readonly [K in FileKey]?: Needs };
  readonly lists?: { readonly locator?: Lister };
  readonly papers?: readonly PaperName[];
}

/**
 * What every way of holding answers. A caller that wants to know which way a batch goes lacks a question here.
 * Answers are plain data: they cross to workers.
 */
export interface Way {
  readonly id: WayId;
  /** What it is, as it is offered. */
  readonly words: string;
  /** Whether work of this form can be held so: flat, or round. */
  suits(shape: { readonly kind: string }): boolean;
  /** How work comes that is held so. */
  readonly comes: readonly Comes[];
  /** What it is good for, in a sentence. */
  readonly good: string;
  /** What a batch of this name begins with, by how its work comes where that makes a difference. */
  fresh(name: string, comes?: Comes): Held;
  /** What a board that is cut keeps of what was reckoned; absent where nothing is. */
  readonly asBuilt?: (held: Held, r: BatchReckoning) => Held;
  /** What is mounted for it, as a setup sheet says it; absent where that is a board. */
  readonly mounted?: (input: BatchInput, r: BatchReckoning) => string;
  /** What its board or sheet has for pieces, in words; absent where pieces have no places of their own. */
  readonly places?: (r: BatchReckoning) => string;
  /** What is left of what was seen once a strip or sheet is done. */
  readonly forget?: (held: Held) => Held;
  /** The tick by which the other side lies up; absent where work has one. */
  readonly turnedBy?: string;
  /** Findings that are of the board or the blank, and hold on another machine too. */
  readonly stays?: readonly string[];
  /** The stations of a batch, in order. */
  route(batch: HeldBatch): readonly StationId[];
  /** Whether pieces are measured before: what is cut out of its sheet is as large as it is drawn. */
  measures(batch: HeldBatch): boolean;
  /** Whether the rest waits until somebody approved the first piece. */
  firstAlone(batch: HeldBatch): boolean;
  /** What its zones carry beside their lettering; round work has faces for that. */
  readonly carries: (batch: HeldBatch) => readonly ZoneContent['kind'][];
  /** Whether anything on it comes from the roster. */
  names(batch: HeldBatch): boolean;
  /** Whether pieces are laid on one by one, and their faces and defects looked at before. */
  readonly looks: boolean;
  reckon(input: BatchInput, options: ReckonOptions): BatchReckoning;
  readonly stations: { readonly [S in OwnStation]?: (input: BatchInput, r: BatchReckoning) => State };
  /** Steps of all stations before the closing, in the order they are done. */
  steps(input: BatchInput, r: BatchReckoning): Step[];
  readonly waits: RunWaits;
  readonly files: WayFiles;
  /** Time to burn the load that is on, and the whole batch; null while that cannot be known. */
  time(input: BatchInput, r: BatchReckoning): TimeEstimate | null;
  /** What must be there before anything is laid on; null when it is. */
  ready(input: BatchInput, r: BatchReckoning): Problem | null;
  /** What the next load is filled with; empty when there is nothing to fill it with. */
  next(input: BatchInput, r: BatchReckoning): Result<readonly Fill[]>;
  /** The marks that the work has as it lies. */
  marks(r: BatchReckoning): Result<readonly number[]>;
  /** What of the open load is not burned yet, so that none of it can be done; null when all is. */
  unburned(r: BatchReckoning): Problem | null;
  /** Whether measured pieces can move the whole burn: until the work is laid anew, or for every sheet alike. */
  readonly corrects: false | 'this laying' | 'every sheet';
  /** What leaves the bed once the last piece of a load is judged, and takes its marks along. */
  leaves(r: BatchReckoning): 'nothing' | 'sheet' | 'strip';
  /** Taking the next load, as the button that does it says; `first` while the rest waits for approval. */
  take(r: BatchReckoning, first: boolean): string;
  /** What the load’s file burns, in words. */
  burned(r: BatchReckoning): string;
  /** What is put away at the end. */
  putAway(r: BatchReckoning): RunWords;
}
