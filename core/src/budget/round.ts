import { POINTER_STALE_DAYS } from '../marks';
import type { Mm, Rad } from '../units';
import { degrees, fixed, percent, type WorkedLine } from '../working';
import { assembleBudget, type Budget } from './budget';
import { fromUniform } from './combine';
import { sourceOf } from './source';
import type { Source, SourceId } from './input';
import { seeded, studentScale } from './random';

/** What a round blank's position error follows from. Lengths mm. */
export interface RoundBudgetInput {
  readonly tolerance: Mm;
  readonly chuck: boolean;
  readonly diameter: { readonly mean: Mm; readonly spread: Mm; readonly dof: number; readonly assumed: boolean };
  /** Diameter at the art's middle. */
  readonly artDiameter: Mm;
  /** Largest angle at which a length of surface must end, from where the turn begins: a face's middle, half a turn for art that closes; radians. */
  readonly reach: Rad;
  /** Farthest travel of any art from there, mm of surface. */
  readonly far: Mm;
  /** Half the widest face around, and half the tallest along. */
  readonly halfAround: Mm;
  readonly halfAlong: Mm;
  /** Standard uncertainty of the calibration as a share; null while no ring was read. */
  readonly calibration: number | null;
  /** How well a turn repeats, standard. */
  readonly repeat: Mm;
  /** Total indicator reading; null while no dial was put to it. */
  readonly runOut: Mm | null;
  /** Stretch left at the art's ends, as a share; nought with row scaling. */
  readonly taper: number;
  /** Far end of the art from the rim, where the zero is; and the drive's length by which it was laid straight. Null lying still. */
  readonly laid: { readonly farEnd: Mm; readonly length: Mm } | null;
  readonly hasFeature: boolean;
  readonly pointer: { readonly status: 'measured' | 'stale' | 'unmeasured'; readonly uncertainty: Mm };
  readonly repeatability: Mm;
  readonly step: Mm;
  /** What the number in the machine may be off by, as a share either way; nought where the file carries it. */
  readonly number: number;
  readonly pieces: number;
  readonly seed: number;
}

/** What rollers' nominal travel may be off by before a ring is burned [common practice]; a chuck's gearing is far surer. */
export const UNCALIBRATED = { rollers: 0.01, chuck: 0.001 } as const;
/** Eye laying a line to an edge or a feature [common practice], mm either way. */
export const EYE: Mm = 0.2;
/** Run-out taken while no dial was put to the chuck [common practice], mm in total. */
const RUN_OUT: Mm = 0.2;

/** How far a blank walks along its rollers as it turns: their axes askew by so much, a share of the travel [assumed]. */
export const CREEP = 0.001;

/** Bubble of a small level [common practice], radians either way. */
export const BUBBLE: Rad = (0.5 * Math.PI) / 180;

/** One source with its law and its direction on the surface. */
interface Part {
  readonly source: Omit<Source, 'share'>;
  readonly law: 'normal' | 'uniform';
  /** Standard uncertainty around and along, mm. */
  readonly around: Mm;
  readonly along: Mm;
}

const part = (
  id: SourceId,
  name: string,
  law: Part['law'],
  around: Mm,
  along: Mm,
  origin: Source['origin'],
  halve: string,
  line: Pick<WorkedLine, 'formula' | 'substituted' | 'basis'>,
  dof = Infinity,
): Part => {
  const u = Math.hypot(around, along);
  return {
    law,
    around,
    along,
    source: sourceOf({ id, name, u, dof, ...(law === 'uniform' ? { worst: Math.sqrt(3) * u } : {}), origin, halve }, [
      line.formula,
      line.substituted,
      line.basis,
    ]),
  };
};

/** A chuck keeps the angle: the width follows the diameter, and the blank runs out. */
const chuckParts = (b: RoundBudgetInput): Part[] => {
  const wide = (b.halfAround * b.diameter.spread) / b.diameter.mean;
  const tir = b.runOut ?? RUN_OUT;
  return [
    part(
      'diameter',
      'diameter of the pieces',
      'normal',
      wide,
      0,
      b.diameter.assumed ? 'catalogue' : 'measured',
      'Sort the pieces by diameter.',
      {
        formula: 'half width × s / D: a chuck keeps the angle, the width follows the diameter',
        substituted: `${fixed(b.halfAround)} × ${fixed(b.diameter.spread, 3)} / ${fixed(b.diameter.mean)}`,
        basis: b.diameter.assumed ? 'assumed' : 'statistics',
      },
      b.diameter.dof,
    ),
    part(
      'run-out',
      'run-out',
      'uniform',
      tir / 2 / Math.SQRT2,
      0,
      b.runOut === null ? 'assumed' : 'measured',
      b.runOut === null
        ? 'Put a dial to it and type the reading.'
        : 'Seat the blank again in its jaws, a quarter turn on.',
      {
        formula: 'TIR / 2 / √2, a wave of one turn',
        substituted: `${fixed(tir)} / 2 / √2`,
        basis: b.runOut === null ? 'common practice' : 'measured here',
      },
    ),
  ];
};

