import { STATION_NAMES, STATIONS } from '@bistre/core';
import { z } from 'zod';
import { id, inRange, line, oneOf } from './limits';
import { held } from './ways';

/** What a step of the shop’s own belongs to: it stands in every batch of that blank, material, way or machine. */
const stepOf = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('blank'), blankId: id.meta({ label: 'Blank' }) }),
  z.object({ kind: z.literal('material'), material: line('Material', 1, 100) }),
  z.object({
    kind: z.literal('way'),
    way: z.enum(held.options.map((o) => o.shape.way.value)).meta({ label: 'Way of holding' }),
  }),
  z.object({ kind: z.literal('machine'), machineId: id.meta({ label: 'Machine' }) }),
]);

/** What a person edits of a step that the shop added; its title is its name. */
export const shopStepSpec = z.object({
  of: stepOf,
  station: z
    .enum(STATIONS)
    .meta({ label: 'At the station', options: STATIONS.map((s) => [s, STATION_NAMES[s]] as const) }),
  when: oneOf('When', { first: 'before its first step', last: 'after its last step' }),
  detail: line('What the hand needs, and why', 0, 300),
  caution: line('Caution', 0, 300),
  minutes: inRange('Wait', 0.1, 1_440, 'min', { empty: 'Empty: nothing is waited for.' }).nullable(),
  photoId: id.nullable(),
});
export type ShopStepSpec = z.infer<typeof shopStepSpec>;

/** A photograph as it is kept. */
export const photographInfo = z.object({ id, width: z.number().int(), height: z.number().int() });
export type PhotographInfo = z.infer<typeof photographInfo>;
