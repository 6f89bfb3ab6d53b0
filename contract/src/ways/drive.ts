import { z } from 'zod';
import { id, inRange, oneOf, yesNo } from '../limits';
import { way } from './board';

const orientation = z.object({
  quarters: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]),
  mirrored: z.boolean(),
});

export const rimFaces = oneOf('Rim faces', { left: 'left', right: 'right' });

export const drive = way(
  'drive',
  z.object({
    driveId: id.nullable(),
    rimFaces,
    contactAt: inRange('Contact circle', 0, 5_000, 'mm', { label: 'Contact circle from the rim' }).nullable(),
    overhang: inRange('Overhang', 0, 5_000, 'mm', { label: 'Rim end hangs over the rollers by' }),
    stand: z.object({ bed: z.enum(['in', 'out']), riser: z.string().max(40).nullable() }),
    seam: z.object({
      kind: oneOf('Seam of art that goes all round', { gapped: 'keep a gap', seamless: 'seamless' }),
      gap: inRange('Gap', 0, 500, 'mm'),
    }),
    rowScaling: yesNo('Row scaling: each row by its own diameter'),
    bothWays: yesNo('Rows there and back'),
    zeroAt: inRange('Zeroed at', -Math.PI, Math.PI, 'rad', {
      label: 'Zeroed so far right of the feature',
      empty: 'Empty: with the feature on the crest.',
    }).nullish(),
    spacing: inRange('Rollers apart', 4, 1_000, 'mm').nullish(),
  }),
  z.object({
    letter: orientation.nullable(),
    letterWith: z.object({ rimFaces, topMoves: z.enum(['toward', 'away']) }).optional(),
    accelerationSet: inRange('Axis acceleration', 1, 200_000, 'mm/s²').nullable(),
    numberSet: inRange('The number', 0, 100_000_000).nullable(),
    runOut: inRange('Run-out', 0, 20, 'mm', { label: 'Dial, lowest to highest', empty: 'Empty: not read.' }).nullable(),
  }),
);
