import {
  artLeftOut,
  reachesOthers,
  asProblem,
  NO_RECIPE,
  NO_STOCK_RECIPE,
  otherRecipes,
  picturesOf,
  placedPieces,
  type BatchInput,
  type BatchReckoning,
  type Danger,
  type HeldBatch,
  type Remark,
} from '../setup';
import type { Problem, Result } from '../result';
import { nth } from '../units';
import { LEAST_AIR } from '../holding';
import { engravings, isFor, lensLowered, neverBurned, beamSource, type Machine, type Recipe } from '../burn';
import { columnsOf, NAMED_PIECES } from '../artwork';
import { BED_AXIS } from '../drive';
import { fixed, listed, percent } from '../working';
import { CUSTOMER_WAITS } from './stations';
import { wayOf, type DrawingName, type FileKey, type ProgramName } from '../ways';

/** What a file is for, which says what it must not leave with. */
export type Use =
  /** Burns the pieces. */
  | 'burn'
  /** Shows with the beam off where that will be. */
  | 'walk'
  /** Burns a whole turn of line on tape, to find a number. */
  | 'ring'
  /** Turns the piece once with the beam off, to find a number. */
  | 'turn'
  /** Burns on tape on the piece, to find which way round it comes. */
  | 'tape'
  /** Makes something else: a board, pins, marks, a gauge. */
  | 'stock'
  /** Tries something on scrap, so that what is made afterwards fits. */
  | 'trial'
  /** Is printed, and carries what the pieces will carry. */
  | 'print';

/** Every file that passes the gate. */
export type Gated = ProgramName | DrawingName | 'print';

const USES: Readonly<Record<Gated, Use>> = {
  print: 'print',
  load: 'burn',
  strip: 'burn',
  wrap: 'burn',
  walk: 'walk',
  target: 'walk',
  ring: 'ring',
  turn: 'turn',
  letter: 'tape',
  board: 'stock',
  marks: 'stock',
  card: 'trial',
  grid: 'stock',
  pins: 'stock',
  'pin-gauge': 'trial',
  template: 'stock',
  cradle: 'stock',
  locator: 'stock',
  stand: 'stock',
  square: 'trial',
};

/**
 * The gate's table: which uses a danger stops. What is only not done yet (marks not read, a number not typed in, no
 * recipe) is no danger: files wait for it.
 */
export const STOPS: Readonly<Record<Danger, readonly Use[]>> = {
  travel: ['burn', 'walk'],
  collision: ['burn', 'walk', 'tape', 'ring', 'turn'],
  turn: ['ring', 'turn'],
  grip: ['burn', 'walk', 'tape', 'ring', 'turn'],
  zone: ['burn', 'print'],
  focus: ['burn'],
  recipe: ['burn', 'tape', 'ring', 'stock', 'trial'],
  roster: ['burn', 'print'],
  marks: ['burn'],
  number: ['burn'],
  settings: ['burn', 'walk', 'ring', 'turn', 'tape', 'stock', 'trial'],
  fixture: ['burn', 'walk'],
  outline: ['burn', 'walk', 'stock'],
};

/** Numbers as a sentence names them, the rest of many counted. */
const named = (numbers: readonly number[]): string =>
  numbers.length <= 6 ? listed(numbers) : `${numbers.slice(0, 5).join(', ')} and ${numbers.length - 5} more`;

/** Names that pieces on the bed should carry and do not have. */
const rosterRemarks = (input: BatchInput, r: BatchReckoning): Remark[] => {
  if (!r.face.zone || !wayOf(input).names(input)) return [];
  const set = [...new Set(r.face.lettering.lines.map((l) => l.column))];
  const wanted = [...new Set([...set, ...columnsOf(input.setup.contents ?? [])])];
  if (wanted.length === 0) return [];
  const run = (message: string): Remark => ({ station: 'run', message, danger: 'roster' });
  const on = r.onTheBoard.map((o) => o.ordinal);
  const { roster } = input;
  if (roster.length === 0) return [run('There is no list yet of what the pieces carry. Bring it in.')];
  const absent = wanted.filter((column) => !roster.some((row) => column in row));
  if (absent.length > 0)
    return [
      run(
        `The list has no ${absent.length === 1 ? 'column' : 'columns'} ${listed(absent.map((c) => `“${c}”`))}, which the pieces are filled from. Choose a column that it has (${listed(Object.keys(roster[0]!))}), or bring in the right list.`,
      ),
    ];
  const without = on.filter((ordinal) => nth(roster, ordinal) === undefined);
  const blank = on.filter((ordinal) => {
    const row = nth(roster, ordinal);
    return set.length > 0 && row !== undefined && wanted.every((column) => (row[column] ?? '').trim() === '');
  });
  return [
    ...(without.length > 0
      ? [
          run(
            `The list ends before ${without.length === 1 ? 'piece' : 'pieces'} ${named(without)}. Bring in the whole of it, or make the batch smaller.`,
          ),
        ]
      : []),
    ...(blank.length > 0
      ? [
          run(
            `${blank.length === 1 ? 'Piece' : 'Pieces'} ${named(blank)} would be blank: ${listed(wanted)} ${wanted.length === 1 ? 'is' : 'are'} empty in the list.`,
          ),
        ]
      : []),
  ];
};

