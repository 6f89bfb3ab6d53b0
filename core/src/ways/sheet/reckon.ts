import { flatten, type Contour, type Vec } from '../../geometry';
import { plainPlace, printedBoard, tracedBoard, tracedBox, tracedPieces, type Board } from '../../holding';
import { plannedSheets } from '../../runs';
import { heldAs, type BatchInput, type BatchReckoning, type Held, type ReckonOptions } from '../../setup';
import { cutRemarks } from './cutting';
import { aimingGrowth, begin, bleedWarning, follow, NO_LABELS, wholePiece } from '../flat';

/** How many holes each piece of a traced print is cut with. */
const holesOf = ({ traced, inner }: Pick<Held<'sheet'>['choice'], 'traced' | 'inner'>): number[] =>
  traced && inner ? tracedPieces(traced).map((p) => p.holes.length) : [];

/** Each piece's cut as closed lines; pieces that are cut alike share theirs. */
const cutLines = (board: Board | null): NonNullable<BatchReckoning['own']['cutLine']> => {
  const made = new Map<readonly Contour[], readonly (readonly Vec[])[]>();
  return (board?.cuts ?? []).map((cut) => {
    const known = made.get(cut);
    if (known) return known;
    const lines = cut.map((c) => {
      const points = flatten(c, 0.005);
      return [...points, points[0]!];
    });
    made.set(cut, lines);
    return lines;
  });
};

/** Everything that follows for pieces that are cut out of a print. */
export const sheetBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const begun = begin(input, options, true);
  const { sizes, labels } = begun;
  const sheet = heldAs(input, 'sheet').choice;
  const { traced } = sheet;
  const pocket = plainPlace(sizes);
  const { machine } = input;
  const revision = input.fixture?.revision ?? 1;
  const made = !labels
    ? NO_LABELS
    : traced
      ? tracedBoard(sheet, traced, machine.kerf, revision, machine.bed)
      : printedBoard({ blank: input.blank, sizes, pocket, machine, revision }, sheet);
  const board = made.ok ? made.value : null;
  const { quantity, spares } = input;
  const places = board?.slots.length ?? 0;
  return follow(
    input,
    options,
    begun,
    {
      wanted: pocket,
      pocket,
      artBox: traced ? tracedBox(traced) : wholePiece(input),
      made,
      board,
      aimed: board,
      lies: 'drawn',
      rests: 'alone',
      suits: { to: 'size' },
      stretches: true,
      marksAt: 0,
      // A print may be stretched, which no turning of the work takes out.
      turns: false,
    },
    {
      firstAlone: false,
      planned: plannedSheets,
      budget: (place) => ({
        aimingGrowth: board ? aimingGrowth(board, place) : 1,
        outline: traced?.uncertainty ?? 0,
      }),
      last: ({ predicted }) => [
        ...bleedWarning(sheet, predicted),
        ...(board ? cutRemarks(board, sheet.inset, holesOf(sheet)) : []),
        ...(traced && places > quantity + spares
          ? [
              {
                station: 'hold',
                message: `The print has ${places} pieces, the batch ${quantity}${spares > 0 ? ` and ${spares} spare` : ''}: the rest stays on the sheet. Change the quantity to cut them all.`,
              },
            ]
          : []),
      ],
      also: { cutLine: cutLines(board) },
    },
  );
};
