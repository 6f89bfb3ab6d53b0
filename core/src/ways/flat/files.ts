import {
  loadNeeds,
  partDrawing,
  partProgram,
  pieceDrawing,
  pieceProgram,
  pieceTime,
  pinGaugePart,
  pinsPart,
  squarePart,
  targetProgram,
  standPart,
  walkNeeds,
  walkProgram,
  type BatchReckoning,
  type LoadWords,
} from '../../setup';
import { fail, ok, type Problem, type Result } from '../../result';
import type { Board } from '../../holding';
import type { Drawer, Needs, Programmer, Way, WayFiles } from '../way';
import { boardGcode } from './board-file';

/** The board as it is made, or what stands against it. */
const needBoard = ({ board, boardProblem }: BatchReckoning): Result<Board> =>
  board
    ? ok(board)
    : boardProblem
      ? { ok: false, problem: boardProblem }
      : fail('no-board', 'There is no board yet: choose at the Hold station how the blanks are held.', 'hold');

const needsBoard: Needs = (_, r) => {
  const board = needBoard(r);
  return [board.ok ? null : board.problem];
};

/** The board's own files: to cut it, or to have it cut. */
const boardDrawing: Drawer = (_, r) => {
  const made = needBoard(r);
  if (!made.ok) return made;
  const { name, revision, width, height, passes } = made.value;
  return ok({ title: `${name} r${revision}`, passes, sheet: { width, height } });
};
const boardProgram: Programmer = (input, r) => {
  const made = needBoard(r);
  return made.ok ? boardGcode(input, made.value) : made;
};

export const NOT_READ: Problem = {
  code: 'not-placed',
  message:
    'The marks are not read yet, so the file would not know where the board lies. Read two marks at the Place station.',
  field: 'place',
};
export const BY_MARKS: LoadWords = { unplaced: () => NOT_READ };

/** Pins and a stand are aids: any work that lies on the bed may have them. */
const AID_DRAWINGS: Partial<WayFiles['drawings']> = {
  square: (input) => partDrawing(input, 'square', ok(squarePart(input))),
  pins: (input, r) => partDrawing(input, 'pins', pinsPart(input, r)),
  'pin-gauge': (input) => partDrawing(input, 'pin-gauge', pinGaugePart(input)),
  stand: (input, r) => partDrawing(input, 'stand', standPart(input, r)),
};

/** Pictures are burned as dots, which a drawing has none of; where they are printed, a drawing is of the cuts alone. */
const drawsNoPicture = (r: BatchReckoning): Problem | null =>
  !r.own.cutLine && r.art?.laid?.some((l) => l.picture)
    ? { code: 'picture-in-drawing', message: 'A drawing cannot carry the dots of a picture. Take the G-code, or the PNG.', field: 'run' } // prettier-ignore
    : null;

/** What the files of a load wait for. */
export const loadWaitsFor = (words: LoadWords): WayFiles['needs'] => ({
  load: (_, r) => [...loadNeeds(r, words), drawsNoPicture(r)],
  'load.gcode': (_, r) => loadNeeds(r, words),
  'walk.gcode': (_, r) => walkNeeds(r, words),
});

/** The files of pieces that are burned as they lie, engraved or cut out. */
export const loadFiles = (words: LoadWords, burns: 'engrave' | 'cut' = 'engrave'): WayFiles => ({
  drawings: { load: (input, r, title) => ok(pieceDrawing(input, r, title, burns)) },
  programs: {
    load: (input, r, { title, pictures }) => pieceProgram(input, r, title, words, burns, pictures),
    walk: (input, r) => walkProgram(input, r, words),
    target: (input, r) => targetProgram(input, r, words),
  },
  needs: { ...loadWaitsFor(words), 'target.gcode': (_, r) => walkNeeds(r, words) },
});

/** The files of work that lies flat on the bed, with its aids. */
export const flatFiles = (words: LoadWords = BY_MARKS, burns: 'engrave' | 'cut' = 'engrave'): WayFiles => {
  const { drawings, programs, needs } = loadFiles(words, burns);
  return {
    needs,
    drawings: { ...drawings, ...AID_DRAWINGS },
    programs: {
      ...programs,
      square: (input) => partProgram(input, 'square', ok(squarePart(input)), true),
      pins: (input, r) => partProgram(input, 'pins', pinsPart(input, r)),
    },
  };
};

/** The files of a batch whose board is cut. */
export const boardFiles = (words: LoadWords = BY_MARKS): WayFiles => {
  const { drawings, programs, needs } = flatFiles(words);
  return {
    drawings: { ...drawings, board: boardDrawing },
    programs: { ...programs, board: boardProgram },
    needs: { ...needs, board: needsBoard, 'board.gcode': needsBoard },
  };
};

/** Time of what is engraved. */
export const engravingTime: Way['time'] = (input, r) => pieceTime(input, r);
