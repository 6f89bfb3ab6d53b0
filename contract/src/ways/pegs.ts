import { z } from 'zod';
import { inRange } from '../limits';
import { boardChoice, way } from './board';

/** Pegs and witness lines; a trial in card says how far the outline is off. */
export const pegs = way(
  'pegs',
  boardChoice.extend({
    peg: inRange('Peg', 1, 50, 'mm', { label: 'Pegs, across' }),
    pegHeight: inRange('Height of the pegs', 0.5, 100, 'mm', { label: 'They stand over the board' }),
    contacts: z
      .tuple([inRange('Contact 1', 0, 20_000, 'mm'), inRange('Contact 2', 0, 20_000, 'mm')])
      .readonly()
      .nullable(),
    eye: inRange('Eye', 0.01, 5, 'mm', { label: 'Eye to a line, either way', hint: '0.2 mm by eye, 0.1 with a loupe' }),
    shoulder: inRange('Rounding of the blank’s edge', 0, 200, 'mm', { hint: 'its radius; 0 for a square edge' }),
  }),
  z.object({ card: inRange('Gap to the card', 0, 10, 'mm').nullable() }),
);
