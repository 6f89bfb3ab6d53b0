import { takenThenPlaced } from '../flat';
import { bedToFile } from '../../burn';
import { apply } from '../../geometry';
import {
  CAUTIONS,
  type BatchInput,
  segmentTick,
  type LongReckoning,
  type BatchReckoning,
  focusStep,
  homeStep,
  type RunWords,
  type Step,
  runSteps,
  recipeSteps,
  aimStep,
  heldAs,
} from '../../setup';

/** Looking at the seams before anything is burned. */
const planSteps = (long: LongReckoning): Step[] => {
  const { plan } = long;
  if (!plan) return [];
  const crossed = plan.seams.reduce((s, x) => s + x.lines, 0);
  const filled = plan.seams.reduce((s, x) => s + x.filled, 0);
  return [
    {
      id: 'hold.seams',
      station: 'hold',
      part: 'check',
      title: 'Look at the seams',
      detail:
        plan.seams.length === 0
          ? 'It fits as it is: no seam is needed.'
          : `${plan.seams.map((s) => s.at.toFixed(0)).join(', ')} mm from its end. They cross ${crossed} ${crossed === 1 ? 'line' : 'lines'} and cut through ${filled.toFixed(1)} mm of filled shapes.`,
      figure: {
        value: String(plan.segments.length),
        unit: plan.segments.length === 1 ? 'segment' : 'segments',
        label: 'burned one after the other',
      },
    },
    {
      id: 'hold.room',
      station: 'hold',
      part: 'check',
      title: 'Is there room for what stands out of the machine?',
      detail: [
        ['in front', plan.room.front],
        ['behind', plan.room.back],
        ['on the left', plan.room.left],
        ['on the right', plan.room.right],
      ]
        .filter(([, mm]) => (mm as number) > 0.5)
        .map(([where, mm]) => `${((mm as number) / 10).toFixed(0)} cm ${where as string}`)
        .join(', ')
        .concat('. Support it level with the bed.'),
      caution: CAUTIONS.head,
    },
  ];
};

const layWords = (input: BatchInput, long: LongReckoning, index: number): { title: string; detail: string } => {
  const plan = long.plan!;
  const segment = plan.segments[index - 1]!;
  const before = plan.segments[index - 2];
  const { loading } = heldAs(input, 'long').choice;
  if (!before) {
    const start = apply(bedToFile(input.machine), apply(segment.square, { x: 0, y: 0 }));
    return {
      title: 'Lay the work in, its beginning first',
      detail: `Its corner at the beginning comes to ${start.x.toFixed(0)}, ${start.y.toFixed(0)}; its long edges along the travel. By what it lies off, all its art lies off its edge. Tape over the places of the marks keeps the surface clean.`,
    };
  }
  if (loading === 'front')
    return {
      title: 'Turn the work round, end for end',
      detail: 'The other end goes in first, the same face up. It need not lie exactly: the marks tell.',
    };
  const by = (segment.from + segment.to - before.from - before.to) / 2;
  return {
    title:
      loading === 'through' ? `Push the work on by ${by.toFixed(0)} mm` : `Move the work on by ${by.toFixed(0)} mm`,
    detail: 'Within 5 mm, and as straight as you can by eye. Its marks tell the rest.',
  };
};

/** A long piece: laid, and segment by segment aimed at, walked and burned. */
export const longSteps = (
  input: BatchInput,
  r: BatchReckoning,
  long: LongReckoning,
  aiming: (mark: number) => Step,
): Step[] => {
  const { plan } = long;
  if (!plan) return [];
  const n = plan.segments.length;
  return [
    homeStep,
    ...plan.segments.flatMap((segment): Step[] => {
      const { index } = segment;
      const now = index === long.current && !long.burned;
      const done = input.ticks.includes(segmentTick(index));
      const first = 2 * index - 3;
      return [
        {
          id: `place.segment-${index}-lay`,
          station: 'place',
          part: 'do',
          ...layWords(input, long, index),
          figure: { value: `${index} / ${n}`, unit: '', label: 'segment' },
        },
        ...(index === 1
          ? [focusStep('place', 'the work', 'Where it lies flat under the head. What stands out is held as high.')]
          : [
              ...[first, first + 1].map(aiming),
              {
                id: `place.segment-${index}-reread`,
                station: 'place' as const,
                part: 'check' as const,
                title: `Read mark ${first} again`,
                detail: `It must come back within ${Math.max(0.1, 2 * Math.SQRT2 * r.place.sigma).toFixed(2)} mm.`,
                takes: { kind: 'reading' as const, mark: first, purpose: 'reread' as const },
                done: done || input.readings.some((m) => m.purpose === 'reread' && m.mark === first),
              },
            ]),
        {
          id: `place.segment-${index}-walk`,
          station: 'place',
          part: 'check',
          title: `Walk segment ${index} with the beam off`,
          detail: 'The dot stays on the work all the way round.',
          caution: CAUTIONS.head,
          files: now ? [['walk.gcode', 'Walk file']] : [],
        },
        {
          id: segmentTick(index),
          station: 'run',
          part: 'do',
          title: `Burn segment ${index} of ${n}`,
          detail:
            index < n
              ? `${segment.from.toFixed(0)} to ${segment.to.toFixed(0)} mm, and the two marks for the next.`
              : `${segment.from.toFixed(0)} to ${segment.to.toFixed(0)} mm: the last one.`,
          caution: CAUTIONS.burn,
          takes: { kind: 'burn' },
          files: now ? [['load.gcode', 'G-code']] : [],
        },
      ];
    }),
  ];
};

/** The checks before a long piece is laid. */
export const longHoldSteps = (r: BatchReckoning, long: LongReckoning): Step[] => [
  ...planSteps(long),
  {
    id: 'hold.material',
    station: 'hold',
    part: 'check',
    title: 'Is this material safe to burn?',
    detail: `One piece, ${(r.sizes.length.mean / 1000).toFixed(2)} m long. Read its safety sheet.`,
    caution: CAUTIONS.material,
  },
];

const longRunWords = (r: BatchReckoning): RunWords =>
  r.run.openLoad === null
    ? { title: 'Take the next work', detail: 'Have it at hand, with room for its whole length.' }
    : { title: 'Look at the whole work', detail: 'At its seams above all.' };

/** A long piece is taken, then laid, aimed at and burned segment by segment, then judged. */
export const segmentSteps = (input: BatchInput, r: BatchReckoning, long: LongReckoning): Step[] => {
  const run = runSteps(input, r, longRunWords(r), { file: false });
  return [
    ...longHoldSteps(r, long),
    ...recipeSteps(input),
    ...takenThenPlaced(
      r,
      run,
      longSteps(input, r, long, (mark) =>
        aimStep(
          input,
          mark,
          false,
          input.readings.some((m) => m.mark === mark && m.purpose === 'place'),
        ),
      ),
    ),
  ];
};
