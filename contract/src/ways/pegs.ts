import { z } from 'zod';
import { inRange } from '../limits';
import { boardChoice, way } from './board';

/** Pegs and witness lines; a trial in card says how far the outline is off. */
export const pegs = way(
  'pegs',
  boardChoice.extend({
    peg: inRange('Peg', 1, 50, 'mm'),
    pegHeight: inRange('Height of the pegs', 0.5, 100, 'mm'),
    contacts: z
      .tuple([inRange('Contact 1', 0, 20_000, 'mm'), inRange('Contact 2', 0, 20_000, 'mm')])
      .readonly()
      .nullable(),
    eye: inRange('Eye', 0.01, 5, 'mm'),
    shoulder: inRange('Rounding of the edge', 0, 200, 'mm'),
  }),
  z.object({ card: inRange('Gap to the card', 0, 10, 'mm').nullable() }),
);
