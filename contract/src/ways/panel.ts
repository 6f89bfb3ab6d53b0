import { inRange, oneOf } from '../limits';
import { nothing, sheetChoice, way } from './board';

const TURNS = { page: 'like a page', over: 'front over back' };

export const panel = way(
  'panel',
  sheetChoice.extend({
    width: inRange('Sheet width', 60, 5_000, 'mm'),
    height: inRange('Sheet height', 40, 5_000, 'mm'),
    gap: inRange('Gap between the pieces', 0.5, 50, 'mm'),
    turn: oneOf('The sheet is turned on the bed', TURNS),
    reads: oneOf('A piece is turned in the hand', TURNS),
    carry: oneOf('Side two finds its place by', {
      marks: 'marks cut through the sheet',
      holes: 'each piece’s own hole',
    }),
  }),
  nothing,
);
