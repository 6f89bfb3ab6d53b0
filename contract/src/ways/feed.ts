import { z } from 'zod';
import { id, inRange, yesNo } from '../limits';
import { way, workName as name } from './board';
import { pushRoom } from './fence';
import { longChoice } from './long';

/** A row of blanks, parts cut from a strip, or one long piece. */
const work = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('row'),
    laid: inRange('Room to lay', 0, 10, 'mm', { label: 'Blanks are laid within ±' }),
    pushRoom,
  }),
  z.object({
    kind: z.literal('parts'),
    interlock: yesNo('Parts lie into each other, every second one turned round where that saves'),
  }),
  z.object({ kind: z.literal('long'), long: longChoice }),
]);

const squaring = z.object({
  apart: inRange('Stations apart', 50, 5_000, 'mm'),
  first: inRange('Offset in front', -20, 50, 'mm', { label: 'Leading, off guide' }),
  second: inRange('Offset behind', -20, 50, 'mm', { label: 'Behind, off guide' }),
});

const guideEnd = (end: string) =>
  z.object({
    x: inRange('The reading', -20_000, 20_000, 'mm', { label: `Guide, ${end}: x`, digits: 2 }),
    y: inRange('The reading', -20_000, 20_000, 'mm', { label: `Guide, ${end}: y`, digits: 2 }),
  });

export const feed = way(
  'feed',
  z.object({
    name,
    feederId: id.nullable(),
    rails: yesNo('On rails'),
    turned: z.boolean(),
    pitch: inRange('Pitch', 1, 5_000, 'mm', { label: 'Pitch, piece to piece' }).nullable(),
    gap: inRange('Gap between parts', 0, 500, 'mm', { hint: 'kerf and a little' }),
    strip: z.object({
      length: inRange('Strip length', 20, 10_000, 'mm', { label: 'Strip, length' }),
      width: inRange('Strip width', 5, 5_000, 'mm', { label: 'Strip, width' }),
    }),
    aimEvery: inRange('Aim every', 0, 399).int('Aim every so many stops, a whole number.').nullable(),
    work,
    left: z.array(work).max(2).readonly(),
  }),
  z.object({
    /** Absent in what was kept before it was asked for. */
    guide: z.object({ a: guideEnd('one end'), b: guideEnd('other end') }).nullish(),
    squaring: squaring.nullable(),
    used: z
      .array(
        z.object({
          x: inRange('From the end', -100, 10_000, 'mm'),
          y: inRange('From the guide', -100, 5_000, 'mm'),
          width: inRange('Long', 1, 5_000, 'mm'),
          height: inRange('Across', 1, 5_000, 'mm'),
        }),
      )
      .max(60)
      .readonly(),
  }),
);