/** Rollers turn a length: a larger piece turns less. */
const rollerParts = (b: RoundBudgetInput): Part[] => [
  part(
    'diameter',
    'diameter of the pieces',
    'normal',
    (b.reach * b.diameter.spread) / 2,
    0,
    b.diameter.assumed ? 'catalogue' : 'measured',
    b.diameter.assumed
      ? 'Measure three or more pieces: the catalogue’s tolerance is assumed.'
      : 'Sort the pieces by diameter, or begin the turn nearer to the art.',
    {
      formula: 'angle × s / 2: rollers turn a length, a larger piece turns less',
      substituted: `${degrees(b.reach, 0)} × ${fixed(b.diameter.spread, 3)} / 2`,
      basis: b.diameter.assumed ? 'assumed' : 'statistics',
    },
    b.diameter.dof,
  ),
];

/** How far the drive really turns. */
const travelParts = (b: RoundBudgetInput): Part[] => {
  const { far } = b;
  const off = b.chuck ? UNCALIBRATED.chuck : UNCALIBRATED.rollers;
  const calibration = b.calibration ?? fromUniform(off);
  return [
    part(
      'calibration',
      'travel of the drive',
      b.calibration === null ? 'uniform' : 'normal',
      calibration * far,
      0,
      b.calibration === null ? 'assumed' : 'measured',
      b.calibration === null
        ? 'Burn a witness ring and type what you see.'
        : 'Measure the piece that carries the ring, or burn one more ring.',
      {
        formula:
          b.calibration === null
            ? `± ${percent(off)} / √3 × farthest travel`
            : 'uncertainty of the correction × farthest travel',
        substituted: `${percent(calibration, 3)} × ${fixed(far, 1)}`,
        basis: b.calibration === null ? 'common practice' : 'statistics',
      },
    ),
    part(
      'slip',
      b.chuck ? 'return of the turn' : 'slip',
      'normal',
      (b.repeat * far) / (Math.PI * b.artDiameter),
      0,
      'assumed',
      b.chuck ? 'Turn one way only.' : 'Clean the rollers, or put traction bands on.',
      {
        formula: 'repeat of a turn × farthest travel / circumference',
        substituted: `${fixed(b.repeat)} × ${fixed(far, 1)} / ${fixed(Math.PI * b.artDiameter, 1)}`,
        basis: 'common practice',
      },
    ),
  ];
};

/** The number as it stands in the machine. */
const numberPart = (b: RoundBudgetInput): Part =>
  part(
    'number',
    'number in the machine',
    'uniform',
    fromUniform(b.number * b.far),
    0,
    'reckoned',
    'Type the number as it stands now, with all its places.',
    {
      formula: 'what its last place leaves out / √3 × farthest travel',
      substituted: `${percent(b.number, 3)} / √3 × ${fixed(b.far, 1)}`,
      basis: 'geometry',
    },
  );

const creepPart = (b: RoundBudgetInput): Part =>
  part(
    'creep',
    'creep along the rollers',
    'uniform',
    0,
    fromUniform(CREEP * b.far),
    'assumed',
    'Set a stop against its end, so that it cannot walk along.',
    {
      formula: 'rollers askew, ± / √3 × farthest travel',
      substituted: `${CREEP} / √3 × ${fixed(b.far, 1)}`,
      basis: 'assumed',
    },
  );

const taperPart = (b: RoundBudgetInput): Part =>
  part('taper', 'taper', 'uniform', fromUniform(b.taper * b.halfAround), 0, 'reckoned', 'Switch row scaling on.', {
    formula: 'stretch at the ends × half width / √3',
    substituted: `${percent(b.taper, 2)} × ${fixed(b.halfAround)} / √3`,
    basis: 'geometry',
  });

