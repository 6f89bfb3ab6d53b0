import { fluence, lensLowered, neverBurned, beamSource, type BurnSetting, type Machine, type Sources } from '../burn';
import type { Vec } from '../geometry';
import { LEAST_AIR } from '../holding';
import { fail, ok, type Problem, type Result } from '../result';
import type { Mm, Watt } from '../units';

/** What a recipe does to a material. */
export const EFFECTS = ['frost', 'mark', 'deep', 'clean', 'score', 'cut'] as const;
export type Effect = (typeof EFFECTS)[number];

export const EFFECT_WORDS: Readonly<Record<Effect, string>> = {
  frost: 'frost',
  mark: 'mark',
  deep: 'engrave deep',
  clean: 'clean a coating off',
  score: 'score a line',
  cut: 'cut through',
};

/** Which of a recipe's settings an effect is burned by. */
export const partOf = (effect: Effect): 'engrave' | 'cut' =>
  effect === 'cut' || effect === 'score' ? 'cut' : 'engrave';

/** The numbers of a setting that a trial can go through. */
export const TRIAL_NUMBERS = ['power', 'speed', 'interval', 'passes'] as const;
export type TrialNumber = (typeof TRIAL_NUMBERS)[number];

/** How a number is called, and which way more of it goes: towards more energy on the material, or less. */
export const NUMBER_WORDS: Readonly<Record<TrialNumber, { name: string; unit: string; energy: 1 | -1 }>> = {
  power: { name: 'power', unit: '%', energy: 1 },
  speed: { name: 'speed', unit: 'mm/s', energy: -1 },
  interval: { name: 'line interval', unit: 'mm', energy: -1 },
  passes: { name: 'passes', unit: '', energy: 1 },
};

/** A number as it stands beside its cells and on the piece. */
export const levelText = (number: TrialNumber, value: number): string => {
  switch (number) {
    case 'power':
      return String(Math.round(value * 1000) / 10);
    case 'speed':
      return value >= 20 ? value.toFixed(0) : String(Number(value.toFixed(1)));
    case 'interval':
      return value.toFixed(3).replace(/0$/, '');
    case 'passes':
      return value.toFixed(0);
  }
};

/** One number of a grid and what it goes through, in the order of its columns or rows. */
export interface TrialAxis {
  readonly number: TrialNumber;
  readonly levels: readonly number[];
}

/** A grid of two numbers on one piece. Lengths mm. */
export interface TrialPlan {
  readonly material: string;
  readonly effect: Effect;
  /** What every cell is burned by, but for its two numbers. */
  readonly base: BurnSetting;
  /** What follows over every cell, as over the pieces later. */
  readonly after?: readonly BurnSetting[] | undefined;
  /** What the lettering beside the cells is burned by. */
  readonly label: BurnSetting;
  readonly columns: TrialAxis;
  readonly rows: TrialAxis;
  readonly cell: { readonly width: Mm; readonly height: Mm };
  readonly gap: Mm;
  /** The scrap it is burned on, by the name the shop knows it under. */
  readonly piece: { readonly name: string; readonly width: Mm; readonly height: Mm };
  /** Lower left corner of the grid with its lettering on the piece, and of the piece on the bed. */
  readonly onPiece: Vec;
  readonly onBed: Vec;
}

/** What a machine can be asked for, number by number: least and most. */
export const trialRange = (
  number: TrialNumber,
  machine: Pick<Machine, 'leastPower' | 'rapidSpeed'>,
): readonly [number, number] => {
  switch (number) {
    case 'power':
      return [Math.max(machine.leastPower, 0.01), 1];
    case 'speed':
      return [0.5, Math.max(1, machine.rapidSpeed)];
    case 'interval':
      return [0.02, 1];
    case 'passes':
      return [1, 20];
  }
};

/**
 * Levels between two ends, evenly apart by their logarithm: each is as much more than the one before as that was.
 *
 * @returns ascending, rounded to what is typed at a machine, none twice; fewer than asked where rounding makes them alike
 * @example spreadLevels('speed', 100, 400, 3) // [100, 200, 400]
 */
