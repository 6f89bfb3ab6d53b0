import type { ZoneContent } from '../artwork';
import type { FeedFindings, FeedSettings } from '../feeder';
import type {
  BoardSettings,
  Clearance,
  CutSheet,
  LinesSettings,
  LocatorSettings,
  OwnMarks,
  PanelSettings,
  PinSettings,
  SheetSettings,
  TallThing,
} from '../holding';
import type { LongSettings } from '../long';
import type { PhotoFindings, PhotoSettings } from '../photo';
import { freshStock, type SlottedStock, type StandChoice } from '../slotted';
import type { Mm, Share } from '../units';
import type { DriveFindings, DriveSettings } from './drive-settings';

type Named = Pick<BoardSettings, 'name'>;
type Nothing = Readonly<Record<never, never>>;

/** Every way of holding work, by the shop's words: what is decided of it, and what is seen at its bench. */
export interface Ways {
  readonly pockets: { readonly choice: BoardSettings & { readonly clearance: Clearance }; readonly found: Nothing };
  readonly fence: {
    /** `pushRoom`: room to push a piece against its corner, mm. */
    readonly choice: BoardSettings & { readonly pushRoom: Mm };
    readonly found: Nothing;
  };
  readonly pegs: {
    readonly choice: BoardSettings & LinesSettings;
    /** Greatest gap between the trial in card and a blank laid on it, mm; null while it was not compared. */
    readonly found: { readonly card: Mm | null };
  };
  readonly locator: {
    readonly choice: LocatorSettings & Pick<BoardSettings, 'name' | 'boardThickness' | 'order'>;
    /** Distances between a dot and its repeat after the frame was lifted off and put back, mm; one a try. */
    readonly found: { readonly back: readonly Mm[] };
  };
  readonly sheet: { readonly choice: CutSheet & SheetSettings; readonly found: Nothing };
  readonly panel: { readonly choice: CutSheet & PanelSettings; readonly found: Nothing };
  readonly long: { readonly choice: Named & LongSettings; readonly found: Nothing };
  readonly marked: { readonly choice: Named & { readonly own: OwnMarks }; readonly found: Nothing };
  readonly feed: { readonly choice: Named & FeedSettings; readonly found: FeedFindings };
  readonly photo: { readonly choice: Named & PhotoSettings; readonly found: PhotoFindings };
  readonly drive: { readonly choice: DriveSettings; readonly found: DriveFindings };
  readonly cradle: { readonly choice: Pick<DriveSettings, 'rimFaces'>; readonly found: Nothing };
}

export type WayId = keyof Ways;

/**
 * How work is held. `choice`: what is decided, frozen into a fixture's revision. `found`: what was seen at the
 * bench, never frozen.
 */
export type Held<K extends WayId = WayId> = {
  readonly [W in K]: { readonly way: W; readonly choice: Ways[W]['choice']; readonly found: Ways[W]['found'] };
}[K];

/** What is decided alone: what a fixture's revision keeps. */
export type Chosen<K extends WayId = WayId> = {
  readonly [W in K]: { readonly way: W; readonly choice: Ways[W]['choice'] };
}[K];

/** How work is held, with the ways that were tried and left, as they stood. */
export type HeldSection = Held & { readonly left: readonly Held[] };

/** What stands beside any way: how much of the pieces is allowed for, tall things, pins, stands. */
export interface Beside {
  readonly coverage: Share;
  readonly confidence: Share;
  /** Bow of the board or of the work itself, mm. */
  readonly boardWarp: Mm;
  readonly tallThings: readonly TallThing[];
  /** Pins that hold the work down; null for none. */
  readonly pins: PinSettings | null;
  /** Board for slotted parts: cradles and stands. */
  readonly stock: SlottedStock;
  /** A stand under the work; null for none. */
  readonly stand: StandChoice | null;
}

/** What a board that was cut keeps of what stood beside it. */
export type FrozenBeside = Pick<Beside, 'coverage' | 'confidence' | 'boardWarp' | 'tallThings'>;

export const freshBeside: Beside = {
  coverage: 0.95,
  confidence: 0.95,
  boardWarp: 0,
  tallThings: [],
  pins: null,
  stock: freshStock,
  stand: null,
};

/** A batch as far as it is held: the core's own or the one that crosses the wire. */
export interface HeldBatch {
  readonly fixture: { readonly held: Chosen; readonly beside: FrozenBeside } | null;
  readonly setup: {
    readonly held: Held;
    readonly beside: Beside;
    readonly faces: readonly { readonly content: { readonly kind: string } }[];
    readonly lettering: { readonly lines: readonly unknown[] };
    readonly contents?: readonly ZoneContent[] | null | undefined;
  };
}

/** How a batch is held: as the board in hand was cut, else as it is set on screen; findings always as they are now. */
export const heldNow = ({ fixture, setup }: Pick<HeldBatch, 'fixture' | 'setup'>): Held =>
  fixture && fixture.held.way === setup.held.way
    ? ({ ...setup.held, choice: fixture.held.choice } as Held)
    : setup.held;

/** How a batch is held, where that is known; throws when it is held in another way. */
export const heldAs = <K extends WayId>(batch: Pick<HeldBatch, 'fixture' | 'setup'>, way: K): Held<K> => {
  const held = heldNow(batch);
  if (held.way !== way) throw new Error(`A batch held in the way ${held.way} was asked for ${way}.`);
  return held as Held<K>;
};

/** What stands beside a batch: as it was when its board was cut, as far as a board keeps it. */
export const besideNow = ({ fixture, setup }: Pick<HeldBatch, 'fixture' | 'setup'>): Beside => ({
  ...setup.beside,
  ...fixture?.beside,
});

/** What a board keeps when it is cut: what was decided, never what was seen. */
export const frozen = ({
  held,
  beside,
}: HeldBatch['setup']): { readonly held: Chosen; readonly beside: FrozenBeside } => {
  const { coverage, confidence, boardWarp, tallThings } = beside;
  return {
    held: { way: held.way, choice: held.choice } as Chosen,
    beside: { coverage, confidence, boardWarp, tallThings },
  };
};

/** What of the Shelf a batch needs to be held so. */
export const needsOf = ({ choice }: Held): { readonly driveId: string | null; readonly feederId: string | null } => ({
  driveId: 'driveId' in choice ? choice.driveId : null,
  feederId: 'feederId' in choice ? choice.feederId : null,
});

/** Distance that a drive's rollers are set to for a batch, mm; null for as it has it, or where nothing turns. */
export const apartOf = ({ choice }: Held): Mm | null => ('spacing' in choice ? (choice.spacing ?? null) : null);

/** Thickness of the board that is cut to hold a batch; of that for slotted parts where none is, mm. */
export const thicknessOf = (batch: Pick<HeldBatch, 'fixture' | 'setup'>): Mm => {
  const { choice } = heldNow(batch);
  return 'boardThickness' in choice ? choice.boardThickness : batch.setup.beside.stock.thickness;
};

/** Whether seams of a long piece would lie elsewhere: nothing of it may be burned then. */
export const seamsDiffer = (a: Held, b: Held): boolean => {
  const seams = ({ choice }: Held): unknown =>
    'loading' in choice ? choice : 'work' in choice && 'long' in choice.work ? choice.work.long : null;
  const [from, to] = [seams(a), seams(b)];
  return from !== null && JSON.stringify(from) !== JSON.stringify(to);
};