/** How the drive was laid and levelled. */
const laidParts = (b: RoundBudgetInput, { farEnd, length }: NonNullable<RoundBudgetInput['laid']>): Part[] => [
  part(
    'tilt',
    'tilt of the blank',
    'uniform',
    0,
    fromUniform(b.halfAlong * (1 - Math.cos(BUBBLE))),
    'assumed',
    'Level it with a longer level.',
    {
      formula: 'half height × (1 − cos of the level’s bubble) / √3',
      substituted: `${fixed(b.halfAlong)} × (1 − cos ${degrees(BUBBLE, 1)}) / √3`,
      basis: 'common practice',
    },
  ),
  part(
    'straight',
    'drive laid straight',
    'uniform',
    fromUniform((EYE * farEnd) / length),
    0,
    'assumed',
    'Push the drive against a stop, or walk its edge with the pointer.',
    {
      formula: 'eye to a line × far end of the art / length of the drive / √3',
      substituted: `${fixed(EYE)} × ${fixed(farEnd, 1)} / ${fixed(length, 0)} / √3`,
      basis: 'common practice',
    },
  ),
];

const featurePart = (): Part =>
  part(
    'feature',
    'feature at the crest',
    'uniform',
    fromUniform(EYE),
    0,
    'assumed',
    'Lay a square to the feature, or aim with a loupe.',
    {
      formula: 'eye to a line, ± / √3',
      substituted: `${fixed(EYE)} / √3`,
      basis: 'common practice',
    },
  );

/** Where along the piece the file begins. */
const aimParts = (b: RoundBudgetInput): Part[] => [
  part('rim', 'zero at the rim', 'uniform', 0, fromUniform(EYE), 'assumed', 'Push every piece against a stop.', {
    formula: 'eye to an edge, ± / √3',
    substituted: `${fixed(EYE)} / √3`,
    basis: 'common practice',
  }),
  part(
    'pointer',
    'pointer offset',
    b.pointer.status === 'unmeasured' ? 'uniform' : 'normal',
    b.pointer.uncertainty,
    b.pointer.uncertainty,
    b.pointer.status === 'measured' ? 'measured' : 'assumed',
    b.pointer.status === 'unmeasured'
      ? 'Burn a dot and read where the pointer shows it.'
      : `Measure the offset again; it is trusted for ${POINTER_STALE_DAYS} days.`,
    {
      formula: '√2 × u per axis',
      substituted: `√2 × ${fixed(b.pointer.uncertainty, 3)}`,
      basis: b.pointer.status === 'unmeasured' ? 'common practice' : 'statistics',
    },
  ),
  part('return', 'machine return', 'uniform', 0, fromUniform(b.repeatability), 'profile', 'Check belts and wheels.', {
    formula: '± / √3, along',
    substituted: `${fixed(b.repeatability, 3)} / √3`,
    basis: 'assumed',
  }),
  part(
    'step',
    'step of the drive',
    'uniform',
    b.step / Math.sqrt(12),
    0,
    'reckoned',
    'Use finer microsteps or a reduction.',
    {
      formula: 'step / √12',
      substituted: `${fixed(b.step, 4)} / √12`,
      basis: 'geometry',
    },
  ),
];

const reckonParts = (b: RoundBudgetInput): Part[] => [
  ...(b.chuck ? chuckParts(b) : rollerParts(b)),
  ...travelParts(b),
  ...(b.number > 0 ? [numberPart(b)] : []),
  ...(b.laid && !b.chuck ? [creepPart(b)] : []),
  ...(b.taper > 0 ? [taperPart(b)] : []),
  ...(b.laid ? laidParts(b, b.laid) : []),
  ...(b.hasFeature ? [featurePart()] : []),
  ...aimParts(b),
];

/** The placement budget of a round blank, around and along at the worst corner of its art. */
export const reckonRoundBudget = (input: RoundBudgetInput): Budget => {
  const parts = reckonParts(input);
  return assembleBudget(
    parts.map((p) => p.source),
    (count, scale) => {
      const r = seeded(input.seed);
      const around = new Float64Array(count);
      const along = new Float64Array(count);
      // Source by source: the law and the direction are chosen once, not for every piece.
      for (const { source, law, ...u } of parts) {
        const k = scale?.id === source.id ? scale.factor : 1;
        for (const [sum, standard] of [
          [around, k * u.around],
          [along, k * u.along],
        ] as const) {
          if (standard === 0) continue;
          if (law === 'normal')
            for (let i = 0; i < count; i += 1) sum[i]! += standard * studentScale(r, source.dof) * r.normal();
          else {
            const half = Math.sqrt(3) * standard;
            for (let i = 0; i < count; i += 1) sum[i]! += half * (2 * r.uniform() - 1);
          }
        }
      }
      for (let i = 0; i < count; i += 1) around[i] = Math.sqrt(around[i]! ** 2 + along[i]! ** 2);
      return around.sort();
    },
    input,
  );
};
