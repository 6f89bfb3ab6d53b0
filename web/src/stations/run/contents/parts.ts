import type { Setup, ZoneContentDocument } from '@bistre/contract';
import type { BatchProps } from '../../../ways/pages';

export type Contents = NonNullable<Setup['contents']>;
export type Of<K extends ZoneContentDocument['kind']> = Extract<ZoneContentDocument, { kind: K }>;
export type Laid = NonNullable<BatchProps['shown']['reckoning']['art']>['laid'][number];
export type Names = readonly (readonly [string, string])[];

/** What the parts of a content know beside it. */
export interface Known {
  readonly handle: BatchProps['handle'];
  /** Whether the blank is round: one recipe, and no edge to reach over. */
  readonly round: boolean;
  readonly artworks: Names;
  readonly newestOf: (artworkId: string) => number | undefined;
}

/** Columns to choose from: those of the list, and the one that is chosen though the list lacks it. */
export const columnNames = (columns: readonly string[], chosen: string): Names =>
  [...new Set([...columns, chosen])].filter((c) => c !== '').map((c) => [c, c] as const);

/** What the fields of one kind are given. */
export interface Change<C> {
  readonly content: C;
  readonly onChange: (next: C) => void;
  readonly known: Known;
}
