import type { Mm } from '../units';
import { fixed, type WorkedLine } from '../working';
import { fromUniform } from './combine';
import type { Source, SourceId } from './input';
import type { RoundBudgetInput } from './round-input';
import { sourceOf } from './source';

/** Eye laying a line to an edge or a feature [common practice], mm either way. */
export const EYE: Mm = 0.2;

/** A corner of the art: how far round it lies from the zero and from its face's middle, how far along from the rim; mm. */
export interface Corner {
  readonly travel: Mm;
  readonly aside: Mm;
  readonly along: Mm;
}

/** What a source of one standard uncertainty moves a corner by, mm. */
type Move = (corner: Corner) => { readonly around?: Mm; readonly along?: Mm };

/** One source with its law, and what it moves each corner by: by one draw, or by two that know nothing of each other. */
export interface Part {
  readonly source: Omit<Source, 'share'>;
  /** `wave`: both draws are one wave of a turn, its phase anywhere; `either`: all of it on every piece, one way or the other. */
  readonly law: 'normal' | 'uniform' | 'wave' | 'either';
  /** Around and along of corner after corner, for each draw. */
  readonly draws: readonly Float64Array[];
}

/** The corners of the art that lies farthest round from the zero. */
export const cornersOf = ({ far, halfAround, halfAlong, farEnd }: RoundBudgetInput): Corner[] =>
  [far, far - 2 * halfAround].flatMap((travel, i) =>
    [farEnd, farEnd - 2 * halfAlong].map((along) => ({ travel, aside: i === 0 ? halfAround : -halfAround, along })),
  );

/** Greatest that a law gives, where it has a bound. */
const MOST: Readonly<Record<Part['law'], (u: Mm) => { worst?: Mm }>> = {
  normal: () => ({}),
  uniform: (u) => ({ worst: Math.sqrt(3) * u }),
  wave: (u) => ({ worst: Math.SQRT2 * u }),
  either: (u) => ({ worst: u }),
};

/** A source by what it moves the corners; it is as large as at the corner that it moves most. */
export const part = (
  b: RoundBudgetInput,
  [id, name]: readonly [SourceId, string],
  law: Part['law'],
  moves: readonly Move[],
  origin: Source['origin'],
  halve: string,
  line: Pick<WorkedLine, 'formula' | 'substituted' | 'basis'>,
  dof = Infinity,
): Part => {
  const corners = cornersOf(b);
  const draws = moves.map((move) =>
    Float64Array.from(corners.flatMap((c) => [move(c).around ?? 0, move(c).along ?? 0])),
  );
  const u = Math.sqrt(
    Math.max(...corners.map((_, i) => draws.reduce((sum, d) => sum + d[2 * i]! ** 2 + d[2 * i + 1]! ** 2, 0))),
  );
  return {
    law,
    draws,
    source: sourceOf({ id, name, u, dof, ...MOST[law](u), origin, halve }, [
      line.formula,
      line.substituted,
      line.basis,
    ]),
  };
};

/** What an eye that lays something to a line or an edge is off by, around or along. */
export const byEye = (
  b: RoundBudgetInput,
  named: readonly [SourceId, string],
  way: 'around' | 'along',
  to: 'a line' | 'an edge',
  halve: string,
): Part =>
  part(b, named, 'uniform', [() => ({ [way]: fromUniform(EYE) })], 'assumed', halve, {
    formula: `eye to ${to}, ± / √3`,
    substituted: `${fixed(EYE)} / √3`,
    basis: 'common practice',
  });

/** How straight an eye lays what the blank lies on, along so much of it: the art leans from the rim on. */
export const laidStraight = (
  b: RoundBudgetInput,
  what: 'drive' | 'cradle',
  length: Mm,
  of: string,
  halve: string,
): Part =>
  // prettier-ignore
  part(
    b,
    ['straight', `${what} laid straight`],
    'uniform',
    [({ along }) => ({ around: fromUniform((EYE * along) / length) })],
    'assumed',
    halve,
    {
      formula: `eye to a line × far end of the art / length of the ${of} / √3`,
      substituted: `${fixed(EYE)} × ${fixed(b.farEnd, 1)} / ${fixed(length, 0)} / √3`,
      basis: 'common practice',
    },
  );
