import type { LaidInput } from '../../budget';
import type { Box } from '../../geometry';
import {
  asymmetryProblem,
  blankOutline,
  chooseLines,
  UNTRIED_OUTLINE,
  usableArea,
  type BlankSizes,
  type Board,
  type LineSeat,
  type TallThing,
  type UsableArea,
} from '../../holding';
import { fail, ok, type Result } from '../../result';
import type { BatchInput, BatchReckoning, Held } from '../../setup';
import type { Mm } from '../../units';

type Warnings = BatchReckoning['warnings'];

type Pegs = Held<'pegs'>;

/** Pegs and lines for this blank, and the part of it that can be engraved. */
export const seatOf = (
  input: BatchInput,
  { choice, found }: Pegs,
  sizes: BlankSizes,
  art: Box,
): Result<{ readonly lines: LineSeat; readonly usable: UsableArea }> => {
  const outline = blankOutline(input.blank, sizes);
  if (input.blank.shape.kind === 'disc')
    return fail('round', 'A disc can turn against any line. Cut pockets for it, or give it a notch.', 'hold.method');
  const chosen = chooseLines(outline[0]!, { ...choice, ...found }, art);
  return chosen.ok
    ? ok({
        lines: chosen.value,
        usable: usableArea(outline, choice.shoulder, input.machine.focusRange / 2),
      })
    : chosen;
};

/** What can be wrong with a piece that an eye laid to its lines. */
export const laidToLines = ({ choice, found: { card } }: Pegs, { seat }: LineSeat): LaidInput => ({
  seat,
  eye: choice.eye,
  outline: { error: card ?? UNTRIED_OUTLINE, measured: card !== null },
  returns: null,
});

/** Pegs as things that the head must clear. */
export const pegsAsThings = (
  { peg, pegHeight, boardThickness }: Pegs['choice'],
  board: Board,
  seat: LineSeat,
  lift: Mm,
): TallThing[] =>
  board.slots.flatMap((s) =>
    seat.pegs.map((p, i) => ({
      label: `peg ${i + 1} of place ${s.slot}`,
      x: s.centre.x + p.x * Math.cos(s.angle) - p.y * Math.sin(s.angle),
      y: s.centre.y + p.x * Math.sin(s.angle) + p.y * Math.cos(s.angle),
      radius: peg / 2,
      height: boardThickness + pegHeight + lift,
    })),
  );

/** Pieces whose better face is the other one, where an outline turned over does not meet its pegs. */
const turnedOver = (input: BatchInput, { found: { card } }: Pegs, sizes: BlankSizes): Warnings => {
  const over = input.setup.looks.pieces.filter((p) => p.side === 'two').map((p) => p.ordinal);
  if (over.length === 0) return [];
  const outline = blankOutline(input.blank, sizes);
  const room = 2 * (card ?? UNTRIED_OUTLINE);
  return (['over', 'page'] as const).some((turn) => asymmetryProblem(outline, 0, turn, room) === null)
    ? []
    : [
        {
          station: 'hold',
          danger: 'fixture',
          pieces: over,
          message: `${over.length === 1 ? `Piece ${over[0]} lies` : `Pieces ${over.slice(0, 8).join(', ')} lie`} on side two: turned over, this outline does not meet its pegs and lines. Burn side one, or make a board for the mirrored outline.`,
        },
      ];
};

/** A gap to the card beyond which an outline is no drawing of its blank, mm [assumed]. */
const OTHER_OUTLINE: Mm = 1;

/** An outline that the trial in card showed to be wrong. */
const cardOff = ({ found: { card } }: Pegs): Warnings =>
  card !== null && card > OTHER_OUTLINE
    ? [
        {
          station: 'hold',
          danger: 'outline',
          message: `The blank and its card are ${card.toFixed(2)} mm apart: this is not its outline. Scan or draw it again before a board is cut.`,
        },
      ]
    : [];

/** What is wrong with laying these pieces to this seat. */
export const seatWarnings = (input: BatchInput, held: Pegs, sizes: BlankSizes): Warnings => [
  ...turnedOver(input, held, sizes),
  ...cardOff(held),
];
