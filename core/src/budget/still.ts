import { degrees, fixed } from '../working';
import { fromUniform } from './combine';
import type { RoundBudgetInput, StillInput } from './round-input';
import { byEye, laidStraight, part, type Part } from './round-part';

/**
 * What a piece that lies still is off by across its crest. Its cradle may be cut a little off: the zero is set on the piece
 * as it lies there and the outline is walked, so that this is felt alike by all and taken out.
 */
export const stillParts = (b: RoundBudgetInput, { length, seating }: StillInput): Part[] => {
  // So far round that nothing of it is in focus, it is refused elsewhere.
  const half = Math.min(1.4, (2 * b.halfAround) / b.artDiameter);
  return [
    byEye(b, ['crest', 'zero on the crest'], 'around', 'a line', 'Lay a square to both sides of the piece and aim between them.'), // prettier-ignore
    laidStraight(
      b,
      'cradle',
      length,
      'piece',
      'Push the cradle against a stop, or watch the dot along the whole crest.',
    ),
    part(
      b,
      ['seating', 'laid in its saddles'],
      'uniform',
      [() => ({ around: fromUniform(seating) })],
      'assumed',
      'Brush the saddles clean, and press each piece down into them.',
      { formula: '± / √3', substituted: `${fixed(seating)} / √3`, basis: 'assumed' },
    ),
    part(
      b,
      ['diameter', 'diameter of the pieces'],
      'normal',
      [({ aside }) => ({ around: (Math.sign(aside) * (Math.tan(half) - half) * b.diameter.spread) / 2 })],
      b.diameter.assumed ? 'catalogue' : 'measured',
      'Sort the pieces by diameter.',
      {
        formula: '(tan φ − φ) × s / 2: a shadow from above is as wide on the mean piece alone',
        substituted: `(tan ${degrees(half, 1)} − ${fixed(half, 3)}) × ${fixed(b.diameter.spread, 3)} / 2`,
        basis: b.diameter.assumed ? 'assumed' : 'geometry',
      },
      b.diameter.dof,
    ),
  ];
};
