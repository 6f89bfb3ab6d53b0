import { freshBoard, freshLines } from '../../holding';
import { heldAs, partDrawing, partProgram } from '../../setup';
import { BOARD, boardPlaced, boardState, dropIn, onBoard } from '../flat';
import type { Way } from '../way';
import { cardPart } from './card';
import { pegsBatch } from './reckon';
import { cardSteps, layStep } from './steps';

/** Two pegs that an edge bears against, and lines that it is laid to by eye: for odd shapes. */
export const pegs: Way = {
  ...BOARD,
  id: 'pegs',
  words: 'pegs and witness lines: odd shapes',
  comes: ['loose'],
  good: 'Shapes without a straight edge.',
  fresh: (name) => ({ way: 'pegs', choice: { ...freshBoard(name), ...freshLines }, found: { card: null } }),
  stays: ['card'],
  asBuilt: (held, { own: { lines } }) =>
    lines && held.way === 'pegs' ? { ...held, choice: { ...held.choice, contacts: lines.contacts } } : held,
  places: ({ board }) => `${board?.slots.length ?? 0} places with two pegs each`,
  reckon: pegsBatch,
  files: {
    needs: BOARD.files.needs,
    drawings: { ...BOARD.files.drawings, card: (input, r) => partDrawing(input, 'card', cardPart(input, r)) },
    programs: { ...BOARD.files.programs, card: (input, r) => partProgram(input, 'card', cardPart(input, r)) },
  },
  stations: {
    hold: (input, r) =>
      boardState(
        input,
        r,
        heldAs(input, 'pegs').found.card === null
          ? 'lay a blank on the trial in card'
          : 'save the board to the Shelf and cut it',
      ),
    place: boardPlaced,
  },
  steps: (input, r) =>
    onBoard(input, r, {
      corner: heldAs(input, 'pegs').choice.order.corner,
      places: 'places with two pegs each',
      engraved: 'lines',
      cut: 'holes for the pegs',
      trial: cardSteps(input),
      fit: r.own.lines ? layStep(r.own.lines) : dropIn,
    }),
};
