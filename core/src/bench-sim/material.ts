import { chosenSource } from './beam';
import { seeded, type Random } from '../budget';
import type { BurnSetting, Machine } from '../burn';
import type { Vec } from '../geometry';
import { readGcode } from '../output';
import type { Result } from '../result';
import { ok } from '../result';
import {
  CUT_STATES,
  partOf,
  type CellScore,
  type CutState,
  type Effect,
  type LaidTrial,
  type Tell,
  type TrialPlan,
} from '../trial';
import type { Mm } from '../units';

/**
 * A material as nobody knows it: how it answers to energy. Plausible and made up; nothing that plans or proposes sees it.
 */
export interface HiddenMaterial {
  readonly effect: Effect;
  /** Below it nothing is seen; at the second the effect is there; energy of an area, J/mm², or of a line, J/mm. */
  readonly threshold: number;
  readonly saturation: number;
  /** Where it begins to char, melt or lose its edge. */
  readonly char: number;
  /** A slow beam warms more than its energy says: effective energy goes as speed to minus this. */
  readonly slowness: number;
  /** Below this speed heat runs sideways and rims grow soft, mm/s. */
  readonly soft: number;
  /** Lines further apart than this stay apart, mm. */
  readonly spot: Mm;
  /** Share of a tube's asked power that it gives at full scale, and what it loses as it warms. */
  readonly sag: number;
  /** How much a coating's thickness changes from place to place, as a share of the energy it takes; standard. */
  readonly coating: number;
  /** What a warm neighbour adds, as a share. */
  readonly neighbours: number;
}

/** What a cell looks like, each from 0 to 1, and what it is worth. */
export interface CellLook {
  /** How far the effect is there. */
  readonly done: number;
  readonly charred: number;
  readonly soft: number;
  readonly striped: number;
  /** Grade without an eye's noise, 0 to 10. */
  readonly grade: number;
  readonly tell: Tell;
  /** How a cut comes out; null where nothing is cut. */
  readonly cut: CutState | null;
}

const spread = (r: Random, low: number, high: number): number => low * (high / low) ** r.uniform();

/** @param middle energy about which the made-up material is made up: J/mm² of an area, J/mm of a line */
export const hiddenMaterial = (seed: number, effect: Effect, middle: number): HiddenMaterial => {
  const r = seeded(seed * 7919 + 13);
  const saturation = spread(r, middle / 2.2, middle * 2.2);
  return {
    effect,
    saturation,
    threshold: saturation * (0.25 + 0.3 * r.uniform()),
    char: saturation * (1.5 + 1.5 * r.uniform()),
    slowness: 0.25 * r.uniform(),
    soft: spread(r, 15, 90),
    spot: 0.09 + 0.08 * r.uniform(),
    sag: 0.02 + 0.08 * r.uniform(),
    coating: effect === 'clean' || effect === 'mark' ? 0.02 + 0.03 * r.uniform() : 0.01,
    neighbours: 0.1 + 0.15 * r.uniform(),
  };
};

const smooth = (t: number): number => {
  const s = Math.min(1, Math.max(0, t));
  return s * s * (3 - 2 * s);
};

/** Speed at which a material's slowness neither adds nor takes, mm/s. */
const PLAIN_SPEED = 150;

/**
 * How a material answers to a setting.
 * @param warm share of the hottest cell's warmth that a neighbour left; @param thicker coating's own share above or below
 */
export const answerOf = (
  hidden: HiddenMaterial,
  power: number,
  setting: BurnSetting,
  { warm = 0, thicker = 0 } = {},
): CellLook => {
  const area = partOf(hidden.effect) === 'engrave';
  // The tube gives less than it is asked for, most at full scale.
  const given = power * setting.power * (1 - hidden.sag * setting.power);
  const bare = (given / (setting.speed * (area ? setting.interval : 1))) * setting.passes ** 0.9;
  const plain = area ? PLAIN_SPEED : 10;
  const energy = (bare * (plain / setting.speed) ** hidden.slowness * (1 + hidden.neighbours * warm)) / (1 + thicker);
  const done = smooth((energy - hidden.threshold) / (hidden.saturation - hidden.threshold));
  const charred = smooth((energy - hidden.char) / (1.2 * hidden.char));
  const soft = 1 / (1 + (setting.speed / (area ? hidden.soft : hidden.soft / 40)) ** 2);
  // Deep burns blur their lines together a little.
  const striped = area ? smooth((setting.interval - hidden.spot) / (1.5 * hidden.spot)) * (1 - 0.3 * charred) : 0;
  const cut = hidden.effect === 'cut' ? cutOf(done, charred, energy / hidden.saturation) : null;
  const grade = cut
    ? CUT_STATES.find((s) => s.id === cut)!.grade
    : 10 * done * (1 - charred) ** 1.5 * (1 - 0.5 * soft) * (1 - 0.6 * striped);
  const tell: Tell = charred > 0.25 ? 'strong' : done < 0.75 ? 'weak' : 'right';
  return { done, charred, soft, striped, grade, cut, tell: cut ? CUT_STATES.find((s) => s.id === cut)!.tell : tell };
};

