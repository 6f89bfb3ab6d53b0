import { expose } from 'comlink';
import type { BatchDocument } from '@bistre/contract';
import { prepare } from './prepare';
import {
  artOnBlank,
  benchSteps,
  loadWords,
  blankOutline,
  circle,
  estimateTime,
  pieceShapes,
  readRoster,
  decodeRoster,
  stationStates,
  screenPath,
  trueOutline,
  TURNED,
  unrolledPasses,
  type BatchArt,
  type BatchInput,
  type BatchReckoning,
  type LongKind,
  type Result,
  type Roster,
  type RoundReckoning,
  type StationState,
  type Step,
  type TimeEstimate,
  type Vec,
  reckonCutOut,
  type CutOut,
} from '@bistre/core';

/** A batch with one side up: everything reckoned, as plain values and ready paths. */
export interface SideShown {
  readonly reckoning: Omit<BatchReckoning, 'art' | 'round'> & {
    readonly art: ArtShown | null;
    readonly round: RoundShown | null;
  };
  readonly stations: readonly StationState[];
  readonly steps: readonly Step[];
  /** Taking the next load, and what its file burns, in words. */
  readonly load: ReturnType<typeof loadWords>;
  readonly boardPaths: readonly { readonly name: string; readonly kind: 'cut' | 'line' | 'fill'; readonly d: string }[];
  readonly blankPath: string;
  readonly outline: readonly Vec[];
}

/** A segment's shapes as ready paths, work's frame. */
export type LongPaths = Readonly<Record<LongKind, string>>;

/** What the pages show of a batch. */
export interface Shown extends SideShown {
  /** Segments of a long piece; empty for everything else. */
  readonly longPaths: readonly LongPaths[];
  /** A panel with its other side up, as it will lie or lay; null for everything else. */
  readonly other: SideShown | null;
}

/** A face as the drawings show it. */
export type FaceShown = Pick<RoundReckoning['faces'][number], 'zone' | 'places' | 'around' | 'along' | 'picture'> & {
  readonly reads: 'around' | 'down';
};

/** A round blank as the pages show it: its art as ready paths and as strokes for the turning picture. */
export type RoundShown = Omit<RoundReckoning, 'faces'> & {
  readonly faces: readonly FaceShown[];
  /** Laid flat without stretch, rim up, origin at the feature on the rim, mm. */
  readonly unrolled: { readonly fill: string; readonly line: string };
  /** Strokes on the blank: angle from the feature and place from the rim, twice each; rad, mm. */
  readonly strokes: Float32Array;
};

export interface ArtShown {
  readonly exceptions: BatchReckoning['art'] extends infer A
    ? A extends { lettering: { exceptions: infer X } }
      ? X
      : never
    : never;
  readonly capHeights: readonly number[];
  readonly problems: readonly { readonly piece: number; readonly message: string }[];
  readonly labels: readonly string[];
  /** Path of each piece on the board, blank frame, y up; by roster line. */
  readonly paths: Readonly<Record<number, { readonly fill: string; readonly line: string }>>;
}

const pathOf = (lines: readonly (readonly Vec[])[], closed: boolean): string =>
  lines.map((vertices) => screenPath({ closed, vertices })).join('');

const drawn = new Map<string, { fill: string; line: string }>();

const wordsOf = (art: BatchArt): Omit<ArtShown, 'paths'> => ({
  exceptions: art.lettering.exceptions as ArtShown['exceptions'],
  capHeights: art.lettering.capHeights,
  problems: art.problems,
  labels: art.pieces.map((p) => p.label),
});

const artShown = (r: BatchReckoning, batch: BatchDocument): ArtShown | null => {
  const { art, zone } = r;
  if (!art || !zone) return null;
  if (r.round) return { ...wordsOf(art), paths: {} };
  if (drawn.size > 4_000) drawn.clear();
  const style = JSON.stringify([r.round ? batch.setup.lettering : r.face.lettering, zone]);
  const paths: Record<number, { fill: string; line: string }> = {};
  const drawnHere = r.feed ? r.feed.roster : r.onTheBoard;
  for (const { ordinal } of drawnHere) {
    const piece = art.pieces[ordinal - 1];
    if (!piece) continue;
    const key = `${style}/${art.lettering.capHeights.join()}/${JSON.stringify([piece.set, piece.shift])}`;
    let path = drawn.get(key);
    if (!path) {
      const shapes = pieceShapes(art, zone, piece);
      path = { fill: pathOf(shapes.filled, true), line: pathOf(shapes.drawn, false) };
      drawn.set(key, path);
    }
    paths[ordinal] = path;
  }
  return { ...wordsOf(art), paths };
};

const strokesOf = (r: BatchReckoning): Float32Array => {
  const { filled, drawn } = artOnBlank(r);
  const out: number[] = [];
  const add = (line: readonly { angle: number; along: number }[], closed: boolean): void => {
    for (let i = 0; i < line.length - (closed ? 0 : 1); i += 1) {
      const a = line[i]!;
      const b = line[(i + 1) % line.length]!;
      out.push(a.angle, a.along, b.angle, b.along);
    }
  };
  for (const line of filled) add(line, true);
  for (const line of drawn) add(line, false);
  return Float32Array.from(out);
};

