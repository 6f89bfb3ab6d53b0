import {
  addFill,
  addLines,
  bedToFile,
  engravings,
  headMoves,
  Moves,
  planTime,
  reachOf,
  runUp,
  type Machine,
} from '../burn';
import { circle, polyline, transformContour, type Contour, type Vec } from '../geometry';
import type { Alphabet } from '../lettering';
import { gcodeChunks, type Pause } from '../output';
import { fail, ok, type Result } from '../result';
import { offTravel, parkOf } from '../setup';
import type { Seconds } from '../units';
import { layTrial, type LaidTrial, type TrialCell } from './lay';
import { coolOrder, diffusivityOf, type CellTurn } from './order';
import { levelText, NUMBER_WORDS, partOf, planProblems, type TrialPlan } from './plan';

/** What a cell of a grid burns, in the grid's frame: an area filled, a disc cut out, or lines scored; mm. */
export const cellShape = (plan: TrialPlan, { x, y }: Pick<TrialCell, 'x' | 'y'>): Contour => {
  const { width, height } = plan.cell;
  if (plan.effect === 'cut') return circle({ x: x + width / 2, y: y + height / 2 }, Math.min(width, height) / 2);
  const box = [
    { x, y },
    { x: x + width, y },
    { x: x + width, y: y + height },
    { x, y: y + height },
  ];
  // There and across, so that a line is seen in two directions and in its corners.
  return plan.effect === 'score' ? polyline([...box, box[0]!, box[2]!]) : polyline(box, true);
};

const shift = (by: Vec) => (contour: Contour) =>
  transformContour({ a: 1, b: 0, c: 0, d: 1, e: by.x, f: by.y }, contour);

/** Moves of one cell, bed frame. */
const cellMoves = (plan: TrialPlan, cell: TrialCell, by: Vec, acceleration: number): Moves => {
  const moves = new Moves();
  const shape = shift(by)(cellShape(plan, cell));
  if (partOf(plan.effect) === 'engrave')
    for (const setting of engravings({ engrave: cell.setting, after: plan.after })) addFill(moves, [shape.vertices], setting, acceleration); // prettier-ignore
  else addLines(moves, [shape], cell.setting);
  return moves;
};

/** A trial as it is burned: laid out, in its order, timed. */
export interface TrialJob {
  readonly laid: LaidTrial;
  readonly turns: readonly CellTurn[];
  readonly burning: Seconds;
  readonly waiting: Seconds;
  readonly chunks: () => Generator<string>;
  /** The outline of the grid, walked with the beam off. */
  readonly walk: () => Generator<string>;
}

/** Slow enough to follow with the eye [common practice], mm/s. */
const WALK_SPEED = 20;

/**
 * The files of a trial: lettering and marks first, then the cells in the order in which none warms the next, with waits
 * (G4, beam off) where order alone does not do it.
 *
 * @returns a problem where its numbers or material are not for this machine, or the head would leave the bed
 */
export const trialJob = (plan: TrialPlan, name: string, machine: Machine, alphabet: Alphabet): Result<TrialJob> => {
  // Also what was planned before the machine was said to be another, or a material to be one that is never burned.
  const [problem] = planProblems(plan, machine);
  if (problem) return { ok: false, problem };
  const laid = layTrial(plan, name, alphabet);
  const by = { x: plan.onBed.x + plan.onPiece.x, y: plan.onBed.y + plan.onPiece.y };
  const labels = new Moves();
  addLines(labels, laid.lettering.map(shift(by)), plan.label);
  const lists = laid.cells.map((cell) => cellMoves(plan, cell, by, machine.acceleration));
  const times = lists.map((m) => planTime(m, machine, m.count > 0 ? { x: m.x[0]!, y: m.y[0]! } : undefined));
  const turns = coolOrder(
    laid.cells.map((cell, i) => ({
      ...cell,
      seconds: times[i]!.total,
      energy: times[i]!.burning * cell.setting.power,
    })),
    Math.min(plan.cell.width, plan.cell.height),
    diffusivityOf(plan.material),
  );
  const all = new Moves();
  for (const m of [labels, ...lists]) all.append(headMoves(m, machine));
  if (offTravel(machine, reachOf(all), { words: '', field: 'onBed' })) {
    const lead = partOf(plan.effect) === 'engrave' ? Math.max(...laid.cells.map((c) => runUp(c.setting, machine.acceleration))) : 0; // prettier-ignore
    return fail(
      'off-travel',
      `The head would leave the bed of ${machine.name}: the grid takes ${laid.width.toFixed(1)} × ${laid.height.toFixed(1)} mm from ${by.x.toFixed(1)}, ${by.y.toFixed(1)}${lead > 0 ? `, and ${lead.toFixed(1)} mm of run-up on either side at its fastest` : ''}. Lay the piece further in, or take slower columns.`,
      'onBed',
    );
  }
  const job = { toFile: bedToFile(machine), dialect: machine.dialect, park: parkOf({ machine }) };
  const written = function* (): Generator<Moves | Pause> {
    yield headMoves(labels, machine);
    for (const { cell, wait } of turns) {
      if (wait > 0) yield { lines: [`G4 P${wait}`] };
      yield headMoves(lists[cell]!, machine);
    }
  };
  const outline = (): Moves => {
    const moves = new Moves();
    const { width, height } = laid;
    const path = [
      [0, 0],
      [width, 0],
      [width, height],
      [0, height],
      [0, 0],
    ].map(([x, y]) => ({ x: x! + by.x, y: y! + by.y }));
    moves.rapid(path[0]!.x, path[0]!.y);
    for (const p of path.slice(1)) moves.push(p.x, p.y, WALK_SPEED, 0);
    return moves;
  };
  const axis = ({ number, levels }: TrialPlan['columns']): string =>
    `${NUMBER_WORDS[number].name} ${levels.map((v) => levelText(number, v)).join(' ')} ${NUMBER_WORDS[number].unit}`.trim();
  const notes = [
    `machine ${machine.name}; ${plan.material}; ${plan.piece.name}`,
    `columns, left to right: ${axis(plan.columns)}`,
    `rows, from below: ${axis(plan.rows)}`,
  ];
  return ok({
    laid,
    turns,
    burning: planTime(all, machine).total,
    waiting: turns.reduce((sum, t) => sum + t.wait, 0),
    chunks: () => gcodeChunks(written(), { ...job, title: `Trial ${name}`, notes }),
    walk: () => gcodeChunks(outline(), { ...job, title: `Trial ${name}: walk of its outline, beam off`, notes }),
  });
};
