import { AXIS_95 } from '../../samples';
import { compose, rigid, translation, type Box, type Vec } from '../../geometry';
import { bareBed, fixtureBasis, panelCut, reckonHeights, type Board } from '../../holding';
import { feedStepWorking, freePatch, stripToBed, type FeedCalibration, type UsedPatch } from '../../feeder';
import {
  headOver,
  besideNow,
  longBudget,
  noFixings,
  piecesOnBoard,
  planRemarks,
  reckonPlace,
  type BatchInput,
  type BatchReckoning,
  type Danger,
  type FeedReckoning,
  type FeedStop,
  type PlaceReckoning,
  type ReckonOptions,
  type Remark,
} from '../../setup';
import type { Mm } from '../../units';
import { artWarnings } from '../flat';
import { feedBudget } from './budget';
import { countStrip } from './counts';
import { layOnStrip, type OnStrip } from './laid';
import { barsOf, looseStops, readAt, roomOf, stripAt } from './place';
import { plannedOf, stripRoster } from './run';
import { stopsOf, type Stops } from './stops';
import { boardOf, pointsOf } from './strip';

const warningsOf = (input: BatchInput, strip: OnStrip, { stops, proposed }: Stops): Remark[] => {
  const { choice, misfits, size, work, skew, guide, calibration, art } = strip;
  const { kind } = choice.work;
  const gapStep = stops.length > 1 ? gapError(stops, calibration) : 0;
  const feed = (message: string, danger?: Danger): Remark => ({
    station: 'feed',
    message,
    ...(danger ? { danger } : {}),
  });
  return [
    ...misfits.slice(1).map((m) => feed(m.message)),
    ...(guide.doubt && kind !== 'parts' ? [feed(guide.doubt, 'marks')] : []),
    ...(input.feeder ? looseStops(input.feeder, size.length, stops) : []).map((n) =>
      feed(
        `At stop ${n} no roller holds the strip. Tape a leader to its end and enter the strip as much longer, or lay the first place farther from it.`,
        'grip',
      ),
    ),
    ...planRemarks(work.plan, 'feed'),
    ...(kind === 'parts' && gapStep > choice.gap
      ? [
          feed(
            `From stop to stop the feed may be off by ${gapStep.toFixed(2)} mm, the gap is ${choice.gap.toFixed(2)}: neighbours at a stop’s edge could overlap. Leave a gap of ${gapStep.toFixed(1)} mm, or measure more feeds.`,
            'zone',
          ),
        ]
      : []),
    ...(proposed === null && stops.length > 0 && kind === 'row'
      ? [feed('Even aimed at every stop a piece may miss its tolerance: look at the largest source in the budget.')]
      : []),
    ...(skew.measured && Math.abs(skew.drift) > input.tolerance && kind !== 'parts'
      ? [
          feed(
            `It lies askew by ${Math.abs(skew.angle * 1000).toFixed(1)} mm a metre. The files turn with it; were they not turned, only ${skew.longest.toFixed(0)} mm would stay in the tolerance.`,
          ),
        ]
      : []),
    ...artWarnings(art),
  ];
};

/** What of the strip must stay clean of a test patch, strip frame. */
const takenOf = (input: BatchInput, { work, found, size, choice }: OnStrip): readonly Box[] => {
  const isLong = choice.work.kind === 'long';
  const { feeder } = input;
  return [
    ...(work.taken ?? []),
    ...found.used.map(usedBox),
    // The leading corner is aimed at, and what the rollers grip stays clean.
    { minX: 0, maxX: Math.max(15, isLong ? 0 : (feeder?.deadFront ?? 0)), minY: 0, maxY: size.width },
    { minX: size.length - (isLong ? 5 : (feeder?.deadBack ?? 0)), maxX: size.length, minY: 0, maxY: size.width },
  ];
};

/** How many strips the batch takes: what the one that is in has no free place for goes on further ones. */
const stripsOf = (input: BatchInput, { work }: OnStrip, { strip, used, summary, long }: Stops): number => {
  const capacity = work.layout?.places.length ?? 0;
  if (long) return input.quantity;
  return capacity > 0 ? strip + Math.ceil(Math.max(0, summary.waiting.length - (capacity - used)) / capacity) : 0;
};