/** A recipe that was made for another machine or another material, or asks for less than this one's source fires at. */
const recipeRemarks = (input: BatchInput, r: BatchReckoning, use: Use): Remark[] => {
  if (use === 'turn') return [];
  const recipe = use === 'burn' ? r.face.recipe : use === 'stock' || use === 'trial' ? input.stockRecipe : input.recipe;
  const beside = use === 'burn' ? otherRecipes(input, placedPieces(r, r.onTheBoard)) : [];
  return [...(recipe ? [recipe] : []), ...beside].flatMap((one) => amissWith(input, r, use, one));
};

const amissWith = (input: BatchInput, r: BatchReckoning, use: Use, recipe: Recipe): Remark[] => {
  const { machine } = input;
  const burn = (message: string): Remark => ({ station: 'burn', message, danger: 'recipe' });
  if (recipe.machineId !== machine.id)
    return [burn(`Recipe ${recipe.name} was made on another machine, not on ${machine.name}. Choose one of its own.`)];
  const { blank } = r.face;
  const ofBlank = use === 'burn' || use === 'tape' || use === 'ring';
  const never = neverBurned(recipe.material) ?? (ofBlank ? neverBurned(blank.material) : null);
  if (never) return [burn(never)];
  if (ofBlank && !isFor(recipe, blank.material))
    return [
      burn(
        `Recipe ${recipe.name} is for ${recipe.material}; ${blank.name} is made of ${blank.material}. Choose a recipe for that, or put right on the Shelf what it is made of.`,
      ),
    ];
  return [...weakOf(recipe, machine), ...(ofBlank ? notTaken(recipe, r, picturesOf(input).length > 0) : [])].map(burn);
};

/** Burns of a recipe that this machine cannot do: another source than it has, or less than it fires at. */
const weakOf = (recipe: Recipe, machine: Machine): readonly string[] => {
  const all = [...engravings(recipe).map((s, i) => [i === 0 ? 'engraves' : `burns, as its burn ${i + 1},`, s] as const), ['cuts', recipe.cut] as const]; // prettier-ignore
  for (const [does, s] of all) {
    const source = beamSource(machine, s);
    if (!source)
      return [`Recipe ${recipe.name} ${does} with a second source; ${machine.name} has one. Choose another recipe, or say on the Shelf what the machine carries.`]; // prettier-ignore
    if (s.power < source.leastPower && (does !== 'cuts' || s.power > 0))
      return [`Recipe ${recipe.name} ${does} at ${percent(s.power, 0)}; ${source === machine ? machine.name : `the second source of ${machine.name}`} does not fire below ${percent(source.leastPower, 0)}. Choose one with more power and speed.`]; // prettier-ignore
  }
  const left = machine.nozzleGap - lensLowered(recipe);
  return left < LEAST_AIR
    ? [`Recipe ${recipe.name} brings the lens ${fixed(lensLowered(recipe), 1)} mm below focus; the nozzle of ${machine.name} is ${fixed(machine.nozzleGap, 1)} mm over the work in focus, and would ${left <= 0 ? 'be in it' : 'all but touch it'}. Choose one above focus.`] // prettier-ignore
    : [];
};

/**
 * What of a recipe’s program would be left out: on a drive lines run along the axis, in focus, by the first source; in a cradle
 * all is one burn; dots of pictures go by the first burn; a second source's own place is in the budget of flat work alone.
 */
const notTaken = (recipe: Recipe, r: BatchReckoning, pictures: boolean): readonly string[] => {
  const { after = [] } = recipe;
  const { round, long, feed } = r.own;
  const unreckoned = round ? 'round work' : long ? 'long work' : feed ? 'a strip' : null;
  const all = engravings(recipe);
  const follows = after.length > 0 && (pictures || (round && !round.on));
  const what = [
    ...(follows ? [after.length === 1 ? 'a burn that follows' : 'burns that follow'] : []),
    ...((round || pictures) && all.some((s) => (s.angle ?? 0) !== 0 || (s.turn ?? 0) !== 0)
      ? ['lines that are turned']
      : []),
    ...(round && all.some((s) => (s.focus ?? 0) !== 0) ? ['a lens out of focus'] : []),
    // The promises of long work and strips do not hold what a second beam adds.
    ...(unreckoned && all.some((s) => s.source === 'second') ? ['the second source'] : []),
  ];
  const of = round ? 'round work' : (unreckoned ?? 'pictures');
  return what.length > 0
    ? [`Recipe ${recipe.name} has ${listed(what)}, which ${of} cannot be burned with: it would come out otherwise than it was proved. Choose a recipe without.`] // prettier-ignore
    : [];
};

