import { AXIS_95 } from '../../samples';
import type { LineSeat } from '../../holding';
import { CAUTIONS, heldAs, type BatchInput, type Step } from '../../setup';

/** A trial of the outline in card comes before the board is cut. */
export const cardSteps = (input: BatchInput): Step[] => [
  {
    id: 'hold.card',
    station: 'hold',
    part: 'do',
    title: 'Cut the outline in card first',
    detail: 'Thin card, one piece. A sheet of card is cheaper than a board that does not fit.',
    files: [
      ['card.gcode', 'Card, G-code'],
      ['card.svg', 'SVG'],
    ],
    caution: CAUTIONS.burn,
  },
  {
    id: 'hold.card-gap',
    station: 'hold',
    part: 'check',
    title: 'Lay a blank on the card: where is the widest gap?',
    detail: 'All the way round, on both sides of the edge. Over 1 mm, scan or draw the outline again.',
    takes: { kind: 'card' },
    done: heldAs(input, 'pegs').found.card !== null,
  },
];

/** How a piece goes against its pegs and lines. */
export const layStep = (lines: LineSeat): Step => ({
  id: 'hold.fit',
  station: 'hold',
  part: 'check',
  title: 'Lay a blank against its pegs and lines',
  detail: `Push where the arrow is, until both pegs bear; then slide it until the gap to both lines is even. Done twice, it must lie the same: what your eye leaves moves the art by ± ${(AXIS_95 * lines.spread).toFixed(2)} mm.`,
  caution: CAUTIONS.hot,
});
