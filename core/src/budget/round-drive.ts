import { degrees, fixed, percent } from '../working';
import type { Mm, Rad } from '../units';
import { fromUniform } from './combine';
import type { RoundBudgetInput } from './round-input';
import { byEye, laidStraight, part, type Corner, type Part } from './round-part';

/** What rollers' nominal travel may be off by before a ring is burned [common practice]; a chuck's gearing is far surer. */
export const UNCALIBRATED = { rollers: 0.01, chuck: 0.001 } as const;
/** Run-out taken while no dial was put to the chuck [common practice], mm in total. */
const RUN_OUT: Mm = 0.2;

/** How far a blank walks along its rollers as it turns: their axes askew by so much, a share of the travel [assumed]. */
export const CREEP = 0.001;

/** Bubble of a small level [common practice], radians either way. */
export const BUBBLE: Rad = (0.5 * Math.PI) / 180;

/** A chuck keeps the angle: the width follows the diameter, and the blank runs out. */
const chuckParts = (b: RoundBudgetInput): Part[] => {
  const tir = b.runOut ?? RUN_OUT;
  return [
    part(
      b,
      ['diameter', 'diameter of the pieces'],
      'normal',
      [({ aside }) => ({ around: (aside * b.diameter.spread) / b.diameter.mean })],
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
      b,
      ['run-out', 'run-out'],
      'wave',
      [Math.sin, Math.cos].map((wave) => ({ travel }: Corner) => ({ around: (tir / 2 / Math.SQRT2) * wave((2 * travel) / b.artDiameter) })), // prettier-ignore
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
    b,
    ['diameter', 'diameter of the pieces'],
    'normal',
    [() => ({ around: (b.reach * b.diameter.spread) / 2 })],
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
      b,
      ['calibration', 'travel of the drive'],
      b.calibration === null ? 'uniform' : 'normal',
      [({ travel }) => ({ around: calibration * travel })],
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
      b,
      ['slip', b.chuck ? 'return of the turn' : 'slip'],
      'normal',
      [({ travel }) => ({ around: (b.repeat * travel) / (Math.PI * b.artDiameter) })],
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
    b,
    ['number', 'number in the machine'],
    'uniform',
    [({ travel }) => ({ around: fromUniform(b.number * travel) })],
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
    b,
    ['creep', 'creep along the rollers'],
    'uniform',
    [({ travel }) => ({ along: fromUniform(CREEP * travel) })],
    'assumed',
    'Set a stop against its end, so that it cannot walk along.',
    {
      formula: 'rollers askew, ± / √3 × farthest travel',
      substituted: `${CREEP} / √3 × ${fixed(b.far, 1)}`,
      basis: 'assumed',
    },
  );

const taperPart = (b: RoundBudgetInput): Part =>
  part(
    b,
    ['taper', 'taper'],
    'uniform',
    [({ aside }) => ({ around: fromUniform(b.taper * aside) })],
    'reckoned',
    'Switch row scaling on.',
    {
      formula: 'stretch at the ends × half width / √3',
      substituted: `${percent(b.taper, 2)} × ${fixed(b.halfAround)} / √3`,
      basis: 'geometry',
    },
  );

/** How the drive was laid and levelled. */
const laidParts = (b: RoundBudgetInput, { length }: NonNullable<RoundBudgetInput['laid']>): Part[] => [
  part(
    b,
    ['tilt', 'tilt of the blank'],
    'uniform',
    [({ along }) => ({ along: fromUniform((along - b.farEnd + b.halfAlong) * (1 - Math.cos(BUBBLE))) })],
    'assumed',
    'Level it with a longer level.',
    {
      formula: 'half height × (1 − cos of the level’s bubble) / √3',
      substituted: `${fixed(b.halfAlong)} × (1 − cos ${degrees(BUBBLE, 1)}) / √3`,
      basis: 'common practice',
    },
  ),
  laidStraight(b, 'drive', length, 'drive', 'Push the drive against a stop, or walk its edge with the pointer.'),
];

const stepPart = (b: RoundBudgetInput): Part =>
  part(
    b,
    ['step', 'step of the drive'],
    'uniform',
    [() => ({ around: b.step / Math.sqrt(12) })],
    'reckoned',
    'Use finer microsteps or a reduction.',
    {
      formula: 'step / √12',
      substituted: `${fixed(b.step, 4)} / √12`,
      basis: 'geometry',
    },
  );

/** Strokes turn the blank to and fro: it was zeroed on a growing value, and what is burned on a falling one lies behind. */
const playPart = (b: RoundBudgetInput): Part =>
  part(
    b,
    ['backlash', 'play of the drive'],
    'either',
    [() => ({ around: b.play })],
    'profile',
    'Take its play out, or set the names in a filled alphabet: lines are burned one way round.',
    { formula: 'all of the play, on every stroke that goes back', substituted: fixed(b.play), basis: 'typed' },
  );

/** What turning a piece brings. */
export const turningParts = (b: RoundBudgetInput): Part[] => [
  ...(b.chuck ? chuckParts(b) : rollerParts(b)),
  ...travelParts(b),
  ...(b.number > 0 ? [numberPart(b)] : []),
  ...(b.laid && !b.chuck ? [creepPart(b)] : []),
  ...(b.taper > 0 ? [taperPart(b)] : []),
  ...(b.laid ? laidParts(b, b.laid) : []),
  ...(b.hasFeature ? [byEye(b, ['feature', 'feature at the crest'], 'around', 'a line', 'Lay a square to the feature, or aim with a loupe.')] : []), // prettier-ignore
  stepPart(b),
  ...(b.play > 0 ? [playPart(b)] : []),
];
