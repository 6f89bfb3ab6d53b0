import { AXIS_95 } from '../../samples';
import { batchArt } from '../../artwork';
import { fromUniform } from '../../budget';
import { aimingOf } from '../../burn';
import { compose, rigid, translation, type Box, type Vec } from '../../geometry';
import {
  blankSizes,
  fixtureBasis,
  panelCut,
  printedSizes,
  reckonHeights,
  bareBed,
  cornerPocket,
  plainPlace,
  boardOfOne,
  type Board,
} from '../../holding';
import { type MarkPlace, aimingError, pointerDoubt } from '../../marks';
import {
  calibrateFeed,
  chainOf,
  commandFor,
  freePatch,
  planStops,
  proposeAiming,
  reckonFit,
  reckonSkew,
  stopError,
  stripToBed,
  windowLength,
  type FeedCalibration,
  type FeedErrors,
  type FeedWorkKind,
  type Index,
  type Skew,
  type StopChain,
} from '../../feeder';
import { chainErrors, type Chain, type LongPlan } from '../../long';
import { runSummary } from '../../runs';
import type { Mm } from '../../units';
import {
  frontFace,
  noFixings,
  besideNow,
  heldAs,
  type BatchInput,
  longArt,
  longBudget,
  segmentTick,
  type LongReckoning,
  reckonPlace,
  type PlaceReckoning,
  piecesOnBoard,
  type BatchReckoning,
  type ReckonOptions,
  START_MARK,
  type FeedStop,
} from '../../setup';
import { artWarnings } from '../flat';
import { feedBudget } from './budget';
import { countStrip } from './counts';
import { barsOf, looseStops, readAt, roomOf, stripAt } from './place';
import { loadsOnStrip, plannedOf, stripRoster } from './run';
import { placeAngle, layLong, layRow, type FeedWorkPlan } from './work';

const feedErrorsOf = (
  input: BatchInput,
  calibration: FeedCalibration,
  skew: Skew,
  aim: { sigma: Mm; pointer: Mm },
  spread: { along: Mm; across: Mm },
): FeedErrors => {
  const { work } = heldAs(input, 'feed').choice;
  const cutOut = work.kind === 'parts';
  return {
    factor: calibration.uncertainty,
    repeat: calibration.repeatability,
    skew: cutOut ? 0 : skew.uncertainty,
    aim: cutOut ? 0 : aim.sigma,
    pointer: cutOut ? 0 : aim.pointer,
    back: input.machine.repeatability,
    laid: work.kind === 'row' ? work.laid : 0,
    spread: work.kind === 'row' ? spread : { along: 0, across: 0 },
  };
};

/**
 * How often to aim: a row as rarely as its tolerance allows, parts never. A long piece by the feed
 * alone where that stays in the tolerance, else by whichever of feed and seam marks misses less.
 */
const proposal = (
  work: FeedWorkKind,
  stops: readonly { readonly fed: Mm; readonly boxes: readonly Box[] }[],
  errors: FeedErrors,
  tolerance: Mm,
  chain: Chain | null,
): number | null => {
  if (work === 'parts' || stops.length === 0) return 0;
  if (!chain) return proposeAiming(stops, errors, tolerance);
  const byFeed = Math.max(...chainOf(stops, 0).map((c) => stopError(c, errors)));
  const byMarks = Math.max(...chainErrors(chain).map((e) => e.fromStart));
  return byFeed <= tolerance || byFeed <= byMarks ? 0 : 1;
};

