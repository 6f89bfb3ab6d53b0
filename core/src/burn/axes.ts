import type { Transform, Vec } from '../geometry';
import type { Mm, Rad } from '../units';
import { degrees, fixed, mm, worked, type WorkedLine } from '../working';

/** A square that a machine burned as large as its bed takes, by its own numbers, and what a rule says of it; mm. */
export interface BurnedSquare {
  /** Its side by the machine's own numbers. */
  readonly side: Mm;
  /** Its side along x and its side along y, by the rule. */
  readonly along: Mm;
  readonly across: Mm;
  /** From its front left corner to its back right one, and from its back left to its front right, by the rule. */
  readonly rising: Mm;
  readonly falling: Mm;
  /** How closely the rule is read, ±. */
  readonly rule: Mm;
  readonly measuredAt: string;
}

/** What an axis really goes for a millimetre that it shows, and how far y leans to the right of square. */
export interface Axes {
  readonly x: number;
  readonly y: number;
  readonly lean: Rad;
}

/** Axes as they are known: used where they were measured, and how far off they may be still, either way. */
export interface AxesKnown {
  readonly axes: Axes;
  readonly measured: boolean;
  /** ± of a scale, as a share; ± of the lean, rad. */
  readonly off: { readonly scale: number; readonly lean: Rad };
  /** Why what was typed cannot be a square. */
  readonly problem: string | null;
  readonly working: readonly WorkedLine[];
}

/** Axes that are just as the machine shows them. */
const SQUARE: Axes = { x: 1, y: 1, lean: 0 };
/** How far off axes may be that nobody measured: a millimetre a metre, in length and across [assumed]. */
export const UNMEASURED_AXES = 0.001;
/** Axes of a machine that works at all are nearer to square than this [assumed]. */
const ABSURD = 0.02;

/** The side of the square to burn on a bed: as large as it takes with 10 mm round it, in whole centimetres, mm. */
export const squareFor = ({ width, height }: { readonly width: Mm; readonly height: Mm }): Mm =>
  Math.max(10, Math.floor((Math.min(width, height) - 20) / 10) * 10);

/**
 * A machine's axes by a square that it burned: each side over what was meant, and by the two diagonals how far y leans,
 * `sin λ = (d₁² − d₂²) / 4ab` (the law of cosines at both corners). Sides and diagonals that contradict each other by more
 * than the rule, and axes off by more than 2 %, are no square: nothing is used of them.
 *
 * @param square null while nobody measured one
 * @example axesOf({ side: 500, along: 500.5, across: 499.5, rising: 707.5, falling: 706.7, rule: 0.25, measuredAt: '' }).axes // x 1.001, y 0.999, lean 0.065°
 */
export const axesOf = (square: BurnedSquare | null | undefined): AxesKnown => {
  if (!square)
    return {
      axes: SQUARE,
      measured: false,
      off: { scale: UNMEASURED_AXES, lean: UNMEASURED_AXES },
      problem: null,
      working: [],
    };
  const { side, along, across, rising, falling, rule } = square;
  const axes = { x: along / side, y: across / side, lean: Math.asin((rising ** 2 - falling ** 2) / (4 * along * across)) }; // prettier-ignore
  // The diagonals of a parallelogram know its sides: a² + b² = (d₁² + d₂²) / 2.
  const contradicts = Math.sqrt((rising ** 2 + falling ** 2) / 2) - Math.hypot(along, across);
  const far = Math.max(Math.abs(axes.x - 1), Math.abs(axes.y - 1), Math.abs(axes.lean));
  const problem = !(far <= ABSURD)
    ? `A square of ${fixed(side, 0)} mm that measures ${fixed(along, 1)} × ${fixed(across, 1)}, ${fixed(rising, 1)} and ${fixed(falling, 1)} from corner to corner, was not burned by this machine as it stands. Look at the numbers.`
    : Math.abs(contradicts) > 4 * rule
      ? `Sides and diagonals contradict each other by ${fixed(Math.abs(contradicts), 1)} mm: measure them again.`
      : null;
  return {
    axes: problem ? SQUARE : axes,
    measured: problem === null,
    off: problem ? { scale: UNMEASURED_AXES, lean: UNMEASURED_AXES } : { scale: rule / side, lean: rule / side },
    problem,
    working: [
      ...(
        [
          ['x', along, axes.x],
          ['y', across, axes.y],
        ] as const
      ).map(
        ([axis, read, scale]) =>
        worked(`scale of ${axis}`, 'measured / meant', `${fixed(read, 2)} / ${fixed(side, 0)}`, fixed(scale, 5), `measured on ${square.measuredAt.slice(0, 10)}`), // prettier-ignore
      ),
      worked(
        'y leans to the right by',
        'arcsin((d₁² − d₂²) / 4ab)',
        `(${fixed(rising, 2)}² − ${fixed(falling, 2)}²) / (4 × ${fixed(along, 2)} × ${fixed(across, 2)})`,
        `${degrees(axes.lean)}, ${mm(1000 * axes.lean, 2)} a metre`,
        'geometry',
      ),
    ],
  };
};

/** How far off a machine's axes may be still, either way. */
export const axesLeft = ({
  square,
}: {
  readonly square?: BurnedSquare | null | undefined;
}): AxesKnown['off'] & { readonly measured: boolean } => {
  const { off, measured } = axesOf(square);
  return { ...off, measured };
};

/** From what a machine shows to where it really goes, about a corner where both agree; bed frame. */
export const shownToTrue = ({ x, y, lean }: Axes, about: Vec): Transform => {
  const [c, d] = [y * Math.sin(lean), y * Math.cos(lean)];
  return { a: x, b: 0, c, d, e: about.x - x * about.x - c * about.y, f: about.y - d * about.y };
};