/** What the feeder itself makes of the batch. */
const feedOf = (
  input: BatchInput,
  strip: OnStrip,
  planned: Stops,
  lies: Pick<BatchReckoning, 'board' | 'onTheBoard'> & { readonly unread: readonly number[] },
): FeedReckoning => {
  const { feeder } = input;
  const { size, work, skew, guide, found } = strip;
  const { stops, current, summary } = planned;
  const now = stops[current - 1];
  const strips = stripsOf(input, strip, planned);
  const feeds =
    stops.reduce((s, x) => s + Math.abs(x.command), 0) / (feeder?.speed ?? 1) + stops.length * (feeder?.settle ?? 0);
  const feeding = feeds * Math.max(1, strips);
  const layout = work.layout ?? null;
  const { quantity } = input;
  return {
    work: strip.choice.work.kind,
    feeder,
    size,
    misfits: strip.misfits,
    problem: work.problem ?? null,
    layout,
    plan: work.plan ?? null,
    stops,
    current,
    strip: planned.strip,
    strips,
    calibration: strip.calibration,
    skew,
    guide,
    aimEvery: planned.aimEvery,
    stepWorking:
      planned.long && planned.seams === null && stops.length > 1
        ? [feedStepWorking(Math.max(...stops.slice(1).map((s, i) => s.fed - stops[i]!.fed)), strip.errors)]
        : [],
    step: planned.long && stops.length > 1 ? Math.max(...planned.long.errors.map((e) => e.step ?? 0)) : null,
    proposed: planned.proposed,
    unread: lies.unread,
    patch: feeder
      ? freePatch(
          size,
          takenOf(input, strip),
          { width: Math.min(20, size.length / 4), height: Math.min(12, size.width / 3) },
          0,
          size.length,
        )
      : null,
    bars: feeder ? barsOf(feeder, now?.fed ?? 0) : [],
    room: feeder ? roomOf(feeder, input.machine.bed, size.length, stops) : { before: 0, behind: 0 },
    feeding,
    counts: countStrip({ feeder, size, layout, stops, strips, quantity, feeding }),
    roster: stripRoster(input.pieces, lies.board, now, lies.onTheBoard, summary),
    meant: feeder
      ? stops.map((s) =>
          compose(stripToBed(feeder, s.fed, guide.angle), rigid(skew.angle, 0, found.squaring?.first ?? 0)),
        )
      : [],
  };
};

/** Where the strip lies by the marks of the stop that is on. */
const placeOf = (
  input: BatchInput,
  options: ReckonOptions,
  now: FeedStop | undefined,
  points: ReadonlyMap<number, Vec>,
): PlaceReckoning => ({
  ...reckonPlace(input, false, null, [], options.now),
  pairs: (now?.marks ?? []).flatMap((m) => {
    const read = readAt(input, m);
    return read ? [{ id: m, drawn: points.get(m)!, read }] : [];
  }),
});

/** The places that are burned at the stop that is on. Loaded pieces lie where they were put. */
const hereOf = (board: Board, now: FeedStop | undefined, { long, summary }: Stops): Board =>
  long || summary.openLoad !== null || !now
    ? board
    : { ...board, slots: board.slots.slice(now.first, now.first + now.count) };

/** Everything that follows for a batch on a feeder. */
export const feedBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const { feeder } = input;
  const strip = layOnStrip(input, options);
  const { choice, sizes, pocket, face, art, size, work, skew, guide, calibration, pointer, errors } = strip;
  const planned = stopsOf(input, strip);
  const { stops, current, summary, seams, long } = planned;
  const points = pointsOf(stops, work.plan, work);
  const at = feeder && stops.length > 0 ? stripAt(input, feeder, { skew, guide }, stops, current, points) : null;
  const now = stops[current - 1];
  const unread = (at ? (stops[at.from - 1]?.marks ?? []) : []).filter((m) => readAt(input, m) === null);
  const board = feeder && stops.length > 0 ? boardOf(choice.name, size, work, now, points) : null;
  const onTheBoard = board ? piecesOnBoard(input, hereOf(board, now, planned), summary) : [];
  const rules = { tolerance: input.tolerance, pieces: options.simulatedPieces, seed: 20_260 };
  return {
    sizes,
    questions: [],
    pocket,
    basis: fixtureBasis(input.blank, sizes, pocket),
    board,
    boardProblem: work.problem ?? null,
    outOfDate: [],
    heights: reckonHeights(sizes.thickness.mean, bareBed(besideNow(input)), headOver(input), []),
    zone: face.zone,
    art,
    artBox: work.artBox ?? { minX: -1, maxX: 1, minY: -1, maxY: 1 },
    place: placeOf(input, options, now, points),
    boardToBed: at?.map ?? (feeder ? stripToBed(feeder, 0, guide.angle) : translation(0, 0)),
    placed: at?.known ?? false,
    budget: seams
      ? longBudget(seams, pointer, rules)
      : feedBudget(planned.chains, errors, { calibration, skew, guide, pointer, long: long !== null }, rules),
    run: summary,
    planned: plannedOf(input.quantity, stops, long !== null),
    onTheBoard,
    face,
    warnings: warningsOf(input, strip, planned),
    fixings: noFixings,
    own: {
      long,
      feed: feedOf(input, strip, planned, { board, onTheBoard, unread }),
      cutOut:
        choice.work.kind === 'parts'
          ? { lines: panelCut(face.blank, sizes, input.machine.kerf), when: 'at once' }
          : null,
    },
  };
};

/** How far one stop may miss the one before along the feed, 95 %, mm. */
const gapError = (stops: readonly FeedStop[], c: FeedCalibration): Mm =>
  AXIS_95 *
  Math.max(...stops.slice(1).map((s, i) => Math.hypot(c.uncertainty * (s.fed - stops[i]!.fed), c.repeatability)));

const usedBox = (u: UsedPatch): Box => ({
  minX: u.x,
  minY: u.y,
  maxX: u.x + u.width,
  maxY: u.y + u.height,
});
