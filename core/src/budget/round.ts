import { POINTER_STALE_DAYS } from '../marks';
import { fixed } from '../working';
import type { RoundBudgetInput } from './round-input';
import { assembleBudget, type Budget } from './budget';
import { fromUniform } from './combine';
import { seeded, studentScale, type Random } from './random';
import { turningParts } from './round-drive';
import { byEye, part, type Corner, type Part } from './round-part';
import { stillParts } from './still';

/** Whether something of the piece says where round it the art belongs: a feature, or the crest that it lies still on. */
const isAimedAround = ({ hasFeature, still }: RoundBudgetInput): boolean => hasFeature || still !== null;

/** Where along the piece the file begins. */
const aimParts = (b: RoundBudgetInput): Part[] => [
  byEye(b, ['rim', 'zero at the rim'], 'along', 'an edge', 'Push every piece against a stop.'),
  part(
    b,
    ['pointer', 'pointer offset'],
    b.pointer.status === 'unmeasured' ? 'uniform' : 'normal',
    [
      () => ({ along: b.pointer.uncertainty }),
      ...(isAimedAround(b) ? [() => ({ around: b.pointer.uncertainty })] : []),
    ],
    b.pointer.status === 'measured' ? 'measured' : 'assumed',
    b.pointer.status === 'unmeasured'
      ? 'Burn a dot and read where the pointer shows it.'
      : `Measure the offset again; it is trusted for ${POINTER_STALE_DAYS} days.`,
    {
      formula: isAimedAround(b) ? '√2 × u per axis' : 'u, along: nothing round the blank is aimed at',
      substituted: `${isAimedAround(b) ? '√2 × ' : ''}${fixed(b.pointer.uncertainty, 3)}`,
      basis: b.pointer.status === 'unmeasured' ? 'common practice' : 'statistics',
    },
  ),
  part(
    b,
    ['return', 'machine return'],
    'uniform',
    [
      () => ({ along: fromUniform(b.repeatability) }),
      ...(b.still ? [() => ({ around: fromUniform(b.repeatability) })] : []),
    ],
    'profile',
    'Check belts and wheels.',
    {
      formula: b.still ? '√2 × ± / √3' : '± / √3, along',
      substituted: b.still ? `√2 × ${fixed(b.repeatability, 3)} / √3` : `${fixed(b.repeatability, 3)} / √3`,
      basis: 'assumed',
    },
  ),
];

/** What the machine's own axes leave from the zero to the far end of the art: its own on a drive, both lying still. */
const axesPart = (b: RoundBudgetInput): Part => {
  const { scale, lean, measured } = b.axes;
  return part(
    b,
    ['axes', 'the machine’s own axes'],
    'uniform',
    [
      ({ along }) => ({ along: fromUniform(scale * along) }),
      ...(b.still
        ? [({ aside }: Corner) => ({ around: fromUniform(scale * aside), along: fromUniform(lean * aside) })]
        : []),
    ],
    measured ? 'measured' : 'assumed',
    measured
      ? 'Measure the burned square again with a finer rule.'
      : 'Burn a square as large as the bed takes and measure it with a rule (machine’s page on the Shelf).',
    {
      formula: b.still
        ? '√((scale × far end)² + (scale² + lean²) × half width²) / √3'
        : 'scale × far end of the art / √3',
      substituted: b.still
        ? `scale ± ${fixed(1000 * scale, 2)}, lean ± ${fixed(1000 * lean, 2)} mm a metre, ${fixed(b.farEnd, 1)} and ${fixed(b.halfAround, 1)}`
        : `± ${fixed(1000 * scale, 2)} mm a metre × ${fixed(b.farEnd, 1)} / √3`,
      basis: measured ? 'geometry' : 'assumed',
    },
  );
};

const reckonParts = (b: RoundBudgetInput): Part[] => [
  ...(b.still ? stillParts(b, b.still) : turningParts(b)),
  ...aimParts(b),
  axesPart(b),
];

/** Corners of the art, and around and along of each. */
const NUMBERS = 8;

/** Adds one source to what each piece's corners are moved by; its law is chosen once, not for every piece. */
const throwPart = (sums: Float64Array, { source, law, draws }: Part, k: number, r: Random): void => {
  const count = sums.length / NUMBERS;
  const most = Math.sqrt(3) * k;
  for (let i = 0; i < count; i += 1) {
    const phase = law === 'wave' ? 2 * Math.PI * r.uniform() : 0;
    const few = law === 'normal' ? k * studentScale(r, source.dof) : 0;
    for (let d = 0; d < draws.length; d += 1) {
      const move = draws[d]!;
      let z: number;
      if (law === 'normal') z = few * r.normal();
      else if (law === 'uniform') z = most * (2 * r.uniform() - 1);
      else if (law === 'wave') z = Math.SQRT2 * k * (d === 0 ? Math.cos(phase) : Math.sin(phase));
      else z = r.uniform() < 0.5 ? -k : k;
      for (let n = 0; n < NUMBERS; n += 1) sums[NUMBERS * i + n]! += z * move[n]!;
    }
  }
};

/** How far off the worst corner of each piece is. */
const worstOf = (sums: Float64Array): Float64Array => {
  const out = new Float64Array(sums.length / NUMBERS);
  for (let i = 0; i < out.length; i += 1) {
    let most = 0;
    for (let n = NUMBERS * i; n < NUMBERS * (i + 1); n += 2) most = Math.max(most, sums[n]! ** 2 + sums[n + 1]! ** 2);
    out[i] = Math.sqrt(most);
  }
  return out;
};

/**
 * The placement budget of a round blank: what each source moves the four corners of its farthest art by, around and along,
 * and of thrown pieces the corner that is off most.
 */
export const reckonRoundBudget = (input: RoundBudgetInput): Budget => {
  const parts = reckonParts(input);
  return assembleBudget(
    parts.map((p) => p.source),
    (count, scale) => {
      const r = seeded(input.seed);
      const sums = new Float64Array(NUMBERS * count);
      for (const p of parts) throwPart(sums, p, scale?.id === p.source.id ? scale.factor : 1, r);
      return worstOf(sums).sort();
    },
    input,
  );
};
