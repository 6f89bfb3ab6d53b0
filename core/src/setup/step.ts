import { CAUTIONS } from './cautions';
import type { BatchInput } from './input';
import type { Minutes } from '../units';
import type { StationId } from './station';

/** One physical step or proof. Ticked at the bench; the tick is kept with who and when. */
export interface Step {
  readonly id: string;
  readonly station: StationId;
  readonly part: 'do' | 'check';
  readonly title: string;
  readonly detail?: string;
  /** The one number to read from two metres. */
  readonly figure?: { readonly value: string; readonly unit: string; readonly label: string };
  readonly caution?: string;
  /** How long is waited, once it is begun. */
  readonly minutes?: Minutes;
  /** A photograph that the shop keeps of it. */
  readonly photoId?: string;
  /** The shop added it. */
  readonly shops?: boolean;
  /** Known from what was read or saved, without a tick. */
  readonly done?: boolean;
  /** False where it is done by what it takes alone: it cannot be ticked. */
  readonly ticked?: false;
  /** What the step takes from the operator beside a tick. */
  readonly takes?:
    | { readonly kind: 'reading'; readonly mark: number; readonly purpose: 'place' | 'reread' }
    /** Readings of real pieces. */
    | { readonly kind: 'samples' }
    | { readonly kind: 'kerf' }
    | { readonly kind: 'number' }
    | { readonly kind: 'slow' }
    | { readonly kind: 'run-out' }
    | { readonly kind: 'ring' }
    | { readonly kind: 'letter' }
    | { readonly kind: 'run' }
    /** Saving the board or sheet to the Shelf. */
    | { readonly kind: 'save' }
    /** A file that is burned now. */
    | { readonly kind: 'burn' }
    /** A long feed and what the tape shows. */
    | { readonly kind: 'feed' }
    /** Two offsets from the guide. */
    | { readonly kind: 'square' }
    | { readonly kind: 'guide' }
    /** A photograph of the bed, and what is asked about it. */
    | { readonly kind: 'photo' }
    /** Greatest gap between a blank and the trial in card. */
    | { readonly kind: 'card' }
    /** Distance of a dot and its repeat after a frame was lifted off. */
    | { readonly kind: 'back' }
    /** The pin gauge’s shank, or the fit gauge’s slot, that held. */
    | { readonly kind: 'shank' }
    | { readonly kind: 'fit' }
    /** The better face of each piece, and its defects. */
    | { readonly kind: 'look' }
    /** Which drive turns the work. */
    | { readonly kind: 'drive' }
    /** Which recipe is burned by. */
    | { readonly kind: 'recipe' }
    /** The names that the pieces carry. */
    | { readonly kind: 'roster' }
    /** Settings that go back to what they were. */
    | { readonly kind: 'putback' }
    /** The end of the batch. */
    | { readonly kind: 'close' };
  /** Files that are needed at this step: name and words. */
  readonly files?: readonly (readonly [string, string])[];
}

/** Saving the board or sheet, so that what is made from it stays as it was. */
export const saveStep = (input: BatchInput, title: string, detail: string): Step => ({
  id: 'hold.save',
  station: 'hold',
  part: 'do',
  title,
  detail,
  takes: { kind: 'save' },
  done: input.fixture !== null,
});

/** Homing before anything is aimed at. */
export const homeStep: Step = {
  id: 'place.home',
  station: 'place',
  part: 'do',
  title: 'Home the machine',
  detail: 'Nothing stands in the head’s way.',
  caution: CAUTIONS.head,
};
