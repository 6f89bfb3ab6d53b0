import { Link } from 'react-router';
import type { BlankDocument, RecipeDocument, TrialSpec } from '@bistre/contract';
import { burnedOn, freePlace, gridSize, HOLD_WORDS, testsMissing, testWords } from '@bistre/core';
import { useLabels } from '../../data/labels';
import { useMachines, useTrials } from '../../data/queries';
import { useScrap, type Scrap } from '../../data/scrap';
import { planOf, wishFor } from '../../views/trial/wish';

const day = (at: string): string => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }); // prettier-ignore

const capital = (text: string): string => text[0]!.toUpperCase() + text.slice(1);

/** The way to the trial that is missing: on the scrap that lies here and has room for it, where there is one. */
const Offer = ({ recipe, blank, words }: { recipe: RecipeDocument; blank: BlankDocument | undefined; words: string }) => {
  const alphabet = useLabels();
  const { data: trials = [] } = useTrials();
  const { data: machines = [] } = useMachines();
  const scraps = useScrap(recipe.spec.material);
  const machine = machines.find((m) => m.id === recipe.machineId);
  // The very plan that is made there: on the first scrap that has room for it beside what was burned on it.
  const planOn = ({ piece }: Scrap): TrialSpec | null => {
    if (!alphabet || !machine) return null;
    const taken = burnedOn(piece.name, trials, alphabet).map((o) => o.taken);
    const spec = planOf(wishFor(machine, recipe, piece, recipe.spec.material, machines), machine, alphabet, taken);
    return freePlace(piece, gridSize(spec, alphabet), taken).ok ? spec : null;
  };
  const scrap = scraps.find((s) => planOn(s) !== null);
  const fits = scrap && { scrap, spec: planOn(scrap)! };
  const plan = `/shelf/trials/new?recipe=${recipe.id}${blank ? `&blank=${blank.id}` : ''}`;
  return (
    <>
      {fits && `A grid of ${fits.spec.columns.levels.length} × ${fits.spec.rows.levels.length} cells, ${fits.spec.cell.width} mm each, has room on ${fits.scrap.piece.name} (${fits.scrap.there}, ${fits.scrap.width.toFixed(0)} × ${fits.scrap.height.toFixed(0)} mm). `}
      {scraps.length === 0 && `No spoiled piece and no offcut of ${recipe.spec.material} lies on the Shelf. `}
      {scraps.length > 0 && alphabet && machine && !fits && `What lies here of ${recipe.spec.material} is too small for a grid of 5 × 5. `}
      <Link className="link" to={fits ? `${plan}&scrap=${encodeURIComponent(fits.scrap.name)}` : plan}>
        {words}
      </Link>
    </>
  );
}; // prettier-ignore

/** The trial that proved a recipe and whether that stands; else which proof is missing, and the way to it. */
export const ProofOf = ({ recipe, blank }: { recipe: RecipeDocument; blank?: BlankDocument | undefined }) => {
  const { proof } = recipe;
  if (!proof)
    return (
      <span>
        <span className="text-ochre">
          none. No trial on this machine and material says that these numbers are right: burn one on a spoiled piece of
          the same material first.
        </span>{' '}
        <Offer recipe={recipe} blank={blank} words="Plan the trial" />
      </span>
    );
  return (
    <span>
      <Link className="link" to={`/shelf/trials/${proof.trialId}`}>
        {proof.trialName}
      </Link>
      , cell {proof.cell + 1}, taken {day(proof.at)} by {proof.by}: {proof.grade.toFixed(1)} ± {proof.doubt.toFixed(1)}{' '}
      of 10.
      {(proof.tests ?? []).map((t) => (
        <span key={t.kind}> {capital(testWords(t))}.</span>
      ))}
      {testsMissing(proof.effect, proof.tests ?? []).map((kind) => (
        <span key={kind} className="text-ochre">
          {' '}
          Not {HOLD_WORDS[kind].done} yet: whether it holds is not known.
        </span>
      ))}
      {proof.stale !== null && (
        <>
          {' '}
          <b className="text-ochre">It does not stand any more: {proof.stale}.</b>{' '}
          <Offer recipe={recipe} blank={blank} words="Plan it again" />
        </>
      )}
    </span>
  );
};
