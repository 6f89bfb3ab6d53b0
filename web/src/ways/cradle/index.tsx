import { SimulatedBurn } from '../../stations/sim/SimulatedBurn';
import { CradleStation } from './CradleStation';
import { RoundPages } from '../round/RoundPages';
import { ROUND_RUN } from '../round/RoundRun';
import type { WayPages } from '../pages';

export const cradle: WayPages = {
  Drawing: RoundPages,
  stations: { drive: CradleStation },
  hold: null,
  run: { ...ROUND_RUN, place: (slot) => `Slot ${slot}`, Burn: SimulatedBurn },
};
