import { api } from '@bistre/contract';
import type { Express } from 'express';
import { serve, type Room } from '../http/serve';
import { keepLeft } from './sim';

/** The simulated drive: its panel, and what it burns on the blank that lies on it. */
export const cupRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.cupView, {
    ahead: ({ params, reckon }) => reckon('viewCup', params.id),
    then: (_call, seen) => Promise.resolve(seen),
  });
  serve(app, room, api.cupSet, {
    ahead: ({ params, body, reckon }) => reckon('setCup', { id: params.id, ...body }),
    then: ({ params, by, trx }, left) => keepLeft(trx, params.id, by, left),
  });
  serve(app, room, api.cupBurn, {
    ahead: ({ params, body, reckon }) => reckon('burnCup', { id: params.id, ...body }),
    then: ({ params, by, trx }, left) => keepLeft(trx, params.id, by, left),
  });
};
