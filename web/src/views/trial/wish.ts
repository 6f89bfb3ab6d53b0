import { machineOf, type MachineDocument, type RecipeDocument, type TrialSpec } from '@bistre/contract';
import {
  cellFor,
  convert,
  freePlace,
  gridSize,
  partOf,
  SMALLEST_CELL,
  spotOf,
  spreadLevels,
  trialRange,
  type Alphabet,
  type Effect,
  type TrialNumber,
} from '@bistre/core';

/** A grid as it is chosen: numbers, stretches, how many; the plan follows. */
export interface Wish {
  readonly name: string;
  readonly machineId: string;
  readonly material: string;
  readonly effect: Effect;
  readonly base: TrialSpec['base'];
  readonly after: TrialSpec['after'];
  readonly columns: Stretch;
  readonly rows: Stretch;
  readonly piece: TrialSpec['piece'];
  readonly onBed: TrialSpec['onBed'];
}
export interface Stretch {
  readonly number: TrialNumber;
  readonly from: number;
  readonly to: number;
  readonly count: number;
}

/** The spot of a machine whose lens was said. */
export const spotOfMachine = ({ profile }: MachineDocument): number | undefined =>
  profile.optics ? spotOf(profile.optics) : undefined;

/** A stretch of a number about a value, as wide each way as a first look wants [common practice: half and twice]. */
export const about = (number: TrialNumber, value: number, machine: MachineDocument, count: number): Stretch => {
  const [least, most] = trialRange(number, machine.profile);
  const wide = number === 'passes' ? 3 : 2.2;
  const [from, to] = [Math.max(least, value / wide), Math.min(most, value * wide)];
  const levels = spreadLevels(number, from, to, 2);
  return { number, from: levels[0]!, to: levels.at(-1)!, count };
};

const EASY = { power: 0.45, speed: 150, interval: 0.1, passes: 1 };

const effectFor = (recipe: RecipeDocument | undefined): Effect =>
  recipe && recipe.spec.engrave.power === 0 ? 'cut' : 'mark';

/** A recipe's setting as a beginning on another machine; null where it is that machine's own, or there is none. */
export const beginning = (
  recipe: RecipeDocument | undefined,
  effect: Effect,
  to: MachineDocument,
  machines: readonly MachineDocument[],
): ReturnType<typeof convert> | null => {
  const own = recipe?.spec[partOf(effect)];
  const from = machines.find((m) => m.id === recipe?.machineId);
  return own && from && from.id !== to.id ? convert(own, machineOf(from), machineOf(to)) : null;
};

/** Numbers as they are typed at a machine. */
const typed = (s: TrialSpec['base']): TrialSpec['base'] => ({
  ...s,
  power: Number(s.power.toFixed(3)),
  speed: Number(s.speed.toPrecision(3)),
  interval: Number(s.interval.toFixed(4)),
});

export const wishFor = (
  machine: MachineDocument,
  recipe: RecipeDocument | undefined,
  piece: TrialSpec['piece'],
  material: string,
  machines: readonly MachineDocument[],
): Wish => {
  const effect = effectFor(recipe);
  const brought = beginning(recipe, effect, machine, machines);
  const easy = { ...EASY, speed: Math.min(EASY.speed, machine.profile.rapidSpeed) };
  const own = recipe?.machineId === machine.id ? recipe.spec[partOf(effect)] : null;
  const base = own ?? (brought?.ok ? typed(brought.value.setting) : easy);
  return {
    name: '',
    machineId: machine.id,
    material: recipe?.spec.material ?? material,
    effect,
    base,
    after: own && partOf(effect) === 'engrave' ? recipe?.spec.after : undefined,
    columns: about('speed', base.speed, machine, 5),
    rows: about('power', base.power, machine, 5),
    piece,
    onBed: { x: 40, y: 40 },
  };
};

/** The plan that a wish comes to: the largest cells that the piece has room for, on its first free place. */
export const planOf = (
  wish: Wish,
  machine: MachineDocument,
  alphabet: Alphabet,
  taken: readonly (readonly [number, number, number, number])[],
): TrialSpec => {
  // prettier-ignore
  const levels = ({ number, from, to, count }: Stretch) => ({ number, levels: spreadLevels(number, from, to, count) });
  const grid = { columns: levels(wish.columns), rows: levels(wish.rows), gap: 1.5 };
  const side = cellFor(grid, wish.piece, alphabet, { least: SMALLEST_CELL, most: 8 }) ?? SMALLEST_CELL;
  const cell = { width: side, height: side };
  const place = freePlace(wish.piece, gridSize({ ...grid, cell }, alphabet), taken);
  const { leastPower } = machine.profile;
  return {
    material: wish.material,
    effect: wish.effect,
    base: wish.base,
    after: partOf(wish.effect) === 'engrave' ? wish.after : undefined,
    label: { ...wish.base, power: Math.max(leastPower, Math.min(1, wish.base.power)), speed: Math.min(wish.base.speed, 150), passes: 1 }, // prettier-ignore
    ...grid,
    cell,
    piece: wish.piece,
    onPiece: place.ok ? place.value : { x: 0, y: 0 },
    onBed: wish.onBed,
  };
};