let lastWrap: { readonly key: string; readonly shown: Pick<RoundShown, 'unrolled' | 'strokes'> } | null = null;

const roundShown = (r: BatchReckoning, batch: BatchDocument): RoundShown | null => {
  const { round } = r;
  if (!round) return null;
  const key = JSON.stringify([
    round.shape,
    batch.setup.drive,
    batch.setup.lettering,
    batch.blank.spec.zones,
    r.onTheBoard,
    batch.roster[(r.onTheBoard[0]?.ordinal ?? 1) - 1],
  ]);
  if (lastWrap?.key !== key) {
    const passes = unrolledPasses(r);
    const path = (kind: 'fill' | 'line'): string =>
      passes
        .filter((p) => p.kind === kind && p.name !== 'picture-edge')
        .flatMap((p) => p.contours.map((c) => screenPath(c)))
        .join('');
    lastWrap = { key, shown: { unrolled: { fill: path('fill'), line: path('line') }, strokes: strokesOf(r) } };
  }
  return {
    ...round,
    faces: round.faces.map(({ zone, places, around, along, picture, choice }) => ({
      zone,
      places,
      around,
      along,
      picture,
      reads: choice.reads,
    })),
    ...lastWrap.shown,
  };
};

const longPaths = ({ long }: BatchReckoning): LongPaths[] =>
  (long?.plan?.segments ?? []).map(({ shapes }) => {
    const path = (kind: LongKind): string =>
      shapes
        .filter((s) => s.kind === kind)
        .map((s) => screenPath(s.contour))
        .join('');
    return { fill: path('fill'), line: path('line'), cut: path('cut') };
  });

/** A plan without its shapes, which cross to the page as paths. */
const longShown = (long: BatchReckoning['long']): BatchReckoning['long'] =>
  long?.plan
    ? { ...long, plan: { ...long.plan, segments: long.plan.segments.map((s) => ({ ...s, shapes: [] })) } }
    : long;

/** The same batch with its sheet turned to the other side. */
const turnedDocument = (batch: BatchDocument): BatchDocument => ({
  ...batch,
  ticks: batch.ticks.some((t) => t.step === TURNED)
    ? batch.ticks.filter((t) => t.step !== TURNED)
    : [...batch.ticks, { step: TURNED, at: batch.updatedAt, by: '' }],
});

const shownOf = (batch: BatchDocument, input: BatchInput, reckoning: BatchReckoning): SideShown => {
  const { board, face } = reckoning;
  return {
    reckoning: {
      ...reckoning,
      // Lines cross to the page as paths; nobody there reads the cuts themselves.
      board: board ? { ...board, passes: [], cuts: [] } : null,
      cutLine: reckoning.cutLine && [],
      art: artShown(reckoning, batch),
      round: roundShown(reckoning, batch),
      long: longShown(reckoning.long),
      feed: reckoning.feed && { ...reckoning.feed, plan: longShown(reckoning.long)?.plan ?? null },
    },
    stations: stationStates(input, reckoning),
    steps: benchSteps(input, reckoning),
    load: loadWords(input, reckoning),
    boardPaths: board
      ? board.passes.map((p) => ({ name: p.name, kind: p.kind, d: p.contours.map((c) => screenPath(c)).join('') }))
      : [],
    blankPath: [...blankOutline(face.blank, reckoning.sizes), ...face.blank.holes.map((h) => circle(h, h.diameter / 2))]
      .map((c) => screenPath(c))
      .join(''),
    outline: reckoning.placed && !reckoning.round ? trueOutline(reckoning) : [],
  };
};

const service = {
  /** Reckons a batch. `pieces` is the size of the simulation behind the budget. */
  async reckon(batch: BatchDocument, pieces: number): Promise<Shown> {
    const { input, reckoning } = await prepare(batch, pieces);
    const other =
      reckoning.cutOut && !reckoning.feed && !reckoning.photo ? await prepare(turnedDocument(batch), 200) : null;
    return {
      ...shownOf(batch, input, reckoning),
      longPaths: longPaths(reckoning),
      other: other && shownOf(batch, other.input, other.reckoning),
    };
  },
  /** Plans every move of the load; slower, so asked for apart. */
  async time(batch: BatchDocument): Promise<TimeEstimate | null> {
    const { input, reckoning } = await prepare(batch, 500);
    return estimateTime(input, reckoning);
  },
  /** Whether what is cut out of a long piece hangs together; asked for apart, it takes a while. */
  cutOut(batch: BatchDocument): CutOut | null {
    const { art } = batch.setup.long;
    return art ? reckonCutOut(art.shapes) : null;
  },
  roster(text: string): Result<Roster> {
    return readRoster(text);
  },
  rosterFile(bytes: Uint8Array): Result<Roster> {
    const { text, encoding } = decodeRoster(bytes);
    return readRoster(text, encoding);
  },
};

export type ReckonService = typeof service;
expose(service);
