import { apply, reckonBatch, rigid, type BatchInput } from '@bistre/core';
import { testAlphabets } from '../../../core/src/test-alphabets';

const TYPED = { source: 'typed', at: '2026-11-20T08:00:00.000Z', by: 'Odile' } as const;

/** A batch whose marks were read where they would be if the work lay 100 mm in and 80 up, turned by so much, rad. */
export const aimed = (input: BatchInput, angle = 0): BatchInput => {
  const { board } = reckonBatch(input, {
    now: new Date(TYPED.at),
    alphabets: testAlphabets,
    labels: 'readability',
    simulatedPieces: 10,
  });
  const pose = rigid(angle, 100, 80);
  return {
    ...input,
    readings: (board?.marks ?? []).map(({ at }, i) => {
      const p = apply(pose, at);
      // The test machine's zero is in the back left corner, y towards the operator.
      return { ...TYPED, id: `r${i}`, mark: i + 1, purpose: 'place', x: p.x, y: input.machine.bed.height - p.y };
    }),
  };
};