/**
 * Settings that stand as another batch left them: the bed's own axis, in whose steps every length is written, and the one
 * that this batch needs itself.
 */
const settingRemarks = ({ elsewhere, machine }: BatchInput, r: BatchReckoning): Remark[] => {
  const own = r.own.round?.on?.control;
  return elsewhere.flatMap(({ batch, setting, was, now }): Remark[] => {
    if (own?.where === setting && own.value !== null)
      return [
        {
          station: 'drive',
          message: `${batch} left ${setting} at ${now} on ${machine.name}. Type ${own.value} in, and say so at the Drive station.`,
          danger: 'settings',
        },
      ];
    const message = bedAxisAmiss({ batch, setting, was, now }, machine);
    return message ? [{ station: 'run', message, danger: 'settings' }] : [];
  });
};

/** What comes of it when a batch left the bed’s own axis in a drive’s steps; null for any other setting. */
export const bedAxisAmiss = (
  { batch, setting, was, now }: BatchInput['elsewhere'][number],
  { name }: Pick<Machine, 'name'>,
): string | null =>
  setting === BED_AXIS
    ? `${batch} left ${setting} at ${now} on ${name}: all that is burned would come out ${sizeOf(was, now)}. Put it back to ${was} and tick it at that batch’s Close station.`
    : null;

/** What becomes of a length whose axis counts other steps to the millimetre. */
const sizeOf = (was: string, now: string): string => {
  const share = Number(now) / Number(was);
  return Number.isFinite(share) && share > 0 ? `${fixed(share)} times as long in y as it is drawn` : 'in another size';
};

/** Art that was chosen for a zone or a face and would be missing on the pieces. */
const artRemarks = (input: BatchInput, r: BatchReckoning): Remark[] =>
  [
    ...artLeftOut(input, r.face.side, r.art, wayOf(input).carries(input)),
    ...amissOfLaid(input, r),
    ...reachesOthers(r),
  ].map((message) => ({
    station: 'run',
    message,
    danger: 'zone',
  }));

/** What would not be burned as it was said of art that is laid: by a recipe that is not there, or where one file has one recipe, or cuts pieces out alone. */
const amissOfLaid = ({ artRecipes = [] }: BatchInput, { art, own }: BatchReckoning): readonly string[] => {
  // What lies on several pieces is laid once, and said once.
  const laid = new Set([...(art?.laid ?? []), ...(art?.pieces ?? []).flatMap((p) => p.own ?? [])]);
  return [...laid].flatMap(({ name, cuts, apart = [] }) => [
    ...(apart.some((a) => !artRecipes.some((recipe) => recipe.id === a.recipeId))
      ? [`A recipe that ${name} is burned by is not on the Shelf. Choose another.`]
      : []),
    ...(own.round && (cuts.length > 0 || apart.length > 0)
      ? [
          `Round work is engraved by one recipe: what of ${name} is cut, or burned by another, would not be. Say on the Shelf that it is no cut, and burn all of it by the batch’s recipe.`,
        ]
      : []),
    ...(own.cutLine && cuts.length > 0
      ? [
          `What is to be cut of ${name} would not be: this file cuts the pieces out alone. Make it a guide on the Shelf.`,
        ]
      : []),
  ]);
};

/** What is wrong with pieces that are too far down the list to be remarked on one by one. */
const restOfPieces = ({ art }: BatchReckoning): Remark[] =>
  (art?.problems ?? []).slice(NAMED_PIECES).map(({ piece, message }) => ({ station: 'run', message, danger: 'zone', pieces: [piece] })); // prettier-ignore

const fixtureRemarks = (r: BatchReckoning): Remark[] =>
  r.outOfDate.length > 0
    ? [{ station: 'hold', message: `The fixture is out of date: ${r.outOfDate.join(' ')}`, danger: 'fixture' }]
    : [];

/**
 * What the gate has against a file, all of it: each names the station where it is mended. What is asked of the pieces on
 * the bed is asked of them alone.
 *
 * @returns nothing when it may leave, as far as the reckoning tells; making it can still find more
 * @example gateOf(input, reckonBatch(input, options), 'load') // [{ code: 'collision', message: 'magnet stands in …', field: 'hold' }]
 */
export const gateOf = (input: BatchInput, r: BatchReckoning, file: Gated): readonly Problem[] =>
  against(input, r, dangersOf(input, r), USES[file]);

/**
 * What a file waits for: its recipe, and what its way says. Nobody is to blame for it and nothing is wrong; it is not
 * done yet.
 */
