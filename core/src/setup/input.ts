import type { Artwork, LetteringSettings, PieceLook, SerialNumbers, ZoneContent } from '../artwork';
import type { Machine, Recipe } from '../burn';
import type { Correction } from '../correct';
import type { Drive, Reads, RingReading } from '../drive';
import type { Feeder, FeedReading } from '../feeder';
import type { Contour } from '../geometry';
import type { Blank, FixtureBasis } from '../holding';
import type { WorkModel } from '../marks';
import type { BurnedPicture } from '../picture';
import type { Piece } from '../runs';
import type { Beside, Chosen, FrozenBeside, HeldSection } from './held';
import type { ShopStep } from './shop-step';
import type { LoadNumber, Mm, Share } from '../units';

/** One reading of a mark, in the coordinates the machine shows. */
export interface MarkReading {
  readonly id: string;
  readonly mark: number;
  readonly x: Mm;
  readonly y: Mm;
  readonly source: 'typed' | 'simulated machine';
  readonly at: string;
  readonly by: string;
  /** `reread` is the second look at the first mark. */
  readonly purpose: 'place' | 'reread';
}

export interface FixtureRevision {
  readonly id: string;
  readonly fixtureId: string;
  readonly name: string;
  readonly revision: number;
  readonly held: Chosen;
  readonly beside: FrozenBeside;
  readonly basis: FixtureBasis;
  readonly savedAt: string;
  readonly savedBy: string;
}

export interface PlaceSettings {
  /** Turn the file to the board, or the board to the file. */
  readonly school: 'file' | 'work';
  /** How a print is fitted to its marks; `auto` takes the smallest model that agrees. Boards are always rigid. */
  readonly model: 'auto' | WorkModel;
  /** Moves of the burn that were accepted, oldest first; those of another laying say nothing any more. */
  readonly corrections?: readonly Correction[] | undefined;
}

export interface BurnChoice {
  readonly sweep: 'piece' | 'row';
  /** The recipe of boards, gauges, pins and cradles; absent while nobody chose one. */
  readonly stockRecipeId?: string | null | undefined;
}

export interface CloseNotes {
  readonly notes: string;
  readonly keep: string;
}

/** What was seen on single pieces before they were laid down. */
export interface Looks {
  readonly pieces: readonly PieceLook[];
}

export interface LetteringChoice extends LetteringSettings {
  readonly zoneId: string | null;
}

/** A picture as a face carries it. */
export interface PictureOnFace extends BurnedPicture {
  readonly kind: 'picture';
}

/** What is engraved at one zone of a round blank. */
export interface FaceChoice {
  readonly zoneId: string;
  readonly content:
    | { readonly kind: 'lettering' }
    | {
        readonly kind: 'art';
        readonly name: string;
        readonly contours: readonly Contour[];
        /** As large as its zone takes it, or as its file says; absent: as large as its zone takes it. */
        readonly size?: 'fit' | 'true' | undefined;
      }
    | PictureOnFace;
  readonly reads: Reads;
  /** The same this many times, evenly round the blank. */
  readonly repeats: number;
  /** All the way round: scaled to meet itself at the seam. */
  readonly wraps: boolean;
}

/** A witness ring that was read, with when and by whom. */
export interface RingEntry extends RingReading {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  /** Batch it was burned for; rings of the same drive and blank count for all. */
  readonly batchId: string;
}

/** A long feed that was measured, with when and by whom. */
export interface FeedEntry extends FeedReading {
  readonly id: string;
  readonly at: string;
  readonly by: string;
}

/** The parts of a setup that the operator chooses; each is saved as it changes. */
export interface SetupSections {
  readonly held: HeldSection;
  readonly beside: Beside;
  readonly lettering: LetteringChoice;
  readonly back: BackSettings;
  /** What goes where on a round blank. */
  readonly faces: readonly FaceChoice[];
  /** What zones carry beside their lettering; none in what was kept before it could be. */
  readonly contents?: readonly ZoneContent[] | null | undefined;
  readonly place: PlaceSettings;
  readonly burn: BurnChoice;
  readonly looks: Looks;
  readonly close: CloseNotes;
}

export interface Putback {
  readonly id: string;
  readonly setting: string;
  readonly was: string;
  readonly now: string;
  readonly restoredAt: string | null;
}

/** A setting that stands in the machine as another batch left it, with what it is to be put back to. */
export interface Elsewhere {
  /** The other batch's name. */
  readonly batch: string;
  readonly setting: string;
  readonly was: string;
  readonly now: string;
}

/** Everything a batch is reckoned from. */
export interface BatchInput {
  readonly name: string;
  readonly quantity: number;
  readonly spares: number;
  readonly tolerance: Mm;
  readonly blank: Blank;
  readonly machine: Machine;
  readonly recipe: Recipe | null;
  /** A recipe for the back of its own. */
  readonly backRecipe: Recipe | null;
  /** What boards, gauges, pins and cradles are made with: they are of another material than the pieces. */
  readonly stockRecipe: Recipe | null;
  readonly fixture: FixtureRevision | null;
  readonly setup: SetupSections;
  readonly readings: readonly MarkReading[];
  readonly roster: readonly Readonly<Record<string, string>>[];
  readonly pieces: readonly Piece[];
  /** The last load that was judged before the work was laid as it lies; 0 where none was. */
  readonly laidAfter?: LoadNumber;
  readonly firstApproved: boolean;
  /** Whether its customer has not approved the proof as it is now; nothing where nobody is asked. */
  readonly customerWaits?: boolean;
  readonly ticks: readonly string[];
  readonly putbacks: readonly Putback[];
  /** What others left changed on its machine, where it did not set the same thing since. */
  readonly elsewhere: readonly Elsewhere[];
  readonly drive: Drive | null;
  readonly rings: readonly RingEntry[];
  readonly feeder: Feeder | null;
  /** Every feeder of the shop, to name one that takes what this one does not. */
  readonly feeders: readonly Feeder[];
  /** Long feeds of this batch's feeder that were measured, oldest first. */
  readonly feedReadings: readonly FeedEntry[];
  readonly closedAt: string | null;
  /** The artworks of the Shelf that its contents are of. */
  readonly artworks?: readonly Artwork[];
  /** Recipes that some styles of its art are burned by, beside its own. */
  readonly artRecipes?: readonly Recipe[];
  /** Serial numbers that its pieces have, each once in the shop. */
  readonly serials?: readonly SerialNumbers[];
  /** What stands against artworks on its faces, in sentences: they are not there as they were chosen. */
  readonly artAmiss?: readonly string[];
  /** Steps that the shop added to its blank, material, way or machine, oldest first. */
  readonly shopSteps?: readonly ShopStep[];
}

/** What is engraved on the back of pieces that are cut from a sheet, and how. */
export interface BackSettings extends LetteringSettings {
  readonly zoneId: string | null;
  /** A recipe of its own; null burns as the front does. */
  readonly recipeId: string | null;
  /** Energy on the surface against that recipe: 1.2 burns a fifth darker. */
  readonly deeper: Share;
}
