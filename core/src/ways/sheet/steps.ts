import {
  heldAs,
  pinSteps,
  recipeSteps,
  runSteps,
  saveStep,
  standSteps,
  type BatchInput,
  type BatchReckoning,
  type Step,
} from '../../setup';
import { lyingFlat, materialStep, placeSteps } from '../flat';
import { pieceCount } from '../../working';

/** What was found in a picture is compared with the sheet in hand. */
const countStep = (r: BatchReckoning): Step => ({
  id: 'hold.count',
  station: 'hold',
  part: 'check',
  title: 'Count the pieces on the print',
  detail: `So many were found, and ${r.board?.marks.length ?? 0} marks. If the sheet has another number, look at the drawing for what was joined, split or left out.`,
  figure: { value: String(r.board?.slots.length ?? 0), unit: 'pieces', label: 'found in the picture' },
});

const printSteps: readonly Step[] = [
  {
    id: 'hold.print',
    station: 'hold',
    part: 'do',
    title: 'Print the sheet at 100 %',
    detail: 'No fitting to the page, no scaling. The same printer and paper for all sheets.',
    figure: { value: '100.0', unit: 'mm', label: 'the printed bar' },
    files: [['print.pdf', 'Sheet to print, PDF']],
  },
  {
    id: 'hold.bar',
    station: 'hold',
    part: 'check',
    title: 'Measure the printed bar',
    detail: 'A millimetre off is a wrong print setting: print again. Less is paper and printer: the marks take it out.',
  },
];

/** A sheet is printed, measured and taped down, or counted where it came printed; aimed at, and cut. */
export const sheetSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const open = r.run.openLoad;
  const size = Math.min(r.run.waiting.length, r.board?.slots.length ?? 1);
  return [
    ...(r.board
      ? [
          saveStep(input, 'Save the sheet to the Shelf', 'Its marks and places stay as they are printed.'),
          ...(heldAs(input, 'sheet').choice.traced ? [countStep(r)] : printSteps),
          materialStep('Is this film safe to burn?', `${r.board.slots.length} pieces are cut out of it`),
          ...standSteps(r),
          ...pinSteps(input, r),
        ]
      : []),
    ...placeSteps(
      input,
      r,
      lyingFlat(`Lay sheet ${r.board?.name} r${r.board?.revision} on the bed`, 'Focus on the sheet'),
    ),
    ...recipeSteps(input, 'cut'),
    ...runSteps(input, r, {
      title: open === null ? `Take the next sheet: ${pieceCount(size)}` : `Burn load ${open}`,
      detail: 'Its marks were read on this very sheet. Look at the first cut before the rest.',
    }),
  ];
};
