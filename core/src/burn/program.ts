import type { Rad } from '../units';
import { fluence, type BurnSetting, type Machine, type Recipe } from './machine';
import { beamSource } from './stand';

/** Angles of a filled burn's passes, anticlockwise from the machine's x. */
export const anglesOf = ({ angle, turn, passes }: Pick<BurnSetting, 'angle' | 'turn' | 'passes'>): readonly Rad[] =>
  Array.from({ length: passes }, (_, i) => (angle ?? 0) + i * (turn ?? 0));

/** All that a recipe does to an area that is engraved, in its order. */
export const engravings = ({ engrave, after }: Pick<Recipe, 'engrave' | 'after'>): readonly BurnSetting[] => [
  engrave,
  ...(after ?? []),
];

/** Energy that each burn of a recipe leaves on a filled area, all its passes together, J/mm²; null where the machine lacks its source. */
export const energies = (
  recipe: Pick<Recipe, 'engrave' | 'after'>,
  machine: Pick<Machine, 'source' | 'power' | 'leastPower' | 'second'>,
): readonly (number | null)[] =>
  engravings(recipe).map((s) => {
    const source = beamSource(machine, s);
    return source && s.passes * fluence(source.power, s);
  });

/**
 * Whether two settings burn alike: what is not said is the same as what is plain.
 *
 * @returns the names of the numbers in which they differ
 */
export const differsIn = (a: BurnSetting, b: BurnSetting): readonly (keyof BurnSetting)[] =>
  (['power', 'speed', 'interval', 'passes', 'angle', 'turn', 'oneWay', 'focus', 'air', 'source'] as const).filter(
    (k) => said(a, k) !== said(b, k),
  );

const said = (s: BurnSetting, k: keyof BurnSetting): unknown => {
  const v = s[k];
  if (k === 'source') return v ?? 'first';
  if (k === 'air') return v ?? null;
  return k === 'oneWay' ? v === true : (v ?? 0);
};
