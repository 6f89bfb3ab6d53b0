import { avoidDefects, offUsable, type BatchArt } from '../artwork';
import type { LaidInput } from '../budget';
import { compose, translation, type Box, type Transform, type Vec } from '../geometry';
import { bedToFile } from '../burn';
import {
  asymmetryProblem,
  blankOutline,
  boardOfOne,
  chooseLines,
  gridSeat,
  insideUsable,
  laidToLines,
  pinsAsThings,
  reckonLocator,
  reckonPins,
  UNTRIED_OUTLINE,
  usableArea,
  type Blank,
  type BlankSizes,
  type Board,
  type HoldSettings,
  type LineSeat,
  type Locator,
  type Pins,
  type TallThing,
  type UsableArea,
  type Zone,
} from '../holding';
import type { Alphabet } from '../lettering';
import { pointerAt } from '../marks';
import { fail, ok, type Problem, type Result } from '../result';
import type { Mm } from '../units';
import { reckonStand, slotFit, type SlotFit, type Stand } from '../slotted';
import { effectiveHold, type Held } from './held';
import type { BatchInput } from './input';

/** What holds work beside pockets: pegs and lines, a locator board, pins, a stand. */
export interface Fixings {
  readonly lines: LineSeat | null;
  readonly usable: UsableArea | null;
  readonly locator: Locator | null;
  readonly pins: Pins | null;
  readonly stand: Stand | null;
  readonly fit: SlotFit | null;
  /** What of it cannot be made, and why. */
  readonly problems: readonly Problem[];
}

export const noFixings: Fixings = {
  lines: null,
  usable: null,
  locator: null,
  pins: null,
  stand: null,
  fit: null,
  problems: [],
};

/** Findings of the bench count at once, also for a board that was saved before. */
const linesNow = (input: BatchInput, hold: HoldSettings): HoldSettings['lines'] => ({
  ...hold.lines,
  card: input.setup.hold.lines.card,
});
const locatorNow = (input: BatchInput, hold: HoldSettings): HoldSettings['locator'] => ({
  ...hold.locator,
  back: input.setup.hold.locator.back,
});

/** Pegs and lines for this blank, and the part of it that can be engraved. */
export const linesOf = (
  input: BatchInput,
  hold: HoldSettings,
  sizes: BlankSizes,
  art: Box,
): Result<{ readonly lines: LineSeat; readonly usable: UsableArea }> => {
  const outline = blankOutline(input.blank, sizes);
  const settings = linesNow(input, hold);
  if (input.blank.shape.kind === 'disc')
    return fail('round', 'A disc can turn against any line. Cut pockets for it, or give it a notch.', 'hold.method');
  const chosen = chooseLines(outline[0]!, settings, art);
  return chosen.ok
    ? ok({
        lines: chosen.value,
        usable: usableArea(outline, input.blank.holes, settings.shoulder, input.machine.focusRange / 2),
      })
    : chosen;
};

/** The locator board as the place of pieces: its grid on the bed, pieces at its intersections. */
export const locatorOf = (
  input: BatchInput,
  hold: HoldSettings,
  sizes: BlankSizes,
  labels: Alphabet,
): Result<{ readonly locator: Locator; readonly board: Board }> => {
  const { bed } = input.machine;
  const made = reckonLocator(
    locatorNow(input, hold),
    bed,
    { length: sizes.length.mean, width: sizes.width.mean },
    hold.boardThickness,
    hold.order,
    labels,
  );
  if (!made.ok) return made;
  const { slots, passes, columns, rows, cell } = made.value;
  return ok({
    locator: made.value,
    board: {
      ...boardOfOne({ length: bed.width, width: bed.height }, hold.name, input.fixture?.revision ?? 1, [], passes),
      thickness: hold.boardThickness,
      pocket: { length: cell.width, width: cell.height },
      columns,
      rows,
      slots,
    },
  });
};

/** What can be wrong with pieces that are laid to lines; null for those that are not. */
export const laidBy = (
  input: BatchInput,
  hold: HoldSettings,
  sizes: BlankSizes,
  { lines, locator }: Pick<Fixings, 'lines' | 'locator'>,
): LaidInput | null => {
  if (lines) {
    const { eye, card } = linesNow(input, hold);
    return {
      seat: lines.seat,
      eye,
      outline: { error: card ?? UNTRIED_OUTLINE, measured: card !== null },
      returns: null,
    };
  }
  if (locator)
    return {
      seat: gridSeat({ length: sizes.length.mean, width: sizes.width.mean }),
      eye: hold.locator.eye,
      outline: { error: 0, measured: true },
      returns: { seat: locator.seat, u: locator.stopError, dof: 2 * locatorNow(input, hold).back.length },
    };
  return null;
};

/** How high the work's engraved surface, and the work itself, stand over the bed, mm. */
const standing = (hold: HoldSettings, thickness: number): { top: number; surface: number } => {
  const lift = hold.stand?.height ?? 0;
  const board = hold.boardThickness + lift;
  return laidToLines(hold.method)
    ? { top: board, surface: board + thickness }
    : hold.method === 'nest' || hold.method === 'fence'
      ? { top: board, surface: thickness + lift }
      : { top: thickness + lift, surface: thickness + lift };
};

