import type { LetteringSettings } from '../artwork';
import type { Machine, Recipe } from '../burn';
import type { Blank, FixtureBasis, HoldSettings } from '../holding';
import type { Piece } from '../runs';
import type { Mm } from '../units';

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
  readonly hold: HoldSettings;
  readonly basis: FixtureBasis;
  readonly savedAt: string;
  readonly savedBy: string;
}

export interface PlaceSettings {
  /** Turn the file to the board, or the board to the file. */
  readonly school: 'file' | 'work';
}

export interface BurnChoice {
  readonly sweep: 'piece' | 'row';
}

export interface CloseNotes {
  readonly notes: string;
  readonly keep: string;
}

export interface LetteringChoice extends LetteringSettings {
  readonly zoneId: string | null;
}

/** The parts of a setup that the operator chooses; each is saved as it changes. */
export interface SetupSections {
  readonly hold: HoldSettings;
  readonly lettering: LetteringChoice;
  readonly place: PlaceSettings;
  readonly burn: BurnChoice;
  readonly close: CloseNotes;
}

export interface Putback {
  readonly id: string;
  readonly setting: string;
  readonly was: string;
  readonly now: string;
  readonly restoredAt: string | null;
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
  readonly fixture: FixtureRevision | null;
  readonly setup: SetupSections;
  readonly readings: readonly MarkReading[];
  readonly roster: readonly Readonly<Record<string, string>>[];
  readonly pieces: readonly Piece[];
  readonly firstApproved: boolean;
  readonly ticks: readonly string[];
  readonly putbacks: readonly Putback[];
  readonly closedAt: string | null;
}
