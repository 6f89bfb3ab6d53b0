import { ALL_CONTENTS } from '../../artwork';
import { carriesArtAlone, type BatchReckoning, type RunWords } from '../../setup';
import type { RunWaits, Way } from '../way';
import { boardFiles, engravingTime, flatFiles } from './files';
import { BOARD_LOADS, nextPieces } from './loads';
import { counted, pieceCount, sizeInWords } from '../../working';

/** The route of work that is aimed at on the bed. */
export const ON_THE_BED = ['blank', 'hold', 'place', 'burn', 'run', 'close'] as const;
/** The route of work that places itself. */
export const BY_ITSELF = ['blank', 'hold', 'burn', 'run', 'close'] as const;

/** A load of several pieces, judged slot by slot. */
export const loadWaits = (first: string): RunWaits => ({
  first: () => first,
  next: (r) => `lay in the next ${pieceCount(Math.min(r.run.waiting.length, r.board?.slots.length ?? 0))}`,
  look: (r) => `look at slot ${r.run.nextSlot}`,
});

export const boardBack = ({ board }: BatchReckoning): RunWords => ({
  title: 'Board back on its shelf',
  detail: board ? `Labelled ${board.name} r${board.revision}.` : 'Under the name on its label.',
});

export const bedClean = (): RunWords => ({
  title: 'Bed clean',
  detail: 'Tape and waste off the bed; nothing glowing left under it.',
});

/** What every way says of itself. */
export type OwnWords = 'id' | 'words' | 'comes' | 'good' | 'fresh';

/** What is true of every way that holds pieces on a board. */
export const BOARD: Omit<Way, OwnWords | 'stations' | 'steps' | 'reckon'> = {
  ...BOARD_LOADS,
  suits: (shape) => shape.kind !== 'round',
  route: () => ON_THE_BED,
  measures: () => true,
  firstAlone: () => true,
  carries: () => ALL_CONTENTS,
  names: (batch) => !carriesArtAlone(batch),
  looks: true,
  take: (r, first) =>
    first ? 'Lay in the first piece' : `Lay in the next ${Math.min(r.run.waiting.length, r.board?.slots.length ?? 0)}`,
  places: ({ board }) => `${board?.slots.length ?? 0} places`,
  burned: () => 'This load',
  waits: loadWaits('burn the first piece'),
  files: boardFiles(),
  time: engravingTime,
  putAway: boardBack,
};

/** A sheet or a piece as it is mounted: its size and places. */
export const mountedAs =
  (noun: string): Way['mounted'] =>
  (_, { board, boardProblem }) =>
    board
      ? `${noun} ${board.name} r${board.revision}, ${sizeInWords(board)}, ${counted(board.slots.length, 'place')}.`
      : (boardProblem?.message ?? 'Nothing is laid out yet.');

/** What is true of every sheet that pieces are cut out of: as large as drawn, burned as a whole. */
export const SHEET = {
  ...BOARD,
  mounted: mountedAs('Sheet'),
  measures: () => false,
  looks: false,
  firstAlone: () => false,
  waits: loadWaits('take the first sheet'),
  files: flatFiles(),
  next: (input, r) => nextPieces(input, r, true),
  leaves: () => 'sheet',
  corrects: 'every sheet',
  putAway: bedClean,
} satisfies typeof BOARD;
