import type { Mm, Rad } from '../units';
import { fixed, percent } from '../working';
import { fluence, type BurnSetting, type Recipe } from './machine';
import { beamSource, focusWords, type Sources } from './stand';

/** Angles of a filled burn's passes, anticlockwise from the machine's x. */
export const anglesOf = ({ angle, turn, passes }: Pick<BurnSetting, 'angle' | 'turn' | 'passes'>): readonly Rad[] =>
  Array.from({ length: passes }, (_, i) => (angle ?? 0) + i * (turn ?? 0));

/** All that a recipe does to an area that is engraved, in its order. */
export const engravings = ({ engrave, after }: Pick<Recipe, 'engrave' | 'after'>): readonly BurnSetting[] => [
  engrave,
  ...(after ?? []),
];

/** Energy that each burn of a recipe leaves on a filled area, all its passes together, J/mm²; null where the machine lacks its source. */
export const energies = (recipe: Pick<Recipe, 'engrave' | 'after'>, machine: Sources): readonly (number | null)[] =>
  engravings(recipe).map((s) => {
    const source = beamSource(machine, s);
    return source && s.passes * fluence(source.power, s);
  });

const degrees = (angle: Rad): string => `${fixed((angle * 180) / Math.PI, 1).replace(/\.0$/, '')}°`;

const paceWords = ({ power, speed }: BurnSetting): string =>
  `${percent(power, 1).replace(/\.0(?= )/, '')} at ${Number(speed.toFixed(1))} mm/s`;

/**
 * A burn in words, as a recipe's page, the bench and the setup sheet say it.
 * @example burnWords({ power: 0.35, speed: 200, interval: 0.1, passes: 2, turn: Math.PI / 2 }) // '35 % at 200 mm/s, 0.1 mm between lines, 2 passes, each turned by 90°'
 */
export const burnWords = (s: BurnSetting): string =>
  [
    paceWords(s),
    `${Number(s.interval.toFixed(5))} mm between lines`,
    ...(s.passes > 1 ? [`${s.passes} passes`] : []),
    ...burnExtras(s),
  ].join(', ');

/** A cut or a line in words: it has no lines side by side. */
export const lineWords = (s: BurnSetting): string =>
  [paceWords(s), `${s.passes} ${s.passes === 1 ? 'pass' : 'passes'}`, ...burnExtras(s)].join(', ');

/** What a burn is told beside its four numbers, in words: nothing of a plain one. */
export const burnExtras = (s: BurnSetting): readonly string[] => [
  ...(s.angle ? [`lines at ${degrees(s.angle)}`] : []),
  ...(s.turn && s.passes > 1 ? [`each turned by ${degrees(s.turn)}`] : []),
  ...(s.oneWay ? ['all lines the same way'] : []),
  ...(s.focus ? [`lens ${focusWords(s.focus)}`] : []),
  ...(s.air ? [`air ${s.air}`] : []),
  ...(s.source === 'second' ? ['by the second source'] : []),
];

/** By how much a recipe brings the lens below its focus at the lowest; nought where it does not. */
export const lensLowered = (recipe: Pick<Recipe, 'engrave' | 'after' | 'cut'>): Mm =>
  Math.max(0, ...[...engravings(recipe), recipe.cut].map((s) => -(s.focus ?? 0)));

/** How often a file waits for a person who sets the lens, while some burns follow each other from where it is in focus. */
export const lensStops = (burns: readonly Pick<BurnSetting, 'focus'>[]): number => {
  const stood = [0, ...burns.map((s) => s.focus ?? 0)];
  return stood.filter((focus, i) => i > 0 && focus !== stood[i - 1]).length;
};

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
