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

/** The recipe that the load's file carries: what it engraves, or what it cuts. */
export const recipeSteps = ({ recipe }: Pick<BatchInput, 'recipe'>, burns: 'engrave' | 'cut' = 'engrave'): Step[] =>
  recipe
    ? [
        {
          id: 'burn.set',
          station: 'burn' as const,
          part: 'do' as const,
          title: `Recipe ${recipe.name}`,
          detail:
            burns === 'cut'
              ? `Cutting: ${(recipe.cut.power * 100).toFixed(0)} % at ${recipe.cut.speed} mm/s, ${recipe.cut.passes} ${recipe.cut.passes === 1 ? 'pass' : 'passes'}. The file carries it.`
              : `${(recipe.engrave.power * 100).toFixed(0)} % at ${Number(recipe.engrave.speed.toFixed(1))} mm/s, ${Number(recipe.engrave.interval.toFixed(5))} mm between lines. The file carries it.`,
          caution: CAUTIONS.material,
        },
      ]
    : [];