export const fileNeeds = (input: BatchInput, r: BatchReckoning, file: FileKey): readonly Problem[] => {
  const name = file.replace('.gcode', '') as Gated;
  const own = (wayOf(input).files.needs[file]?.(input, r) ?? []).filter((p) => p !== null);
  return name === file ? own : [...own, ...recipeNeeds(input, r, USES[name])];
};

/** A recipe that nobody chose yet; none is taken by itself. */
const recipeNeeds = (input: BatchInput, r: BatchReckoning, use: Use): readonly Problem[] => {
  if (use === 'stock' || use === 'trial') return input.stockRecipe ? [] : [NO_STOCK_RECIPE.problem];
  if (use === 'burn') return r.face.recipe ? [] : [NO_RECIPE.problem];
  return use === 'walk' || use === 'turn' || input.recipe ? [] : [NO_RECIPE.problem];
};

/** Marks that were read and place nothing, or are not to be believed as they are; a walk with the beam off may show which. */
const doubts = (
  { placed, place: { problem, question, consistency } }: BatchReckoning,
  use: Use,
): readonly Problem[] => {
  if (problem && !placed && (use === 'burn' || use === 'walk')) return [problem];
  if (!STOPS.marks.includes(use)) return [];
  if (question) return [question];
  return consistency?.verdict === 'disagrees'
    ? [{ code: 'marks-disagree', message: consistency.message, field: 'place' }]
    : [];
};

/** Several pieces that are on and show what the customer did not approve: laid before something was changed. */
const customerRemarks = ({ customerWaits }: BatchInput, r: BatchReckoning): readonly Problem[] =>
  customerWaits && r.onTheBoard.length > 1 && r.run.openLoad !== null ? [CUSTOMER_WAITS] : [];

/** Every remark that is a danger to some file of the work that is on. */
const dangersOf = (input: BatchInput, r: BatchReckoning): readonly Remark[] => {
  const on = new Set(r.onTheBoard.map((o) => o.ordinal));
  return [
    ...r.warnings,
    ...fixtureRemarks(r),
    ...settingRemarks(input, r),
    ...rosterRemarks(input, r),
    ...artRemarks(input, r),
    ...restOfPieces(r),
  ].filter((w) => w.danger !== undefined && (w.pieces === undefined || w.pieces.some((p) => on.has(p))));
};

const against = (input: BatchInput, r: BatchReckoning, dangers: readonly Remark[], use: Use): readonly Problem[] => [
  ...[...dangers, ...recipeRemarks(input, r, use)].filter((w) => STOPS[w.danger!].includes(use)).map(asProblem),
  ...doubts(r, use),
  ...(use === 'burn' ? customerRemarks(input, r) : []),
];

/** A reason why a file does not leave: something is wrong, or waits to be done. */
export type Reason = Problem & { readonly waits: boolean };

/** What stands against the files that a batch has; what may leave is not in it. */
export type Gates = Readonly<Partial<Record<FileKey | 'print', readonly Reason[]>>>;

/** What the gate has against each file of a batch, and then what it waits for. */
export const gatesOf = (input: BatchInput, r: BatchReckoning): Gates => {
  const { drawings, programs, papers = [] } = wayOf(input).files;
  const dangers = dangersOf(input, r);
  const keys: readonly (FileKey | 'print')[] = [
    ...(Object.keys(drawings) as DrawingName[]),
    ...(Object.keys(programs) as ProgramName[]).map((name) => `${name}.gcode` as const),
    ...papers.filter((p) => p === 'print'),
  ];
  const all = keys.map((key) => {
    const use = USES[key.replace('.gcode', '') as Gated];
    const needs = key === 'print' ? [] : fileNeeds(input, r, key);
    const reasons = [
      ...against(input, r, dangers, use).map((p) => ({ ...p, waits: false })),
      ...needs.map((p) => ({ ...p, waits: true })),
    ];
    return [key, reasons] as const;
  });
  return Object.fromEntries(all.filter(([, reasons]) => reasons.length > 0));
};

/** Whether anything is cut to hold the pieces, of a material of its own. */
export const cutsStock = (batch: HeldBatch): boolean =>
  Object.keys(wayOf(batch).files.programs).some((name) => ['stock', 'trial'].includes(USES[name as ProgramName]));

/** One refusal that carries all reasons. */
export const refusal = (reasons: readonly Problem[]): Problem => {
  const first = reasons[0]!;
  return reasons.length === 1 ? first : { ...first, reasons };
};

/** A file, made when nothing stands against it; else all that does, each reason once. */
export const passed = <T>(against: readonly Problem[], make: () => Result<T>): Result<T> => {
  const reasons = [...new Map(against.map((p) => [p.message, p])).values()];
  return reasons.length === 0 ? make() : { ok: false, problem: refusal(reasons) };
};
