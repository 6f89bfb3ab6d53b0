import { Link } from 'react-router';
import type { BlankDocument, RecipeDocument } from '@bistre/contract';

const day = (at: string): string => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }); // prettier-ignore

/** The trial that proved a recipe and whether that stands; else which proof is missing, and the way to it. */
export const ProofOf = ({ recipe, blank }: { recipe: RecipeDocument; blank?: BlankDocument }) => {
  const { proof } = recipe;
  const plan = `/shelf/trials/new?recipe=${recipe.id}${blank ? `&blank=${blank.id}` : ''}`;
  if (!proof)
    return (
      <span>
        <span className="text-ochre">
          none. No trial on this machine and material says that these numbers are right: burn one on a spoiled piece of
          the same material first.
        </span>{' '}
        <Link className="link" to={plan}>
          Plan the trial
        </Link>
      </span>
    );
  return (
    <span>
      <Link className="link" to={`/shelf/trials/${proof.trialId}`}>
        {proof.trialName}
      </Link>
      , cell {proof.cell + 1}, taken {day(proof.at)} by {proof.by}: {proof.grade.toFixed(1)} ± {proof.doubt.toFixed(1)}{' '}
      of 10.
      {proof.stale !== null && (
        <>
          {' '}
          <b className="text-ochre">It does not stand any more: {proof.stale}.</b>{' '}
          <Link className="link" to={plan}>
            Plan it again
          </Link>
        </>
      )}
    </span>
  );
};
