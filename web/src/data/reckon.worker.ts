import { expose } from 'comlink';
import type { BatchDocument } from '@bistre/contract';
import { plainOptions, prepare, shapesOf } from './prepare';
import {
  allShapes,
  artPaths,
  bestOfEach,
  forScreen,
  type ArtPaths,
  type Asked,
  type Proposal,
  benchSteps,
  blankOutline,
  circle,
  convexHull,
  decodeRoster,
  laidWorking,
  estimateTime,
  gatesOf,
  loadWords,
  pieceShapes,
  proposals,
  readRoster,
  reckonCutOut,
  screenPath,
  stationStates,
  trueOutline,
  wayOf,
  type BatchArt,
  type BatchInput,
  type BatchReckoning,
  type CutOut,
  wholeArt,
  type LaidArt,
  type Roles,
  type Result,
  type Roster,
  finerTime,
  type Finer,
  type Estimate,
  type Vec,
  type Zone,
  nth,
} from '@bistre/core';
import type { Show } from '../ways/flat/show';
import { showOf as showOfWay } from '../ways/shows';
import { picturesShown, type ArtShown, type PathsShown, type Shown, type SideShown } from './shown';

const pathOf = (lines: readonly (readonly Vec[])[], closed: boolean): string =>
  lines.map((vertices) => screenPath({ closed, vertices })).join('');

const drawn = new Map<string, PathsShown>();

/** What is laid of each content: of one that differs from piece to piece the first, and on how many pieces there is one. */
const laidOf = (art: BatchArt, zones: readonly Zone[]): ArtShown['laid'] => {
  const own = new Map<string, { first: LaidArt; pieces: number }>();
  for (const l of art.pieces.flatMap((p) => p.own ?? [])) {
    const so = own.get(l.content.id);
    own.set(l.content.id, { first: so?.first ?? l, pieces: (so?.pieces ?? 0) + 1 });
  }
  const shown = (l: LaidArt, pieces: number | null): ArtShown['laid'][number] => {
    const { content, name, box, scale, room, edges, doubt, beyond } = l;
    const zone = zones.find((z) => z.id === content.zoneId);
    return { id: content.id, name, box, scale, room, edges, doubt, beyond, pieces, working: zone ? laidWorking(l, zone) : [] }; // prettier-ignore
  };
  return [...(art.laid ?? []).map((l) => shown(l, null)), ...[...own.values()].map((o) => shown(o.first, o.pieces))];
};

const wordsOf = (art: BatchArt, zones: readonly Zone[]): Omit<ArtShown, 'paths'> => ({
  exceptions: art.lettering.exceptions as ArtShown['exceptions'],
  capHeights: art.lettering.capHeights,
  problems: art.problems,
  labels: art.pieces.map((p) => p.label),
  laid: laidOf(art, zones),
});

const artShown = (r: BatchReckoning, pieces: ReturnType<Show['drawn']>): ArtShown | null => {
  const { art, zone } = r;
  if (!art || !zone) return null;
  if (drawn.size > 4_000) drawn.clear();
  const known = (l: LaidArt): unknown => [
    l.content,
    l.artwork,
    l.text,
    l.scale,
    l.box,
    l.areas.length,
    l.lines.length,
    l.cuts.length,
  ];
  const carried = (art.laid ?? []).map(known);
  const style = JSON.stringify([r.face.lettering, zone, carried]);
  const paths: Record<number, PathsShown> = {};
  for (const { ordinal } of pieces) {
    const piece = nth(art.pieces, ordinal);
    if (!piece) continue;
    const key = `${style}/${art.lettering.capHeights.join()}/${JSON.stringify([piece.set, piece.shift, (piece.own ?? []).map(known)])}`;
    let path = drawn.get(key);
    if (!path) {
      const shapes = allShapes(pieceShapes(art, zone, piece));
      const across = Math.max(zone.width, zone.height);
      const [filled, drawnLines] = [forScreen(shapes.filled, across), forScreen(shapes.drawn, across)];
      path = { fill: pathOf(filled, true), line: pathOf(drawnLines, false), cut: pathOf(forScreen(shapes.cut ?? [], across), false), pictures: picturesShown(shapes.pictures), hull: convexHull([...filled, ...drawnLines].flat()) }; // prettier-ignore
      drawn.set(key, path);
    }
    paths[ordinal] = path;
  }
  return { ...wordsOf(art, [zone, ...r.face.blank.zones]), paths };
};

const showOf = (batch: BatchDocument): Show => showOfWay(wayOf(batch).id);

const shownOf = (batch: BatchDocument, input: BatchInput, reckoning: BatchReckoning): SideShown => {
  const { board, face } = reckoning;
  const show = showOf(batch);
  return {
    reckoning: {
      ...reckoning,
      own: show.own(reckoning, batch),
      // Lines cross to the page as paths; nobody there reads the cuts themselves.
      board: board ? { ...board, passes: [], cuts: [] } : null,
      art: artShown(reckoning, show.drawn(reckoning)),
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
    outline: show.outlined(reckoning) ? trueOutline(reckoning) : [],
    gates: gatesOf(input, reckoning),
  };
};

const service = {
  /** Reckons a batch. `pieces` is the size of the simulation behind the budget. */
  async reckon(batch: BatchDocument, pieces: number): Promise<Shown> {
    const { input, reckoning } = await prepare(batch, pieces);
    const show = showOf(batch);
    const turned = show.other(batch);
    const other = turned && (await prepare(turned, 200));
    return {
      ...shownOf(batch, input, reckoning),
      longPaths: show.segments(reckoning),
      other: other && shownOf(batch, other.input, other.reckoning),
    };
  },
  /** Plans every move of the load; slower, so asked for apart. */
  async time(batch: BatchDocument): Promise<(Estimate & { readonly finer: Finer | null }) | null> {
    const { input, reckoning } = await prepare(batch, 500);
    const now = estimateTime(input, reckoning);
    return now && { ...now, finer: finerTime(input, reckoning, now) };
  },
  /** Whether what is cut out of a long piece hangs together; asked for apart, it takes a while. */
  async cutOut(batch: BatchDocument): Promise<CutOut | null> {
    const { art } = (await prepare(batch, 200)).reckoning;
    const cuts = (art?.laid ?? []).flatMap((l) => wholeArt(l).cuts).filter((c) => c.closed);
    // One outline round everything is a board, not a word.
    return cuts.length > 1 ? reckonCutOut(cuts.map((contour) => ({ kind: 'cut', contour }))) : null;
  },
  /** Ways to hold what was asked, best first. */
  async propose(asked: Asked): Promise<Proposal[]> {
    return bestOfEach([...proposals(asked, await plainOptions())]);
  },
  /** A file of art as paths, each shape as it is burned. */
  async art(id: string, revision: number, roles: Roles): Promise<ArtPaths> {
    return artPaths(await shapesOf(id, revision), roles);
  },
  roster(text: string, headings: boolean | null): Result<Roster> {
    return readRoster(text, 'text', headings);
  },
  rosterFile(bytes: Uint8Array, headings: boolean | null): Result<Roster> {
    const { text, encoding } = decodeRoster(bytes);
    return readRoster(text, encoding, headings);
  },
};

export type ReckonService = typeof service;
expose(service);
