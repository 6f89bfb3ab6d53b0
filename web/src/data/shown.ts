import type {
  BatchReckoning,
  gatesOf,
  LaidArt,
  loadWords,
  Reads,
  RoundReckoning,
  StationState,
  Step,
  Vec,
  WorkedLine,
  Ordinal,
  ZonePicture,
} from '@bistre/core';

/** A batch with one side up: everything reckoned, as plain values and ready paths. */
export interface SideShown {
  readonly reckoning: Omit<BatchReckoning, 'art' | 'own'> & { readonly art: ArtShown | null; readonly own: OwnShown };
  readonly stations: readonly StationState[];
  readonly steps: readonly Step[];
  /** Taking the next load, and what its file burns, in words. */
  readonly load: ReturnType<typeof loadWords>;
  readonly boardPaths: readonly { readonly name: string; readonly kind: 'cut' | 'line' | 'fill'; readonly d: string }[];
  readonly blankPath: string;
  readonly outline: readonly Vec[];
  /** What stands against files, by their names without the ending. */
  readonly gates: ReturnType<typeof gatesOf>;
}

/** What only some ways reckon, as it crosses to the page: paths instead of cuts. */
export type OwnShown = Omit<BatchReckoning['own'], 'round'> & { readonly round?: RoundShown };

/** What the pages show of a batch. */
export interface Shown extends SideShown {
  /** Segments of a long piece; empty for everything else. */
  readonly longPaths: readonly PathsShown[];
  /** A panel with its other side up, as it will lie or lay; null for everything else. */
  readonly other: SideShown | null;
}

/** A face as the drawings show it. */
export type FaceShown = Pick<
  RoundReckoning['faces'][number],
  'zone' | 'places' | 'around' | 'along' | 'half' | 'picture'
> & {
  readonly reads: Reads;
  /** How large its art comes out, and times its own size; null where it carries none. */
  readonly size: NonNullable<RoundReckoning['faces'][number]['art']>['size'] | null;
};

/** A round blank as the pages show it: its art as ready paths and as strokes for the turning picture. */
export type RoundShown = Omit<RoundReckoning, 'faces'> & {
  readonly faces: readonly FaceShown[];
  /** Laid flat without stretch, rim up, origin at the feature on the rim, mm. */
  readonly unrolled: { readonly fill: string; readonly line: string };
  /** Strokes on the blank: angle from the feature and place from the rim, twice each; rad, mm. */
  readonly strokes: Float32Array;
};

/** What one piece carries, or one segment of a long one, as ready paths; blank or work frame, y up. */
export interface PathsShown {
  readonly fill: string;
  readonly line: string;
  readonly cut?: string;
  /** Points that bound what is burned of it, where that is one piece’s. */
  readonly hull?: readonly Vec[];
  readonly pictures?: readonly (Pick<ZonePicture, 'pictureId' | 'width' | 'height' | 'place'> & {
    /** What is light is burned. */
    readonly negative: boolean;
  })[];
}

/** Pictures as the drawings need them. */
export const picturesShown = (pictures: readonly ZonePicture[] = []): PathsShown['pictures'] =>
  pictures.map(({ pictureId, width, height, place, treatment }) => ({ pictureId, width, height, place, negative: treatment.negative })); // prettier-ignore

export interface ArtShown {
  readonly exceptions: BatchReckoning['art'] extends infer A
    ? A extends { lettering: { exceptions: infer X } }
      ? X
      : never
    : never;
  readonly capHeights: readonly number[];
  readonly problems: readonly { readonly piece: Ordinal; readonly message: string }[];
  readonly labels: readonly string[];
  /** Path of each piece on the board, blank frame, y up; by roster line. */
  readonly paths: Readonly<Record<number, PathsShown>>;
  /** Art beside the lettering, as it lies in its zones. */
  readonly laid: readonly (Pick<LaidArt, 'name' | 'box' | 'scale' | 'room' | 'edges' | 'doubt' | 'beyond'> & {
    readonly working: readonly WorkedLine[];
    readonly id: string;
    /** On how many pieces, where it differs from piece to piece; null where all have the same. */
    readonly pieces: number | null;
  })[];
}
