import type { BurnSetting } from '../burn';
import { circle, polyline, type Contour, type Vec } from '../geometry';
import { setText, setWidth, type Alphabet } from '../lettering';
import type { Mm } from '../units';
import { levelText, NUMBER_WORDS, settingAt, type TrialPlan } from './plan';

/** One cell of a grid. Places in the grid's frame: origin at its lower left corner, y up; mm. */
export interface TrialCell {
  /** From nought, row by row from below, as the rows' levels stand. */
  readonly index: number;
  readonly column: number;
  readonly row: number;
  readonly x: Mm;
  readonly y: Mm;
  readonly setting: BurnSetting;
}

/** A grid laid out: cells, lettering, corner marks; all in the grid's frame, mm. */
export interface LaidTrial {
  readonly width: Mm;
  readonly height: Mm;
  readonly cells: readonly TrialCell[];
  readonly lettering: readonly Contour[];
  /** Rings with a dot in the corners: a photograph is cut into its cells by them. The first corner has a second ring. */
  readonly marks: readonly Vec[];
}

/** Height of the capitals beside the cells, mm: what an eye reads on a plate in the hand [common practice]. */
export const LABEL_HEIGHT: Mm = 2.2;
const CLEAR: Mm = 1.2;
/** Radius of a corner mark, mm. */
export const MARK_RADIUS: Mm = 1.5;
const MARK_ROOM: Mm = 2 * MARK_RADIUS + CLEAR;

/** What a name of an axis is cut to on the piece. */
const axisText = ({ number }: TrialPlan['columns']): string => {
  const { name, unit } = NUMBER_WORDS[number];
  return unit === '' ? name : `${name} ${unit}`;
};

/** Room that lettering and marks take round the cells: left, right, below, above; mm. */
const roomOf = (plan: Pick<TrialPlan, 'columns' | 'rows'>, alphabet: Alphabet) => {
  const widest = Math.max(
    ...plan.rows.levels.map((v) => setWidth(alphabet, levelText(plan.rows.number, v)) * LABEL_HEIGHT),
  );
  return {
    left: Math.max(MARK_ROOM, widest + 2 * CLEAR),
    right: MARK_ROOM,
    // A line for the levels and one for what goes across, what goes up and which trial.
    below: Math.max(MARK_ROOM, LABEL_HEIGHT + 2 * CLEAR),
    above: Math.max(MARK_ROOM, LABEL_HEIGHT + 2 * CLEAR),
  };
};

/** Size of a grid with its lettering and marks, mm. */
export const gridSize = (
  plan: Pick<TrialPlan, 'columns' | 'rows' | 'cell' | 'gap'>,
  alphabet: Alphabet,
): { width: Mm; height: Mm } => {
  const room = roomOf(plan, alphabet);
  const [nx, ny] = [plan.columns.levels.length, plan.rows.levels.length];
  return {
    width: room.left + room.right + nx * plan.cell.width + (nx - 1) * plan.gap,
    height: room.below + room.above + ny * plan.cell.height + (ny - 1) * plan.gap,
  };
};

/**
 * The largest square cells, in whole half millimetres, with which a grid still fits a piece.
 *
 * @param most no larger than this, mm: more area tells an eye nothing more
 * @returns null where even `least` does not fit
 */
export const cellFor = (
  plan: Pick<TrialPlan, 'columns' | 'rows' | 'gap'>,
  piece: { readonly width: Mm; readonly height: Mm },
  alphabet: Alphabet,
  { least, most }: { readonly least: Mm; readonly most: Mm },
): Mm | null => {
  const bare = gridSize({ ...plan, cell: { width: 0, height: 0 } }, alphabet);
  const side = Math.min(
    most,
    (piece.width - bare.width) / plan.columns.levels.length,
    (piece.height - bare.height) / plan.rows.levels.length,
  );
  const whole = Math.floor(side * 2 + 1e-9) / 2;
  return whole >= least ? whole : null;
};

/** Lays a grid out: columns to the right, rows upwards, each as its levels stand. */
export const layTrial = (plan: TrialPlan, name: string, alphabet: Alphabet): LaidTrial => {
  const room = roomOf(plan, alphabet);
  const { width, height } = gridSize(plan, alphabet);
  const [dx, dy] = [plan.cell.width + plan.gap, plan.cell.height + plan.gap];
  const at = (column: number, row: number): Vec => ({ x: room.left + column * dx, y: room.below + row * dy });
  const cells = plan.rows.levels.flatMap((_, row) =>
    plan.columns.levels.map((__, column): TrialCell => ({
      index: row * plan.columns.levels.length + column,
      column,
      row,
      ...at(column, row),
      setting: settingAt(plan, column, row),
    })),
  );
  const lettering: Contour[] = [];
  const write = (text: string, origin: Vec, most: Mm): void => {
    const natural = setWidth(alphabet, text) * LABEL_HEIGHT;
    const squeeze = natural > most ? most / natural : 1;
    lettering.push(...setText(alphabet, text, origin, LABEL_HEIGHT, squeeze).map((p) => polyline(p)));
  };
  plan.rows.levels.forEach((v, row) => {
    const text = levelText(plan.rows.number, v);
    const wide = setWidth(alphabet, text) * LABEL_HEIGHT;
    write(text, { x: room.left - CLEAR - wide, y: at(0, row).y + (plan.cell.height - LABEL_HEIGHT) / 2 }, wide);
  });
  plan.columns.levels.forEach((v, column) => {
    const text = levelText(plan.columns.number, v);
    const wide = Math.min(plan.cell.width + plan.gap - 0.4, setWidth(alphabet, text) * LABEL_HEIGHT);
    write(text, { x: at(column, 0).x + (plan.cell.width - wide) / 2, y: room.below - CLEAR - LABEL_HEIGHT }, wide);
  });
  write(
    `${name}: ${axisText(plan.rows)} up, ${axisText(plan.columns)} right`,
    { x: MARK_ROOM, y: height - CLEAR - LABEL_HEIGHT },
    width - 2 * MARK_ROOM,
  );
  const [lo, hi] = [MARK_RADIUS, 2 * MARK_RADIUS];
  const marks: Vec[] = [
    { x: lo, y: lo },
    { x: width - lo, y: lo },
    { x: width - lo, y: height - lo },
    { x: lo, y: height - lo },
  ];
  for (const [i, m] of marks.entries()) {
    lettering.push(circle(m, MARK_RADIUS), circle(m, 0.2));
    // Which corner is the first can be seen however the piece is held.
    if (i === 0) lettering.push(circle(m, hi / 3));
  }
  return { width, height, cells, lettering, marks };
};
