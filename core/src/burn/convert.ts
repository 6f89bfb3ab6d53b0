import { fail, ok, type Result } from '../result';
import { fluence, type BurnSetting, type Machine } from './machine';
import { spotOf, WAVELENGTHS } from './optics';

type Burns = Pick<Machine, 'name' | 'source' | 'power' | 'leastPower' | 'rapidSpeed' | 'optics'>;

/** How far a setting that came from another machine can be trusted. */
export interface Converted {
  readonly setting: BurnSetting;
  readonly trust: 'close' | 'rough';
  /** What it rests on, and what may make it wrong, in sentences. */
  readonly because: readonly string[];
}

const beamOf = ({ source, optics }: Burns): number => optics?.wavelength ?? WAVELENGTHS[source];

const ratio = (a: number, b: number): number => Math.max(a / b, b / a);

/** Beyond so many times faster or slower the same energy does not do the same any more [common practice]. */
const FAR = 2.5;
const SPOTS_ALIKE = 1.25;

/** The speed that holds a burn's energy at another power; the power follows where the machine cannot go as fast. */
const held = (setting: BurnSetting, from: Burns, to: Burns, interval: number): BurnSetting | null => {
  const wanted = (setting.speed * to.power * setting.interval) / (from.power * interval);
  const speed = Math.min(wanted, to.rapidSpeed);
  const power = Math.max(setting.power, to.leastPower);
  // As strong as it was, so fast that the energy is the same; slower and weaker where that is too fast.
  const asFast = (wanted * power) / setting.power;
  if (asFast <= to.rapidSpeed) return { ...setting, power, interval, speed: asFast };
  const weaker = (setting.power * speed) / wanted;
  return weaker < to.leastPower ? null : { ...setting, power: weaker, interval, speed };
};

/**
 * A setting of one machine as a beginning on another: the same energy on each area, lines as far apart for their spot as
 * they were (common practice: half the power, half the speed).
 *
 * @returns a problem where energy says nothing: another wavelength, a second source, or a power that the other machine cannot hold down
 * @example convert({ power: 0.6, speed: 250, interval: 0.1, passes: 1 }, of60W, of30W) // speed 125
 */
export const convert = (setting: BurnSetting, from: Burns, to: Burns): Result<Converted> => {
  if (setting.source === 'second')
    return fail(
      'second-source',
      `It burns with the second source of ${from.name}, of whose beam nothing is known on ${to.name}. Begin there with a grid over all that it gives.`,
      'machineId',
    );
  const [was, is] = [beamOf(from), beamOf(to)];
  if (ratio(was, is) > 1.1)
    return fail(
      'other-wavelength',
      `${from.name} burns with ${was} µm and ${to.name} with ${is}: a material takes them up quite otherwise, and the same energy says nothing. Begin on ${to.name} with a grid over all that it gives.`,
      'machineId',
    );
  const spots = from.optics && to.optics ? ([spotOf(from.optics), spotOf(to.optics)] as const) : null;
  const interval = spots ? (setting.interval * spots[1]) / spots[0] : setting.interval;
  const made = held(setting, from, to, interval);
  if (!made)
    return fail(
      'too-strong',
      `${to.name} is too strong for it: at its least power it would have to go faster than ${to.rapidSpeed} mm/s. Begin with a grid at its fastest.`,
      'machineId',
    );
  const far = ratio(made.speed, setting.speed) > FAR;
  const apart = spots !== null && ratio(spots[0], spots[1]) > SPOTS_ALIKE;
  const because = [
    `The same energy, ${fluence(from.power, setting).toFixed(2)} J/mm² a pass.`,
    ...(spots ? (apart ? [`The spot is ${spots[1].toFixed(3)} mm and not ${spots[0].toFixed(3)}: each place is heated otherwise.`] : []) : ['The spot of one of them is not known: its lens says it.']), // prettier-ignore
    ...(far ? [`It goes ${ratio(made.speed, setting.speed).toFixed(1)} times as ${made.speed > setting.speed ? 'fast' : 'slowly'}: heat runs off otherwise.`] : []), // prettier-ignore
  ];
  return ok({ setting: made, trust: far || apart || !spots ? 'rough' : 'close', because });
};
