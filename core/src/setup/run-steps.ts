import { materialCautions } from '../burn';
import { CAUTIONS } from './cautions';
import { lookStep } from './fixing-steps';
import type { BatchInput } from './input';
import { backingStep } from './over-edge';
import type { BatchReckoning } from './reckoned';
import type { Step } from './step';

/** What is to be done, in words; the figure is the one to read from two metres. */
export interface RunWords {
  readonly title: string;
  readonly detail: string;
  readonly figure?: Step['figure'];
}

/** Taking or burning a load, until all are done; `file` where the load is one file that is burned now. */
export const runSteps = (
  input: BatchInput,
  r: BatchReckoning,
  words: RunWords,
  { file = true, looks = false } = {},
): Step[] =>
  r.run.finished || input.closedAt
    ? []
    : [
        ...(looks ? lookStep(input, r) : []),
        ...backingStep(r),
        {
          id: `run.load-${r.run.openLoad ?? 'next'}`,
          station: 'run',
          part: 'do',
          figure: { value: `${r.run.done} / ${input.quantity}`, unit: '', label: 'done' },
          ...words,
          caution: CAUTIONS.burn,
          takes: { kind: 'run' },
          ...(file && r.run.openLoad !== null ? { files: [['load.gcode', 'G-code']] as const } : {}),
        },
      ];

/** The recipe that the load's file carries: what it engraves, or what it cuts; which one, while there is none. */
export const recipeSteps = ({ recipe }: Pick<BatchInput, 'recipe'>, burns: 'engrave' | 'cut' = 'engrave'): Step[] => {
  const step = { id: 'burn.set', station: 'burn', part: 'do', caution: CAUTIONS.material, takes: { kind: 'recipe' } } as const; // prettier-ignore
  if (!recipe)
    return [
      {
        ...step,
        title: 'Choose the recipe',
        detail: 'No file is written without one: it says how fast and how strong.',
        ticked: false,
      },
    ];
  const { cut, engrave } = recipe;
  const known = materialCautions(recipe.material).map((c) => c.says);
  const passes = cut.passes === 1 ? 'pass' : 'passes';
  return [
    {
      ...step,
      caution: [...known, CAUTIONS.material].join(' '),
      title: `Recipe ${recipe.name}`,
      detail:
        burns === 'cut'
          ? `Cutting: ${(cut.power * 100).toFixed(0)} % at ${cut.speed} mm/s, ${cut.passes} ${passes}. The file carries it.`
          : `${(engrave.power * 100).toFixed(0)} % at ${Number(engrave.speed.toFixed(1))} mm/s, ${Number(engrave.interval.toFixed(5))} mm between lines. The file carries it.`,
    },
  ];
};

/** The names come before the first load that carries them. */
export const rosterStep = (input: Pick<BatchInput, 'roster' | 'quantity'>): Step => ({
  id: 'run.roster',
  station: 'run',
  part: 'do',
  title: 'Bring in the roster',
  detail: 'A list as CSV, or pasted from a table: one line a piece.',
  figure: { value: `${input.roster.length} / ${input.quantity}`, unit: '', label: 'names' },
  takes: { kind: 'roster' },
  ticked: false,
});
