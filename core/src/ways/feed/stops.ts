import { fromUniform } from '../../budget';
import type { Box } from '../../geometry';
import {
  chainOf,
  commandFor,
  feedStep,
  planStops,
  proposeAiming,
  stopError,
  windowLength,
  type FeedErrors,
  type FeedWorkKind,
  type StopChain,
} from '../../feeder';
import { chainErrors, type Chain } from '../../long';
import { runSummary, type RunSummary } from '../../runs';
import { segmentTick, START_MARK, type BatchInput, type FeedStop, type LongReckoning } from '../../setup';
import type { Mm } from '../../units';
import type { OnStrip } from './laid';
import { barsOf } from './place';
import { loadsOnStrip } from './run';

/** The stops of a strip, which one is on, and how errors add up from stop to stop. */
export interface Stops {
  readonly stops: readonly FeedStop[];
  /** The stop that is on or comes next, from 1. */
  readonly current: number;
  readonly strip: number;
  /** Places of this strip that are used. */
  readonly used: number;
  readonly summary: RunSummary;
  /** Stops between aims, and what is proposed; null where even every stop is not enough. */
  readonly aimEvery: number;
  readonly proposed: number | null;
  readonly chains: readonly StopChain[];
  /** A long piece that is aimed at by the marks of each seam. */
  readonly seams: Chain | null;
  readonly long: LongReckoning | null;
}

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
  if (!chain) return proposeAiming(stops, errors, tolerance, work === 'row');
  const byFeed = Math.max(...chainOf(stops, 0).map((c) => stopError(c, errors)));
  const byMarks = Math.max(...chainErrors(chain).map((e) => e.fromStart));
  return byFeed <= tolerance || byFeed <= byMarks ? 0 : 1;
};

/** The stops as the strip's work asks for them, before it is said where they aim. */
const bareStops = (input: BatchInput, { work }: OnStrip, settled: readonly number[]): ReturnType<typeof planStops> =>
  input.feeder && work.spans
    ? planStops(work.spans, windowLength(input.feeder), barsOf(input.feeder, 0), work.cuts ?? null, settled)
    : [];

/** Errors of a long piece's segments, each aimed at by the marks of the seam before. */
const seamChain = (input: BatchInput, { work: { plan }, sigma, pointer }: OnStrip): Chain | null =>
  plan
    ? {
        boxes: plan.segments.map((s) => s.box),
        marks: plan.marks,
        turned: plan.segments.map((s) => s.angle),
        errors: { aim: sigma, pointer: pointer.uncertainty, back: fromUniform(input.machine.repeatability) },
      }
    : null;

/** What is on the strip of a row or of parts, what was burned of it, and what comes next. */
const runOf = (
  input: BatchInput,
  { work: { layout } }: OnStrip,
  isLong: boolean,
): { summary: RunSummary; laid: ReturnType<typeof loadsOnStrip>; settled: readonly number[] } => {
  const places = layout?.places.length ?? 0;
  const laid = isLong
    ? { strip: 1 + input.pieces.filter((p) => p.state !== 'loaded').length, sizes: [], used: 0 }
    : loadsOnStrip(input.pieces, places);
  const firstApproved = isLong || input.firstApproved;
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: isLong ? 1 : places,
    firstApproved,
    pieces: input.pieces,
  });
  const first = !firstApproved && summary.openLoad === null && laid.used < places ? [1] : [];
  return { summary, laid, settled: isLong ? [] : [...laid.sizes, ...first] };
};

/** How often the strip is aimed at: as chosen, else as proposed; parts only at the first stop. */
const aimingOf = (kind: FeedWorkKind, chosen: number | null, proposed: number | null): number => {
  if (kind === 'parts') return 0;
  const every = chosen ?? proposed ?? 1;
  return kind === 'long' ? Math.min(1, every) : every;
};

/** The marks that a stop is aimed by. */
const marksAt = (kind: FeedWorkKind, i: number): readonly number[] => {
  if (kind === 'long' && i > 0) return [2 * i - 1, 2 * i];
  return kind === 'row' ? [i + 1] : [START_MARK];
};

/** Splits a strip in stops, says where each aims, and how far it may be off. */
export const stopsOf = (input: BatchInput, strip: OnStrip): Stops => {
  const { choice, work, errors, calibration } = strip;
  const { kind } = choice.work;
  const isLong = kind === 'long';
  const { summary, laid, settled } = runOf(input, strip, isLong);
  const bare = bareStops(input, strip, settled);
  const errorStops = bare.map((s) => ({ fed: s.fed, boxes: work.boxes?.(s) ?? [] }));
  const chain = isLong ? seamChain(input, strip) : null;
  const proposed = proposal(kind, errorStops, errors, input.tolerance, chain);
  const aimEvery = aimingOf(kind, choice.aimEvery, proposed);
  // Parts are cut beside their own engraving at one stop: nothing is carried over.
  const chains =
    kind === 'parts'
      ? errorStops.map((s) => ({ feeds: 0, fed: 0, boxes: s.boxes }))
      : chainOf(errorStops, aimEvery, kind === 'row');
  const seams = aimEvery === 1 ? chain : null;
  const seamErrors = seams && chainErrors(seams);
  const stops = bare.map((s, i): FeedStop => {
    const aimed = i === 0 || (aimEvery > 0 && i % aimEvery === 0);
    return {
      ...s,
      aimed,
      marks: aimed ? marksAt(kind, i) : [],
      command: commandFor(calibration, s.fed - (i === 0 ? 0 : bare[i - 1]!.fed)),
      error: seamErrors?.[i]?.fromStart ?? stopError(chains[i]!, errors),
    };
  });
  const ticked = input.ticks.filter((t) => t.startsWith(segmentTick(1).slice(0, -1))).length;
  const begun = isLong ? ticked + 1 : laid.sizes.length + (summary.openLoad === null ? 1 : 0);
  const current = Math.max(1, Math.min(stops.length, begun));
  return {
    stops,
    current,
    strip: laid.strip,
    used: laid.used,
    summary,
    aimEvery,
    proposed,
    chains,
    seams,
    long: isLong
      ? {
          plan: work.plan ?? null,
          problem: work.problem ?? null,
          current,
          burned: stops.length > 0 && ticked >= stops.length,
          errors: stops.map((s, i) => ({ fromStart: s.error, step: seamErrors ? (seamErrors[i]?.step ?? null) : i === 0 ? null : feedStep(s.fed - stops[i - 1]!.fed, errors) })), // prettier-ignore
        }
      : null,
  };
};
