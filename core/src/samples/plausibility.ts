import { MM_PER_INCH, type Mm } from '../units';
import { sampleStats } from './stats';

/** A question to the operator: nothing is refused, but nobody is left to find out by burning. */
export interface Question {
  readonly field: string;
  readonly message: string;
}

const near = (a: number, b: number, share: number): boolean => Math.abs(a - b) <= share * Math.abs(b);

/**
 * Questions about one measured dimension: a value in the wrong unit or with its decimal point slipped, a reading far from the rest,
 * samples that disagree with the catalogue.
 *
 * @param field name of the place, e.g. `length`
 * @param limit greatest size that can be on the bench at all, mm (the bed's long side)
 */
export const dimensionQuestions = (field: string, nominal: Mm, samples: readonly Mm[], limit: Mm): Question[] => {
  const questions: Question[] = [];
  if (nominal > limit && nominal / MM_PER_INCH <= limit) {
    questions.push({
      field,
      message: `${field} ${nominal.toFixed(1)} mm is larger than the bed (${limit} mm). Was ${(nominal / MM_PER_INCH).toFixed(2)} mm meant, typed as inches?`,
    });
  }
  for (const [index, value] of samples.entries()) {
    if (near(value * MM_PER_INCH, nominal, 0.05)) {
      questions.push({
        field,
        message: `${field} reading ${index + 1} (${value.toFixed(3)} mm) looks like inches: ${value.toFixed(3)} in would be ${(value * MM_PER_INCH).toFixed(2)} mm.`,
      });
    } else if (near(value / MM_PER_INCH, nominal, 0.05)) {
      questions.push({
        field,
        message: `${field} reading ${index + 1} (${value.toFixed(2)} mm) looks like millimetres typed as inches: ${(value / MM_PER_INCH).toFixed(2)} mm would fit.`,
      });
    } else {
      const slipped = [10, 0.1, 100, 0.01].find((by) => near(value * by, nominal, 0.05));
      if (slipped !== undefined)
        questions.push({
          field,
          message: `${field} reading ${index + 1} (${value.toFixed(2)} mm) looks like a decimal point in the wrong place: ${(value * slipped).toFixed(2)} mm would fit.`,
        });
    }
  }
  const stats = sampleStats(samples);
  if (stats && stats.n >= 4) {
    for (const [index, value] of samples.entries()) {
      const rest = sampleStats(samples.filter((_, i) => i !== index))!;
      const room = Math.max(6 * (rest.s ?? 0), 0.002 * Math.abs(rest.mean), 0.02);
      if (Math.abs(value - rest.mean) > room && !questions.some((q) => q.message.includes(`reading ${index + 1} `))) {
        questions.push({
          field,
          message: `${field} reading ${index + 1} (${value.toFixed(2)} mm) stands apart from the others (${rest.mean.toFixed(2)} mm). Measure that piece again.`,
        });
      }
    }
  }
  if (stats && stats.n >= 3 && !near(stats.mean, nominal, 0.05) && questions.length === 0) {
    questions.push({
      field,
      message: `The pieces measure ${stats.mean.toFixed(2)} mm but the catalogue says ${nominal.toFixed(2)} mm. Bistre uses the measured size.`,
    });
  }
  return questions;
};