/** Everything that follows for a batch on a feeder. */
export const feedBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const { choice: feed, found } = heldAs(input, 'feed');
  const { work: on } = feed;
  const beside = besideNow(input);
  const { feeder } = input;
  const isLong = on.kind === 'long';
  const measured = blankSizes(input.blank, beside.coverage, beside.confidence);
  const sizes = on.kind === 'row' ? measured : printedSizes(input.blank, measured);
  const pocket = on.kind === 'row' ? cornerPocket(input.blank, sizes, on.pushRoom) : plainPlace(sizes);
  const face = frontFace(input);
  const { zone } = face;
  const art = isLong
    ? longArt(input, zone, options.alphabets, options.art)
    : zone
      ? (options.art ?? batchArt)(face.blank, zone, face.lettering, input.roster, options.alphabets)
      : null;
  const { sigma } = aimingError(aimingOf(input.machine));
  const pointer = pointerDoubt(input.machine.pointerOffset, sigma, options.now);
  const size = {
    ...(isLong ? { length: sizes.length.mean, width: sizes.width.mean } : feed.strip),
    thickness: sizes.thickness.mean,
  };
  const calibration = calibrateFeed(input.feedReadings, feeder ?? { repeats: 0.1, feedPerStep: 0.01 });
  const skew = reckonSkew(found.squaring, size.length, input.tolerance);
  const across = feeder
    ? (feeder.along === 'x' ? input.machine.bed.height : input.machine.bed.width) - feeder.guideAt
    : Infinity;
  const misfits = feeder ? reckonFit(feeder, size, feed.rails, input.feeders, across) : [];
  const errors = feedErrorsOf(
    input,
    calibration,
    skew,
    { sigma, pointer: pointer.uncertainty },
    {
      along: feed.turned ? sizes.width.spread : sizes.length.spread,
      across: feed.turned ? sizes.length.spread : sizes.width.spread,
    },
  );
  const longTicked = input.ticks.filter((t) => t.startsWith(segmentTick(1).slice(0, -1))).length;
  const work: FeedWorkPlan = !feeder
    ? { problem: { code: 'no-feeder', message: 'Choose the feeder that carries the work.', field: 'feed.feederId' } }
    : misfits[0]
      ? { problem: { code: `feed-${misfits[0].limit}`, message: misfits[0].message, field: 'feed' } }
      : on.kind === 'long'
        ? layLong(input, feeder, art, zone, size, on.long)
        : layRow(input, feeder, sizes, art);
  const { layout, plan } = work;
  const laid = isLong
    ? { strip: 1 + input.pieces.filter((p) => p.state !== 'loaded').length, sizes: [], used: 0 }
    : loadsOnStrip(input.pieces, layout?.places.length ?? 0);
  const firstApproved = isLong || input.firstApproved;
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: isLong ? 1 : (layout?.places.length ?? 0),
    firstApproved,
    pieces: input.pieces,
  });
  const settled = isLong
    ? []
    : [
        ...laid.sizes,
        ...(!firstApproved && summary.openLoad === null && laid.used < (layout?.places.length ?? 0) ? [1] : []),
      ];
  const bare =
    feeder && work.spans
      ? planStops(work.spans, windowLength(feeder), barsOf(feeder, 0), work.cuts ?? null, settled)
      : [];
  const boxesOf = (stop: Index & { first: number; count: number }): Box[] => work.boxes?.(stop) ?? [];
  const errorStops = bare.map((s) => ({ fed: s.fed, boxes: boxesOf(s) }));
  const chain =
    isLong && plan
      ? {
          boxes: plan.segments.map((s) => s.box),
          marks: plan.marks,
          turned: plan.segments.map((s) => s.angle),
          errors: { aim: sigma, pointer: pointer.uncertainty, back: fromUniform(input.machine.repeatability) },
        }
      : null;
  const proposed = proposal(on.kind, errorStops, errors, input.tolerance, chain);
  const aimEvery =
    on.kind === 'parts' ? 0 : isLong ? Math.min(1, feed.aimEvery ?? proposed ?? 1) : (feed.aimEvery ?? proposed ?? 1);
  // Parts are cut beside their own engraving at one stop: nothing is carried over.
  const chains: StopChain[] =
    on.kind === 'parts' ? errorStops.map((s) => ({ feeds: 0, fed: 0, boxes: s.boxes })) : chainOf(errorStops, aimEvery);
  const longChain = aimEvery === 1 ? chain : null;
  const longErrors = longChain && chainErrors(longChain);
  const stops = bare.map((s, i): FeedStop => {
    const aimed = i === 0 || (aimEvery > 0 && i % aimEvery === 0);
    return {
      ...s,
      aimed,
      marks: !aimed ? [] : isLong && i > 0 ? [2 * i - 1, 2 * i] : on.kind === 'row' ? [i + 1] : [START_MARK],
      command: commandFor(calibration, s.fed - (i === 0 ? 0 : bare[i - 1]!.fed)),
      error: longErrors?.[i]?.fromStart ?? stopError(chains[i]!, errors),
    };
  });
  const burned = isLong && stops.length > 0 && longTicked >= stops.length;
  const current = Math.max(
    1,
    Math.min(stops.length, isLong ? longTicked + 1 : laid.sizes.length + (summary.openLoad === null ? 1 : 0)),
  );
  const points = pointsOf(stops, plan, work);
  const at = feeder && stops.length > 0 ? stripAt(input, feeder, skew, stops, current, points) : null;
  const now = stops[current - 1];
  const unread = (at ? (stops[at.from - 1]?.marks ?? []) : []).filter((m) => readAt(input, m) === null);
  const long: LongReckoning | null = isLong
    ? {
        plan: plan ?? null,
        problem: work.problem ?? null,
        current,
        burned,
        errors: stops.map((s, i) => ({ fromStart: s.error, step: longErrors?.[i]?.step ?? null })),
      }
    : null;
  const board = feeder && stops.length > 0 ? boardOf(feed.name, size, work, now, points) : null;
  const boardToBed = at?.map ?? (feeder ? stripToBed(feeder, 0) : translation(0, 0));
  const meant = feeder
    ? stops.map((s) => compose(stripToBed(feeder, s.fed), rigid(skew.angle, 0, found.squaring?.first ?? 0)))
    : [];
  const place: PlaceReckoning = {
    ...reckonPlace(input, false, null, [], options.now),
    pairs: (now?.marks ?? []).flatMap((m) => {
      const read = readAt(input, m);
      return read ? [{ id: m, drawn: points.get(m)!, read }] : [];
    }),
  };
  const taken = [
    ...(work.taken ?? []),
    ...found.used.map(usedBox),
    // The leading corner is aimed at, and what the rollers grip stays clean.
    { minX: 0, maxX: Math.max(15, isLong ? 0 : (feeder?.deadFront ?? 0)), minY: 0, maxY: size.width },
    { minX: size.length - (isLong ? 5 : (feeder?.deadBack ?? 0)), maxX: size.length, minY: 0, maxY: size.width },
  ];
  const capacity = layout?.places.length ?? 0;
  // What the strip that is in has no free place for goes on further ones.
  const strips = isLong
    ? input.quantity
    : capacity > 0
      ? laid.strip + Math.ceil(Math.max(0, summary.waiting.length - (capacity - laid.used)) / capacity)
      : 0;
  const feeds =
    stops.reduce((s, x) => s + Math.abs(x.command), 0) / (feeder?.speed ?? 1) + stops.length * (feeder?.settle ?? 0);
  const rules = { tolerance: input.tolerance, pieces: options.simulatedPieces, seed: 20_260 };
  // Loaded pieces lie where they were put; the next ones go to the places of this stop.
  const here =
    board &&
    (isLong || summary.openLoad !== null || !now ? board.slots : board.slots.slice(now.first, now.first + now.count));
  const onTheBoard = board && here ? piecesOnBoard(input, { ...board, slots: here }, summary) : [];
  const artBox = work.artBox ?? { minX: -1, maxX: 1, minY: -1, maxY: 1 };
  const gapStep = stops.length > 1 ? gapError(stops, calibration) : 0;
  return {
    sizes,
    questions: [],
    pocket,
    basis: fixtureBasis(input.blank, sizes, pocket),
    board,
    boardProblem: work.problem ?? null,
    outOfDate: [],
    heights: reckonHeights(sizes.thickness.mean, bareBed(beside), input.machine, []),
    zone,
    art,
    artBox,
    place,
    boardToBed,
    placed: at?.known ?? false,
    budget: longChain
      ? longBudget(longChain, pointer, rules)
      : feedBudget(chains, errors, { calibration, skew, pointer, long: isLong }, rules),
    run: summary,
    planned: plannedOf(input.quantity, stops, isLong),
    onTheBoard,
    cutLine: null,
    cutOut: on.kind === 'parts' ? panelCut(face.blank, sizes, input.machine.kerf) : null,
    face,
    warnings: [
      ...misfits.slice(1).map((m) => ({ station: 'feed', message: m.message })),
      ...(feeder ? looseStops(feeder, size.length, stops) : []).map((n) => ({
        station: 'feed',
        message: `At stop ${n} no roller holds the strip. Tape a leader to its end, or lay the first place farther from it.`,
      })),
      ...(plan?.warnings ?? []).map((message) => ({ station: 'feed', message })),
      ...(on.kind === 'parts' && gapStep > feed.gap
        ? [
            {
              station: 'feed',
              message: `From stop to stop the feed may be off by ${gapStep.toFixed(2)} mm, the gap is ${feed.gap.toFixed(2)}: neighbours at a stop’s edge could overlap.`,
            },
          ]
        : []),
      ...(proposed === null && stops.length > 0 && on.kind === 'row'
        ? [
            {
              station: 'feed',
              message:
                'Even aimed at every stop a piece may miss its tolerance: look at the largest source in the budget.',
            },
          ]
        : []),
      ...(skew.measured && Math.abs(skew.drift) > input.tolerance && on.kind !== 'parts'
        ? [
            {
              station: 'feed',
              message: `It lies askew by ${Math.abs(skew.angle * 1000).toFixed(1)} mm a metre. The files turn with it; were they not turned, only ${skew.longest.toFixed(0)} mm would stay in the tolerance.`,
            },
          ]
        : []),
      ...artWarnings(art),
    ],
    marked: false,
    long,
    round: null,
    fixings: noFixings,
    photo: null,
    feed: {
      work: on.kind,
      feeder,
      size,
      misfits,
      problem: work.problem ?? null,
      layout: layout ?? null,
      plan: plan ?? null,
      stops,
      current,
      strip: laid.strip,
      strips,
      calibration,
      skew,
      aimEvery,
      proposed,
      unread,
      patch: feeder
        ? freePatch(
            size,
            taken,
            { width: Math.min(20, size.length / 4), height: Math.min(12, size.width / 3) },
            0,
            size.length,
          )
        : null,
      bars: feeder ? barsOf(feeder, now?.fed ?? 0) : [],
      room: feeder ? roomOf(feeder, input.machine.bed, size.length, stops) : { before: 0, behind: 0 },
      feeding: feeds * Math.max(1, strips),
      counts: countStrip({
        feeder,
        size,
        layout: layout ?? null,
        stops,
        strips,
        quantity: input.quantity,
        feeding: feeds * Math.max(1, strips),
      }),
      roster: stripRoster(input.pieces, board, now, onTheBoard, summary),
      meant,
    },
  };
};

