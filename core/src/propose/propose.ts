import { benchSteps, reckonBatch } from '../batch';
import { isFor, type Machine, type Recipe } from '../burn';
import type { Drive } from '../drive';
import type { Feeder } from '../feeder';
import type { Blank } from '../holding';
import {
  boardName,
  freshSections,
  needsOf,
  type BatchInput,
  type BatchReckoning,
  type Comes,
  type HeldSection,
  type ReckonOptions,
  type Step,
  type WayId,
} from '../setup';
import type { Minutes, Mm, Share } from '../units';
import { beginIn, WAYS, type Way } from '../ways';
import { sizeInWords } from '../working';
import { handling, handsOf } from './hands';

/** What is asked before a way is chosen: which piece, how it comes, how many, within what. */
export interface Asked {
  readonly name: string;
  readonly quantity: number;
  readonly tolerance: Mm;
  readonly blank: Blank;
  readonly comes: Comes;
  readonly machines: readonly Machine[];
  readonly recipes: readonly Recipe[];
  readonly drives: readonly Drive[];
  readonly feeders: readonly Feeder[];
}

/** A way of holding on a machine, tried on what was asked. */
export interface Proposal {
  /** Of the way with the drive or feeder it is done on: on another machine it is the same. */
  readonly id: string;
  readonly way: WayId;
  readonly words: string;
  /** What it is good for, in a sentence. */
  readonly good: string;
  readonly machineId: string;
  readonly machineName: string;
  readonly held: HeldSection;
  /** Why it cannot be done so; null where it can. */
  readonly problem: string | null;
  /** Most pieces of one load. */
  readonly pieces: number;
  readonly loads: number;
  /** Work of hands before the first load, a recipe proved where there is none. */
  readonly setup: Minutes;
  /** Work of hands for all loads; the burning is not counted. */
  readonly handling: Minutes;
  /** Predicted error, 95 %, and the share of pieces within the tolerance. */
  readonly predicted: Mm;
  readonly yield: Share;
  readonly inside: boolean;
  /** What has to be there for it. */
  readonly needs: readonly string[];
}

/** Proving a recipe on a spoiled piece, where the shop has none for the material [common practice]. */
const PROVING: Minutes = 20;
const PIECES_TRIED = 200;

/** What only waits to be done at the bench stands in nobody's way. */
const ONLY_WAITS = ['no-photo'];

const problemOf = ({ boardProblem, own }: BatchReckoning): string | null => {
  const problem = boardProblem ?? own.long?.problem ?? own.round?.problem ?? own.feed?.problem ?? null;
  return problem && !ONLY_WAITS.includes(problem.code) ? problem.message : null;
};

/** Share of a bed that pieces cover which are laid down by hand, anywhere [common practice]. */
const STREWN: Share = 0.5;

/** Loads that a quantity comes to; by the bed’s room where pieces have no places of their own. */
const loadsOf = ({ quantity, machine: { bed } }: BatchInput, { run, sizes, boardProblem }: BatchReckoning): number => {
  if (boardProblem === null || !ONLY_WAITS.includes(boardProblem.code)) return Math.max(1, run.loadsLeft);
  const each = sizes.length.mean * sizes.width.mean;
  return Math.ceil(quantity / Math.max(1, Math.floor((STREWN * bed.width * bed.height) / each)));
};

const needsIn = (input: BatchInput, r: BatchReckoning, steps: readonly Step[]): string[] => {
  const { board } = r;
  const has = (id: string): boolean => steps.some((s) => s.id === id);
  return [
    ...(board && has('hold.cut') ? [`a board of ${sizeInWords(board)} that is cut`] : []),
    ...(has('hold.print') ? ['a printer, at 100 %'] : []),
    ...(steps.some((s) => s.takes?.kind === 'photo') ? ['a photograph from above'] : []),
    ...(input.drive ? [input.drive.name] : []),
    ...(input.feeder ? [input.feeder.name] : []),
    ...(input.recipe ? [] : [`a recipe for ${input.blank.material ?? 'this material'} on ${input.machine.name}`]),
  ];
};

