import type { Step } from './step';

type Takes = NonNullable<Step['takes']>['kind'];

/** What the hand needs where a step takes something, beside the work and the machine [common practice]. */
const BY_TAKES: Readonly<Partial<Record<Takes, readonly string[]>>> = {
  samples: ['caliper', 'pieces of this delivery'],
  'run-out': ['dial gauge on its stand'],
  ring: ['masking tape', 'caliper or steel rule'],
  letter: ['masking tape'],
  feed: ['masking tape', 'steel tape measure'],
  guide: ['pointer on, beam off'],
  square: ['steel rule'],
  card: ['feeler gauges or slips of paper'],
  back: ['scrap, taped down', 'caliper'],
  kerf: ['gauge strip'],
  shank: ['pin gauge', 'a pin of each shank'],
  fit: ['fit gauge', 'an offcut of the board'],
  look: ['good light'],
};

/** The same by what the step is, the part of its name behind the station. */
const BY_NAME: readonly (readonly [RegExp, readonly string[]])[] = [
  [/^(tilt|level)$/, ['spirit level', 'packing']],
  [/^(lay|lay-.*)$/, ['masking tape']],
  [/(^|-)focus$/, ['the lens’s focus gauge']],
  [/^(pins|pins-in|pin-first)$/, ['pins', 'small hammer']],
  [/^saw$/, ['saw', 'square']],
  [/^glue-/, ['glue', 'straight edge']],
  [/^bar$/, ['steel rule']],
  [/^mask-/, ['masking tape']],
  [/^(photo-sheet)$/, ['masking tape']],
  [/^photo-take$/, ['camera, or a telephone']],
  [/^material$/, ['the material’s safety sheet']],
  [/^patch$/, ['scrap of the same material']],
  [/^photo-marks$/, ['a sheet of paper']],
];

/** What lies ready before a step is begun; empty where hands, work and machine do. */
export const inHand = ({ id, takes, shops }: Pick<Step, 'id' | 'takes' | 'shops'>): readonly string[] => {
  if (shops) return [];
  const name = id.slice(id.indexOf('.') + 1);
  return (takes && BY_TAKES[takes.kind]) ?? BY_NAME.find(([which]) => which.test(name))?.[1] ?? [];
};
