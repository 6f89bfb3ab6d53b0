import { isFor } from '../burn';
import type { WayId } from './held';
import type { ShopStep, StepOf } from './shop-step';
import { STATIONS, type StationId } from './station';
import type { Step } from './step';

/** What of a batch a step can belong to. */
export interface Belongs {
  readonly blankId: string;
  readonly machineId: string;
  readonly way: WayId;
  /** Everything its material is called: by its blank, its recipe. */
  readonly materials: readonly (string | null | undefined)[];
}

/** Whether a step of the shop stands in a batch. Materials are compared without regard to capitals and outer spaces. */
export const belongsTo = (of: StepOf, batch: Belongs): boolean => {
  switch (of.kind) {
    case 'blank':
      return of.blankId === batch.blankId;
    case 'machine':
      return of.machineId === batch.machineId;
    case 'way':
      return of.way === batch.way;
    case 'material':
      return batch.materials.some((m) => !!m?.trim() && isFor(of, m));
  }
};

/** The station of a route at which a step of another station is done: the next one that the route has. */
const stationIn = (route: readonly StationId[], station: StationId): StationId =>
  STATIONS.slice(STATIONS.indexOf(station)).find((s) => route.includes(s)) ?? route[route.length - 1]!;

const asStep = ({ id, title, detail, caution, minutes, photoId }: ShopStep, station: StationId): Step => ({
  id: `shop.${id}`,
  station,
  part: 'do',
  title,
  shops: true,
  ...(detail === '' ? {} : { detail }),
  ...(caution === '' ? {} : { caution }),
  ...(minutes === null ? {} : { minutes }),
  ...(photoId === null ? {} : { photoId }),
});

/**
 * Where a step goes: before the first or after the last of its station, else before whatever follows that station. What
 * ends the batch stays the end.
 */
const placeFor = (steps: readonly Step[], station: StationId, when: ShopStep['when']): number => {
  const at = (s: Step): boolean => s.station === station && s.takes?.kind !== 'close';
  if (steps.some(at)) return when === 'first' ? steps.findIndex(at) : steps.findLastIndex(at) + 1;
  const later = steps.findIndex((s) => STATIONS.indexOf(s.station) > STATIONS.indexOf(station));
  return later < 0 ? steps.length : later;
};

/**
 * The steps of a setup with the shop's own among them, in the order in which they were added.
 * @param route stations that the batch has; a step of another one is done at the next it has
 */
export const withShopSteps = (
  steps: readonly Step[],
  own: readonly ShopStep[],
  route: readonly StationId[],
): Step[] => {
  const out = [...steps];
  // What is first goes in from the last to the first, so that the first added stays first.
  for (const step of [...own.filter((s) => s.when === 'first').reverse(), ...own.filter((s) => s.when === 'last')]) {
    const station = stationIn(route, step.station);
    out.splice(placeFor(out, station, step.when), 0, asStep(step, station));
  }
  return out;
};