export const spreadLevels = (number: TrialNumber, from: number, to: number, count: number): number[] => {
  const [low, high] = from <= to ? [from, to] : [to, from];
  const at = (i: number): number => (count <= 1 ? Math.sqrt(low * high) : low * (high / low) ** (i / (count - 1)));
  const rounded = (v: number): number => {
    switch (number) {
      case 'power':
        return Math.round(v * 200) / 200;
      case 'speed':
        return v >= 100 ? Math.round(v) : Number(v.toPrecision(3));
      case 'interval':
        return Math.round(v * 1000) / 1000;
      case 'passes':
        return Math.round(v);
    }
  };
  return [...new Set(Array.from({ length: count }, (_, i) => rounded(at(i))))];
};

/** The setting of a place of the grid. */
export const settingAt = (
  plan: Pick<TrialPlan, 'base' | 'columns' | 'rows'>,
  column: number,
  row: number,
): BurnSetting => ({
  ...plan.base,
  [plan.columns.number]: plan.columns.levels[column]!,
  [plan.rows.number]: plan.rows.levels[row]!,
});

/** Energy on the material in all of a setting's passes: J/mm² where it fills, J/mm along a line. */
export const energyOf = (power: Watt, effect: Effect, setting: BurnSetting): number =>
  partOf(effect) === 'engrave'
    ? fluence(power, setting) * setting.passes
    : ((power * setting.power) / setting.speed) * setting.passes;

/** Most cells of one grid: what an eye still tells apart and a hand still scores. */
export const MOST_CELLS = 100;
/** A cell that an eye can still grade, mm [common practice]. */
export const SMALLEST_CELL: Mm = 4;

/**
 * What stands against a plan's numbers on a machine, one problem after the other in the order of its fields.
 */
export const planProblems = (
  plan: TrialPlan,
  { name: of, rapidSpeed, nozzleGap, ...sources }: Sources & Pick<Machine, 'name' | 'rapidSpeed' | 'nozzleGap'>, // prettier-ignore
): Problem[] => {
  const out: Problem[] = [];
  const source = beamSource(sources, plan.base);
  const machine = { name: of, rapidSpeed, leastPower: (source ?? sources).leastPower };
  const say = (code: string, message: string, field: string): void => void out.push({ code, message, field });
  const never = neverBurned(plan.material);
  if (never) say('never-burned', never, 'material');
  if ([plan.base, ...(plan.after ?? []), plan.label].some((s) => !beamSource(sources, s)))
    say('no-source', `${of} has one source; this burns with a second one. Choose the machine that has it.`, 'base.source'); // prettier-ignore
  const lowered = lensLowered({ engrave: plan.base, after: plan.after, cut: plan.base });
  if (nozzleGap - lowered < LEAST_AIR)
    say('nozzle-low', `The lens ${lowered.toFixed(1)} mm below focus brings the nozzle of ${of} to ${Math.max(0, nozzleGap - lowered).toFixed(1)} mm over the work. Stay above focus, or lower it less.`, 'base.focus'); // prettier-ignore
  if (plan.columns.number === plan.rows.number)
    say('same-number', `Columns and rows both go through the ${NUMBER_WORDS[plan.rows.number].name}. Choose two numbers.`, 'rows.number'); // prettier-ignore
  if (plan.columns.levels.length * plan.rows.levels.length > MOST_CELLS)
    say('too-many', `${plan.columns.levels.length} × ${plan.rows.levels.length} cells are more than ${MOST_CELLS}: too many to score. A second, finer grid says more.`, 'columns.levels'); // prettier-ignore
  for (const side of ['columns', 'rows'] as const) {
    const { number, levels } = plan[side];
    const { name, unit } = NUMBER_WORDS[number];
    const [least, most] = trialRange(number, machine);
    const shown = (v: number): string => `${levelText(number, v)}${unit && ` ${unit}`}`;
    for (const [i, level] of levels.entries()) {
      if (number === 'power' && level < machine.leastPower)
        say('too-weak', `${machine.name} does not fire below ${shown(least)}; ${shown(level)} would leave its cells empty.`, `${side}.levels.${i}`); // prettier-ignore
      else if (level < least || level > most)
        say('out-of-range', `${shown(level)} is outside what ${machine.name} takes as ${name}: ${shown(least)} to ${shown(most)}.`, `${side}.levels.${i}`); // prettier-ignore
      if (levels.indexOf(level) !== i) say('twice', `${shown(level)} stands twice.`, `${side}.levels.${i}`);
    }
  }
  return out;
};