const cutOf = (done: number, charred: number, over: number): CutState => {
  if (charred > 0.35) return 'burned back';
  if (done < 0.9) return 'not through';
  return over < 1.12 ? 'must be pushed' : 'falls out';
};

/** Standard deviation of a practised eye that grades from 0 to 10, in grades: half a step. */
export const EYE = 0.5;

/** What an eye says of a cell: in whole grades, off by as much as eyes are. */
export const lookAt = (look: CellLook, cell: number, r: Random, by = 'Imre'): CellScore => {
  const seen = look.cut ? look.grade : Math.min(10, Math.max(0, Math.round(look.grade + EYE * r.normal())));
  return { cell, grade: seen, tell: look.tell, by };
};

interface Burned {
  energy: number;
  power: number;
  speed: number;
  seconds: number;
  first: number;
  end: number;
  rows: Set<number>;
  /** Lines along x by one source alone. */
  plain: boolean;
}

/**
 * Burns a trial's own file on a hidden material: what each cell got is read off the moves and waits of the file, not off
 * the plan.
 *
 * @param toBed file's coordinates to the grid's frame, mm
 * @returns looks by cell
 */
export const burnTrial = (
  text: string,
  plan: TrialPlan,
  laid: LaidTrial,
  machine: Pick<Machine, 'power' | 'second' | 'dialect' | 'rapidSpeed'>,
  toGrid: (x: Mm, y: Mm) => Vec,
  hidden: HiddenMaterial,
  seed: number,
): Result<CellLook[]> => {
  const program = readGcode(text, machine.dialect.powerMax);
  if (!program.ok) return program;
  const { moves, waits } = program.value;
  const r = seeded(seed * 31 + 5);
  const got = laid.cells.map((): Burned => ({ energy: 0, power: 0, speed: 0, seconds: 0, first: -1, end: 0, rows: new Set(), plain: true })); // prettier-ignore
  const { width, height } = plan.cell;
  let clock = 0;
  let pending = 0;
  const source = chosenSource(program.value, machine);
  let at = { x: 0, y: 0 };
  for (let i = 0; i < moves.count; i += 1) {
    const other = source(i);
    while (pending < waits.length && waits[pending]!.before <= i) clock += waits[pending++]!.seconds;
    const head = toGrid(moves.x[i]!, moves.y[i]!);
    const to = { x: head.x + (other?.offset.x ?? 0), y: head.y + (other?.offset.y ?? 0) };
    const speed = moves.speed[i]! < 0 ? machine.rapidSpeed : moves.speed[i]!;
    const chord = Math.hypot(to.x - at.x, to.y - at.y);
    const sweep = 4 * Math.atan(Math.abs(moves.bulge[i]!));
    const length = sweep === 0 ? chord : ((chord / 2) * sweep) / Math.sin(sweep / 2);
    const seconds = length / speed;
    if (moves.power[i]! > 0) {
      const middle = { x: (at.x + to.x) / 2, y: (at.y + to.y) / 2 };
      const cell = laid.cells.findIndex(
        (c) => middle.x >= c.x - 0.01 && middle.x <= c.x + width + 0.01 && middle.y >= c.y - 0.01 && middle.y <= c.y + height + 0.01, // prettier-ignore
      );
      const b = got[cell];
      if (b) {
        if (b.first < 0) b.first = clock;
        b.end = clock + seconds;
        b.energy += (moves.power[i]! * seconds * (other?.power ?? machine.power)) / machine.power;
        b.plain &&= !other && (b.power === 0 || b.power === moves.power[i]!) && Math.abs(to.y - at.y) < 1e-4;
        if (b.speed === 0) [b.power, b.speed] = [moves.power[i]!, speed];
        b.seconds += seconds;
        b.rows.add(Math.round(to.y * 1000));
      }
    }
    clock += seconds;
    at = to;
  }
  const pitch = Math.max(width, height);
  const looks = got.map((b, i) => {
    const cell = laid.cells[i]!;
    // What is still warm beside it when it begins: a neighbour's heat falls by half in the time a cell's width takes to spread.
    const warm = got.reduce((sum, o, k) => {
      if (k === i || o.end === 0 || o.end > b.first) return sum;
      const d = Math.hypot(laid.cells[k]!.x - cell.x, laid.cells[k]!.y - cell.y) / pitch;
      return sum + Math.exp(-d * d) * Math.exp(-(b.first - o.end) / 20);
    }, 0);
    const passes = Math.max(1, cell.setting.passes);
    const rows = b.rows.size > 1 ? height / (b.rows.size - 0.5) : cell.setting.interval;
    // Lines that cross, or burns that follow: as much energy as all of them leave, at the first one's pace.
    const even = (b.power * passes * width * height) / (b.energy * (b.speed || 1));
    const interval = b.plain || partOf(plan.effect) === 'cut' || b.energy === 0 ? rows : even;
    const setting: BurnSetting = { power: b.power, speed: b.speed || 1, interval, passes };
    return answerOf(hidden, machine.power, setting, { warm, thicker: hidden.coating * r.normal() });
  });
  return ok(looks);
};
