import { burnWords, engravings, lensStops, lineWords, materialCautions, type Recipe } from '../burn';
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
  const known = materialCautions(recipe.material).map((c) => c.says);
  return [
    {
      ...step,
      caution: [...known, CAUTIONS.material].join(' '),
      title: `Recipe ${recipe.name}`,
      detail: burns === 'cut' ? cutWords(recipe) : programWords(recipe),
    },
  ];
};

/** What of a file waits for whoever stands beside it; so often where all of it is burned, and at least. */
const waitWords = (least: number, most: number): readonly string[] => {
  const often = most === 1 ? 'once' : `${most} times`;
  return most === 0
    ? []
    : [
        `It waits ${least === most ? often : `up to ${often}`}, beam off, until the lens is set and the machine started again. Put the lens back into focus at the end.`,
      ];
};

const cutWords = ({ cut }: Recipe): string => {
  const stops = lensStops([cut]);
  return [`Cutting: ${lineWords(cut)}. The file carries it.`, ...waitWords(stops, stops)].join(' ');
};

/** What the file engraves by, burn by burn. */
const programWords = (recipe: Recipe): string => {
  const all = engravings(recipe);
  return [
    all.map((s, i) => `${all.length > 1 ? `${i + 1}: ` : ''}${burnWords(s)}.`).join(' '),
    'The file carries it.',
    ...waitWords(lensStops(all), lensStops(recipe.cut.power > 0 ? [...all, recipe.cut] : all)),
  ].join(' ');
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
