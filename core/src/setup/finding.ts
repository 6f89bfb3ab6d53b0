import type { Problem } from '../result';
import type { Ordinal } from '../units';

/** What hurts a person, a machine or a piece, or comes out wrong: no file leaves with it. */
export type Danger =
  /** A move beyond the bed. */
  | 'travel'
  /** Something stands in the way of the head or of what turns. */
  | 'collision'
  /** Something stands in the way of a whole turn. */
  | 'turn'
  /** The blank would turn without its drive, or be thrown. */
  | 'grip'
  /** Art outside its zone, over an edge, longer than one turn. */
  | 'zone'
  /** Art out of focus. */
  | 'focus'
  /** No recipe that a person chose, for this machine and material. */
  | 'recipe'
  /** Names that are not there, or cannot be set. */
  | 'roster'
  /** It is not known, or not to be believed, where the work lies. */
  | 'marks'
  /** The machine's number, or a setting of it, is not what the file counts on. */
  | 'number'
  /** A setting of the machine stands as another batch left it. */
  | 'settings'
  /** The fixture was changed since it was made. */
  | 'fixture'
  /** The blank is not what was drawn of it. */
  | 'outline';

/** Something that is remarked on at a station. With a danger it is more than that: files are refused for it. */
export interface Remark {
  readonly station: string;
  readonly message: string;
  readonly danger?: Danger;
  /** The pieces that it is true of; absent where it is true of all. */
  readonly pieces?: readonly Ordinal[];
}

/** A remark as what stands against a file, naming where it is mended. */
export const asProblem = ({ station, message, danger }: Remark): Problem => ({
  code: danger ?? 'remark',
  message,
  field: station,
});