const recipeFor = ({ recipes, blank }: Asked, machine: Machine): Recipe | null =>
  recipes.find((r) => r.machineId === machine.id && !!blank.material && isFor(r, blank.material)) ?? null;

/** One way on one machine, as a batch that was just begun. */
const tried = (
  way: Way,
  held: HeldSection,
  machine: Machine,
  asked: Asked,
  options: Omit<ReckonOptions, 'simulatedPieces'>,
): Proposal => {
  const { name, quantity, tolerance, blank, drives, feeders } = asked;
  const { driveId, feederId } = needsOf(held);
  const input: BatchInput = {
    name,
    quantity,
    spares: 0,
    tolerance,
    blank,
    machine,
    recipe: recipeFor(asked, machine),
    backRecipe: null,
    stockRecipe: null,
    fixture: null,
    setup: freshSections(held),
    readings: [],
    roster: [],
    pieces: [],
    // The first piece is looked at alone in every way alike.
    firstApproved: true,
    ticks: [],
    putbacks: [],
    elsewhere: [],
    drive: drives.find((d) => d.id === driveId) ?? null,
    rings: [],
    feeder: feeders.find((f) => f.id === feederId) ?? null,
    feeders,
    feedReadings: [],
    closedAt: null,
  };
  const r = reckonBatch(input, { ...options, simulatedPieces: PIECES_TRIED });
  const loads = loadsOf(input, r);
  const steps = benchSteps(input, r);
  const hands = handsOf(steps.filter((s) => s.station !== 'run' && s.station !== 'close'), input, r); // prettier-ignore
  const { predicted, yield: share, verdict } = r.budget;
  return {
    id: [way.id, driveId, feederId].filter(Boolean).join(' '),
    way: way.id,
    words: [way.words, (input.drive ?? input.feeder)?.name].filter(Boolean).join(': '),
    good: way.good,
    machineId: machine.id,
    machineName: machine.name,
    held,
    problem: problemOf(r),
    pieces: Math.ceil(quantity / loads),
    loads,
    setup: hands.once + (input.recipe ? 0 : PROVING),
    handling: (loads - 1) * hands.load + handling(loads, quantity),
    predicted,
    yield: share,
    inside: verdict !== 'over',
    needs: needsIn(input, r, steps),
  };
};

const total = (p: Proposal): Minutes => p.setup + p.handling;

/** Best first: what can be done, what keeps the tolerance, then the least work of hands. */
export const better = (a: Proposal, b: Proposal): number =>
  Number(a.problem !== null) - Number(b.problem !== null) || Number(b.inside) - Number(a.inside) || total(a) - total(b);

/**
 * Every way that suits what was asked, each on every machine of the shop, one after the other: a caller may show what is
 * there and stop.
 */
export function* proposals(asked: Asked, options: Omit<ReckonOptions, 'simulatedPieces'>): Generator<Proposal> {
  const { blank, comes, machines } = asked;
  for (const way of Object.values(WAYS))
    if (way.suits(blank.shape) && way.comes.includes(comes))
      for (const machine of machines)
        for (const held of beginIn(way, boardName(asked.name), asked)) yield tried(way, held, machine, asked, options);
}

/** Of each way, on each drive, the machine that does it best; best first. */
export const bestOfEach = (all: readonly Proposal[]): Proposal[] => {
  const sorted = [...all].sort(better);
  return sorted.filter((p, i) => sorted.findIndex((q) => q.id === p.id) === i);
};

/** Why the first of several is first, in a sentence. */
export const whyFirst = (all: readonly Proposal[]): string => {
  const [first, second] = all;
  if (!first) return '';
  if (first.problem) return 'None of them can be done as it is described.';
  if (!first.inside) return 'It comes closest: none keeps the tolerance yet.';
  if (!second || second.problem) return 'It is the only one that can be done.';
  if (!second.inside) return 'It is the only one that keeps the tolerance.';
  const less = Math.round(total(second) - total(first));
  return less < 1 ? 'It keeps the tolerance with no more work than the next.' : `It keeps the tolerance with ${less} min less work of hands than the next.`; // prettier-ignore
};