/** How far one stop may miss the one before along the feed, 95 %, mm. */
const gapError = (stops: readonly FeedStop[], c: FeedCalibration): Mm =>
  AXIS_95 *
  Math.max(...stops.slice(1).map((s, i) => Math.hypot(c.uncertainty * (s.fed - stops[i]!.fed), c.repeatability)));

const usedBox = (u: { x: Mm; y: Mm; width: Mm; height: Mm }): Box => ({
  minX: u.x,
  minY: u.y,
  maxX: u.x + u.width,
  maxY: u.y + u.height,
});

/** Points of the strip that are aimed at, by mark number, strip frame. */
const pointsOf = (
  stops: readonly FeedStop[],
  plan: LongPlan | null | undefined,
  work: FeedWorkPlan,
): Map<number, Vec> => {
  const points = new Map<number, Vec>([[START_MARK, { x: 0, y: 0 }]]);
  plan?.marks.forEach(([a, b], i) => {
    points.set(2 * i + 1, a);
    points.set(2 * i + 2, b);
  });
  if (work.corner)
    for (const s of stops) for (const m of s.marks) if (m !== START_MARK) points.set(m, work.corner(s.first));
  return points;
};

/** The strip as a board: every place, and the marks that the current stop is aimed by. */
const boardOf = (
  name: string,
  size: { length: Mm; width: Mm },
  work: FeedWorkPlan,
  stop: FeedStop | undefined,
  points: ReadonlyMap<number, Vec>,
): Board => {
  const marks = (stop?.marks ?? []).map((id): MarkPlace => ({ id, at: points.get(id)!, role: 'place' }));
  const made = boardOfOne(size, name, 1, marks, work.passes ?? []);
  const { layout } = work;
  if (!layout) return made;
  return {
    ...made,
    slots: layout.places.map((p) => ({
      slot: p.slot,
      row: p.row,
      column: p.column,
      angle: placeAngle(p),
      centre: p.centre,
    })),
    columns: new Set(layout.places.map((p) => p.column)).size,
    rows: layout.rows,
  };
};