/** Diameter of a beam’s spot where nobody measured it, mm: a gas tube through a lens of 50 mm [common practice]. */
const USUAL_SPOT: Mm = 0.1;

/** What is said of a plan that can be burned as it stands, so that nobody is surprised by it. */
export const planNotes = (plan: TrialPlan, beamSpot: Mm = USUAL_SPOT): string[] => {
  const finest = Math.min(
    plan.base.interval,
    ...[plan.columns, plan.rows].flatMap((a) => (a.number === 'interval' ? a.levels : [])),
  );
  return partOf(plan.effect) === 'engrave' && finest < beamSpot / 2
    ? [
        `Lines ${finest.toFixed(3)} mm apart are finer than half of a spot of ${Number(beamSpot.toFixed(3))} mm: each place is burned ${(beamSpot / finest).toFixed(1)} times. That is allowed; it heats like more passes, and takes as long.`,
      ]
    : [];
};

/** Boxes that lie on each other, or nearer than a clear distance; each [left, bottom, width, height], mm. */
const touch = ([ax, ay, aw, ah]: readonly number[], [bx, by, bw, bh]: readonly number[]): boolean =>
  ax! < bx! + bw! && bx! < ax! + aw! && ay! < by! + bh! && by! < ay! + ah!;

/** Where a grid lies on its piece: left, bottom, width, height; mm. */
export type Taken = readonly [Mm, Mm, Mm, Mm];

/**
 * The first free place for a grid on a piece that carries older ones already: beside or above them, from below and left.
 *
 * @param taken what older trials on the same piece cover
 * @returns lower left corner, or why there is none
 */
export const freePlace = (
  piece: { readonly name: string; readonly width: Mm; readonly height: Mm },
  size: { readonly width: Mm; readonly height: Mm },
  taken: readonly Taken[],
): Result<Vec> => {
  if (size.width > piece.width + 1e-9 || size.height > piece.height + 1e-9)
    return fail(
      'too-large',
      `The grid takes ${size.width.toFixed(1)} × ${size.height.toFixed(1)} mm with its lettering; ${piece.name} has ${piece.width.toFixed(1)} × ${piece.height.toFixed(1)}. Make its cells smaller or fewer, or choose a larger piece.`,
      'piece',
    );
  const xs = [0, ...taken.map(([x, , w]) => x + w)].sort((a, b) => a - b);
  const ys = [0, ...taken.map(([, y, , h]) => y + h)].sort((a, b) => a - b);
  for (const y of ys)
    for (const x of xs) {
      const inside = x + size.width <= piece.width + 1e-9 && y + size.height <= piece.height + 1e-9;
      if (inside && !taken.some((t) => touch(t, [x, y, size.width, size.height]))) return ok({ x, y });
    }
  return fail(
    'no-room',
    `${piece.name} has no free place of ${size.width.toFixed(1)} × ${size.height.toFixed(1)} mm left beside its older trials. Choose another piece, or smaller cells.`,
    'piece',
  );
};

/** Which of some older grids a place would lie on. */
export const liesOn = <T extends { readonly taken: Taken }>(place: Taken, older: readonly T[]): T | null =>
  older.find((o) => touch(o.taken, place)) ?? null;