/** Pins and a stand under a flat batch, from the settings on screen: they are not part of the board. */
export const pinsAndStand = (
  input: BatchInput,
  hold: HoldSettings,
  sizes: BlankSizes,
  board: Board | null,
  path: readonly Vec[],
): Pick<Fixings, 'pins' | 'stand' | 'fit' | 'problems'> => {
  const { pins: settings, stand: wanted, stock } = input.setup.hold;
  const problems: Problem[] = [];
  const take = <T>(result: Result<T>): T | null => {
    if (result.ok) return result.value;
    problems.push(result.problem);
    return null;
  };
  const pins =
    settings && board
      ? take(
          reckonPins(
            settings,
            {
              width: board.width,
              height: board.height,
              ...standing(hold, sizes.thickness.mean),
              warp: hold.boardWarp,
            },
            input.machine,
            path,
            board.marks.map((m) => m.at),
          ),
        )
      : null;
  const fit = slotFit(stock, hold.boardThickness);
  const stand = wanted && fit.ok ? take(reckonStand(wanted, fit.value, input.machine.kerf)) : null;
  if (wanted && !fit.ok) problems.push(fit.problem);
  return { pins, stand, fit: fit.ok ? fit.value : null, problems };
};

/** Pieces whose better face is the other one, where an outline turned over does not meet its pegs. */
export const turnedOver = (
  input: BatchInput,
  hold: HoldSettings,
  sizes: BlankSizes,
): { readonly station: string; readonly message: string }[] => {
  const over = input.setup.looks.pieces.filter((p) => p.side === 'two').map((p) => p.ordinal);
  if (hold.method !== 'lines' || over.length === 0) return [];
  const outline = blankOutline(input.blank, sizes);
  const room = 2 * (linesNow(input, hold).card ?? UNTRIED_OUTLINE);
  return (['over', 'page'] as const).some((turn) => asymmetryProblem(outline, 0, turn, room) === null)
    ? []
    : [
        {
          station: 'hold',
          message: `${over.length === 1 ? `Piece ${over[0]} lies` : `Pieces ${over.slice(0, 8).join(', ')} lie`} on side two: turned over, this outline does not meet its pegs and lines. Burn side one, or make a board for the mirrored outline.`,
        },
      ];
};

/** A gap to the card beyond which an outline is no drawing of its blank, mm [assumed]. */
const OTHER_OUTLINE: Mm = 1;

/** An outline that the trial in card showed to be wrong. */
export const cardOff = (
  input: BatchInput,
  hold: HoldSettings,
): { readonly station: string; readonly message: string }[] => {
  const { card } = linesNow(input, hold);
  return hold.method === 'lines' && card !== null && card > OTHER_OUTLINE
    ? [
        {
          station: 'hold',
          message: `The blank and its card are ${card.toFixed(2)} mm apart: this is not its outline. Scan or draw it again before a board is cut.`,
        },
      ]
    : [];
};

/** What pins leave of a board's bow: h(s/L)² between pins s apart over a length L; mm. */
export const bowLeft = (warp: Mm, board: Board | null, pins: Pins | null): Mm => {
  if (!board || !pins || pins.blocked > 0) return warp;
  const long = Math.max(board.width, board.height);
  return warp * (Math.min(pins.spacing, long) / long) ** 2;
};

/** Pegs and pins as things that the head must clear. */
export const fixingsAsThings = (
  hold: HoldSettings,
  board: Board | null,
  { lines, pins }: Pick<Fixings, 'lines' | 'pins'>,
): TallThing[] => [
  ...(lines && board
    ? board.slots.flatMap((s) =>
        lines.pegs.map((p, i) => ({
          label: `peg ${i + 1} of place ${s.slot}`,
          x: s.centre.x + p.x * Math.cos(s.angle) - p.y * Math.sin(s.angle),
          y: s.centre.y + p.x * Math.sin(s.angle) + p.y * Math.cos(s.angle),
          radius: hold.lines.peg / 2,
          height: hold.boardThickness + hold.lines.pegHeight + (hold.stand?.height ?? 0),
        })),
      )
    : []),
  ...(pins ? pinsAsThings(pins) : []),
];

/** Art that keeps clear of each piece's defects, with what leaves the part that can be engraved named. */
export const artOnPieces = (
  input: BatchInput,
  art: BatchArt | null,
  zone: Zone | null,
  usable: UsableArea | null,
): BatchArt | null => {
  if (!art || !zone) return art;
  const fits = (box: Box): boolean => usable === null || insideUsable(box, usable.area);
  const clear = avoidDefects(art, zone, input.setup.looks.pieces, fits);
  return usable && usable.inset > 0
    ? { ...clear, problems: [...clear.problems, ...offUsable(clear, zone, fits)] }
    : clear;
};

/**
 * From the bed's frame to the coordinates that a load's file is written in: the machine's own; on a
 * locator board, counted from the intersection over which the pointer stands when zero is set.
 */
export const bedToLoad = (
  input: BatchInput,
  { fixings, sizes }: { readonly fixings: Fixings; readonly sizes: BlankSizes },
): Transform => {
  const toFile = bedToFile(input.machine);
  const { locator } = fixings;
  if (!locator) return toFile;
  const { pointerOffset } = input.machine;
  // The grid lies under the blanks, whose tops are in focus.
  const off = pointerOffset ? pointerAt(pointerOffset, -sizes.thickness.mean) : { x: 0, y: 0 };
  const zero = { x: locator.zero.x - off.x, y: locator.zero.y - off.y };
  return compose(translation(-(toFile.a * zero.x + toFile.e), -(toFile.d * zero.y + toFile.f)), toFile);
};

/** Whether pieces of a batch are laid by hand one by one and looked at before: their faces and defects can be kept. */
export const looksAtPieces = (input: Held & { readonly blank: Pick<Blank, 'shape'> }): boolean =>
  input.blank.shape.kind !== 'round' && ['nest', 'fence', 'lines', 'locator'].includes(effectiveHold(input).method);
