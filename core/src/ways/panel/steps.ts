import { takenThenPlaced } from '../flat';
import { cornerWords, slotTransform, turnedBoard, type Board, type Turn } from '../../holding';
import { apply, boxCorners, boxOf } from '../../geometry';
import { bedToFile } from '../../burn';
import {
  CAUTIONS,
  TURNED,
  heldAs,
  type BatchInput,
  type BatchReckoning,
  homeStep,
  saveStep,
  type Step,
  runSteps,
  recipeSteps,
  aimSteps,
  rereadStep,
} from '../../setup';
import { pieceCount } from '../../working';

const TURN_WORDS: Readonly<Record<Turn, string>> = {
  page: 'Like a page of a book: its left edge goes to the right, the back edge stays at the back.',
  over: 'Over: its front edge goes to the back, the left edge stays at the left.',
};

const markOf = ({ takes }: Step, { marks }: Board): Board['marks'][number] | undefined =>
  takes?.kind === 'reading' ? marks.find((m) => m.id === takes.mark) : undefined;

/** Taking a panel and knowing that it may be burned. */
export const panelHoldSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const panel = heldAs(input, 'panel').choice;
  return [
    saveStep(input, 'Save the sheet to the Shelf', 'From then on its places and marks stay as they are.'),
    {
      id: 'hold.material',
      station: 'hold',
      part: 'check',
      title: 'Is this material safe to burn, on both faces?',
      detail: `${r.board?.slots.length ?? 0} pieces are cut out of it, ${panel.gap} mm apart. Read its safety sheet; leave its film on or take it off on both faces alike.`,
      caution: CAUTIONS.material,
    },
  ];
};

/** How far a sheet may lie off: as far as the rim round its pieces and marks, and the bed, leave room. */
const rimWords = (
  { width, height, slots, marks }: Board,
  { sizes }: Pick<BatchReckoning, 'sizes'>,
  bed: { readonly width: number; readonly height: number },
): string => {
  const half = { minX: -sizes.length.mean / 2, maxX: sizes.length.mean / 2, minY: -sizes.width.mean / 2, maxY: sizes.width.mean / 2 }; // prettier-ignore
  const used = boxOf([...marks.map((m) => m.at), ...slots.flatMap((s) => boxCorners(half).map((c) => apply(slotTransform(s), c)))]); // prettier-ignore
  const rims = [used.minX, used.minY, width - used.maxX, height - used.maxY];
  const room = Math.floor(Math.min(...rims, (bed.width - width) / 2, (bed.height - height) / 2));
  return room < 1
    ? 'It must lie just there: there is no rim to spare.'
    : `It may lie off by ${room} mm: so much room is left round its pieces and marks.`;
};

/** Side one, the turn, and whatever carries the placement to side two. */
export const panelPlaceSteps = (input: BatchInput, r: BatchReckoning, aiming: readonly Step[]): Step[] => {
  const { board } = r;
  if (!board) return [];
  const panel = heldAs(input, 'panel').choice;
  const inHoles = panel.carry === 'holes';
  const back = r.face.side === 'back';
  const turned = back ? board : turnedBoard(board, panel);
  const nearest = {
    x: (input.machine.bed.width + (input.machine.zeroCorner.endsWith('left') ? -1 : 1) * board.width) / 2,
    y: (input.machine.bed.height + (input.machine.zeroCorner.startsWith('front') ? -1 : 1) * board.height) / 2,
  };
  const corner = apply(bedToFile(input.machine), nearest);
  return [
    homeStep,
    {
      id: 'place.lay',
      station: 'place',
      part: 'do',
      title: `Lay sheet ${board.name} r${board.revision} on the bed, side one up`,
      detail: `In the middle: its ${input.machine.zeroCorner.replace('-', ' ')} corner at ${corner.x.toFixed(0)}, ${corner.y.toFixed(0)}. ${rimWords(board, r, input.machine.bed)} Hold it flat at its edges.`,
    },
    {
      id: 'place.focus',
      station: 'place',
      part: 'do',
      title: 'Focus on the sheet',
      detail: 'On its middle. Again after it is turned, should its faces differ.',
    },
    {
      id: 'place.walk-one',
      station: 'place',
      part: 'check',
      title: 'Walk side one with the beam off',
      detail: 'The dot stays on the sheet all the way round.',
      caution: CAUTIONS.head,
      files: back ? [] : [['walk.gcode', 'Walk file']],
      done: back,
    },
    {
      id: 'place.side-one',
      station: 'place',
      part: 'do',
      title: inHoles ? 'Burn the first file: side one and the outlines' : 'Burn the first file: side one and the marks',
      detail: inHoles
        ? 'Everything stays where it is: sheet and cut pieces.'
        : `${board.marks.length} crosses are cut through the sheet. Do not move it before the file has ended.`,
      caution: CAUTIONS.burn,
      takes: { kind: 'burn' },
      files: back ? [] : [['load.gcode', 'First file, G-code']],
      done: back,
    },
    {
      id: TURNED,
      station: 'place',
      part: 'do',
      title: inHoles ? 'Turn every piece in its own hole' : 'Turn the sheet over',
      detail: inHoles ? 'Do not move the sheet. Press each piece in until it lies flush.' : TURN_WORDS[panel.turn],
      caution: CAUTIONS.hot,
      done: back,
    },
    ...(inHoles
      ? []
      : aiming.map((s) => {
          const mark = markOf(s, turned);
          return mark
            ? {
                ...s,
                detail: `It lies ${cornerWords(mark.at, board.width, board.height)} now. ${s.detail ?? ''}`,
              }
            : s;
        })),
    {
      id: 'place.walk',
      station: 'place',
      part: 'check',
      title: 'Walk side two with the beam off',
      detail: 'The dot follows the outlines of the pieces that lie at the edge.',
      caution: CAUTIONS.head,
      files: back ? [['walk.gcode', 'Walk file']] : [],
    },
  ];
};

/** A panel is taken, burned, turned and aimed at before its run comes to the second file. */
export const panelSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const size = Math.min(r.run.waiting.length, r.board?.slots.length ?? 1);
  const run = runSteps(
    input,
    r,
    r.run.openLoad === null
      ? {
          title: `Take the next sheet: ${pieceCount(size)}`,
          detail: 'Side one is burned first; the list says which name goes where.',
        }
      : {
          title: `Burn the second file: side two${r.board?.marks.length ? ' and the outlines' : ''}`,
          detail: 'Look at both faces of the first piece that is free.',
        },
  );
  return [
    ...panelHoldSteps(input, r),
    // The side that lies up may have a recipe of its own.
    ...recipeSteps({ recipe: r.face.recipe }),
    ...takenThenPlaced(r, run, panelPlaceSteps(input, r, [...aimSteps(input, r), rereadStep(r)])),
  ];
};
