import { sql } from 'kysely';
import { DEMO_CUSTOMER, type ArtworkDocument, type Setup } from '@bistre/contract';
import { readArt } from '@bistre/core';
import { addRevision } from '../changes/artworks';
import { giveSerials } from '../changes/serials';
import { createThing } from '../changes/shelf-things';
import { keptArt } from '../kept-art';
import type { Trx } from '../db/connect';
import { plainSvg } from '../work/plain-svg';

/** Puts a drawing of the regatta's on the Shelf; gives its id. */
export const shelfArt = async (
  trx: Trx,
  name: string,
  text: string,
  roles: ArtworkDocument['spec']['roles'] = {},
): Promise<string> => {
  const fileName = `${name.toLowerCase().replaceAll(' ', '-')}.svg`;
  const art = readArt(fileName, text, plainSvg);
  if (!art.ok) throw new Error(art.problem.message);
  const document = { customer: DEMO_CUSTOMER, roles };
  const { id } = await createThing(trx, 'artworks', { name, document, by: 'Odile' });
  await addRevision(trx, id, { fileName, text }, keptArt(art.value), 'Odile');
  return id;
};

/** An artwork that is on the Shelf already. */
export const artworkNamed = async (trx: Trx, name: string): Promise<string> =>
  (await trx.selectFrom('artworks').select('id').where('name', '=', name).executeTakeFirstOrThrow()).id;

/** Puts things in the zones of a batch, with their numbers. */
export const inZones = async (trx: Trx, batch: string, contents: NonNullable<Setup['contents']>): Promise<void> => {
  await trx
    .updateTable('batches')
    .set({ setup: sql`setup || ${JSON.stringify({ contents })}::jsonb` })
    .where('id', '=', batch)
    .execute();
  await giveSerials(trx, batch);
};

/** A boat from above, with so many oars on either side or by turns. */
export const boat = (seats: number, sculls: boolean): string => {
  const at = Array.from({ length: seats }, (_, i) => 40 + (i - (seats - 1) / 2) * Math.min(9, 56 / seats));
  const oar = (x: number, side: 1 | -1): string => `<path class="oar" d="M${x} ${12 + side * 1.2}L${x - 3} ${12 + side * 9}"/><ellipse class="ink" transform="translate(${x - 3.3} ${12 + side * 9.8}) rotate(${side * 20})" rx=".8" ry="1.7"/>`; // prettier-ignore
  const oars = at.flatMap((x, i) => (sculls ? [oar(x, 1), oar(x, -1)] : [oar(x, i % 2 === 0 ? 1 : -1)]));
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="24mm" viewBox="0 0 80 24">
  <style>.ink{fill:#1b3a57}.oar{fill:none;stroke:#1b3a57;stroke-width:.4}</style>
  <path class="ink" d="M2 12C22 9.6 58 9.6 78 12 58 14.4 22 14.4 2 12Z"/>
  ${oars.join('\n  ')}
</svg>
`;
};
