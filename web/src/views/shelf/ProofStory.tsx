import { useMemo } from 'react';
import { Link } from 'react-router';
import type { RecipeDocument } from '@bistre/contract';
import { cellWords, counted, familyOf, layTrial, levelText, NUMBER_WORDS, verdictsOf } from '@bistre/core';
import { useLabels } from '../../data/labels';
import { useTrials } from '../../data/queries';
import { GridPicture } from '../trial/GridPicture';
import { marksOf, saidOf } from '../trial/looks';
import { onDate } from './form';

/** The trial that proved a recipe, as it lies on its piece, with the cell that was taken; how it came to that. */
export const ProofStory = ({ recipe }: { recipe: RecipeDocument }) => {
  const { proof } = recipe;
  const { data: all = [] } = useTrials();
  const alphabet = useLabels();
  const trial = all.find((t) => t.id === proof?.trialId);
  const laid = useMemo(() => (trial && alphabet ? layTrial(trial.spec, trial.name, alphabet) : null), [trial, alphabet]);
  if (!proof || !trial || !laid) return null;
  const { spec } = trial;
  const verdicts = verdictsOf(trial.scores);
  const said = trial.scores.filter((s) => s.cell === proof.cell).map((s) => `${s.by} ${saidOf(spec, s)}`);
  const line = familyOf(trial, all);
  const through = (side: 'columns' | 'rows'): string => {
    const { number, levels } = spec[side];
    const { name, unit } = NUMBER_WORDS[number];
    return `${name} ${levelText(number, Math.min(...levels))} to ${levelText(number, Math.max(...levels))} ${unit}`.trim();
  };
  return (
    <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-4 md:grid-cols-[minmax(0,24rem)_minmax(0,1fr)]">
      <GridPicture spec={spec} laid={laid} photo={trial.burned?.simulated ? (trial.photo?.id ?? null) : null} marks={marksOf(verdicts)} chosen={null} best={proof.cell} />
      <div className="space-y-2">
        <p>
          Burned on {spec.piece.name}
          {trial.burned && ` on ${onDate(trial.burned.at)} by ${trial.burned.by}`}: {through('columns')}, {through('rows')},{' '}
          {counted(verdicts.length, 'cell')} looked at.
        </p>
        <p>
          Taken: {cellWords(spec, proof.cell)}. {said.join('; ') || 'Nobody graded this very cell'}
          {'. '}The surface through all cells says {proof.grade.toFixed(1)} ± {proof.doubt.toFixed(1)}.
        </p>
        {line.length > 1 && (
          <p>
            It came in {counted(line.length, 'grid')}:{' '}
            {line.map((t, i) => (
              <span key={t.id}>
                {i > 0 && ', '}
                <Link className="link" to={`/shelf/trials/${t.id}`}>
                  {t.name}
                </Link>
              </span>
            ))}
            .
          </p>
        )}
      </div>
    </div>
  );
}; // prettier-ignore
