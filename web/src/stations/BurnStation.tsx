import { OfMaterial } from './burn/OfMaterial';
import { BurnReadings, TubeDuty, type Timed } from './burn/BurnReadings';
import { Energies } from './burn/Energies';
import { ProofOf } from './burn/ProofOf';
import { StopWatch } from './burn/StopWatch';
import { OnAnother } from './burn/OnAnother';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { setupSections } from '@bistre/contract';
import { beamSource, burnExtras, CAUTIONS, cutsStock } from '@bistre/core';
import { useRecipes } from '../data/queries';
import { reckoner } from '../data/worker';
import { Choice, Measure, Select } from '../parts/fields';
import { Caution, Part } from '../parts/Part';
import { RecipeChoice } from '../parts/RecipeChoice';
import { Held, useHeldAt } from '../parts/FileLinks';
import { recipeOptions } from '../parts/recipe-options';
import { StockRecipe } from '../parts/StockRecipe';
import { Steps } from '../parts/Steps';
import type { StationProps } from '../ways/pages';

/** Burn: a proved recipe, and an honest time from planning every move. */
export const BurnStation = ({ handle, shown, pages }: StationProps) => {
  const { batch } = handle;
  const { data: recipes = [] } = useRecipes();
  const [time, setTime] = useState<{ key: string; value: Timed | null } | null>(null);
  const key = JSON.stringify([
    batch.recipe,
    batch.setup.burn,
    batch.setup.held,
    batch.setup.faces,
    batch.setup.contents,
    batch.artworks.map(({ id, revision, roles, scale }) => [id, revision, roles, scale]),
    batch.setup.lettering,
    batch.setup.back,
    batch.version,
    batch.machine.version,
  ]);
  useEffect(() => {
    let live = true;
    void reckoner()
      .time(batch)
      .then((value) => {
        if (live) setTime({ key, value });
      });
    return () => {
      live = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key holds what the time depends on
  }, [key]);
  const { recipe, machine } = batch;
  const estimate = time?.key === key ? time.value : null;
  // The side that lies up, with its own recipe and depth.
  const engrave = shown.reckoning.face.recipe?.engrave;
  const cut = recipe?.spec.cut;
  const watts = (engrave && beamSource(machine.profile, engrave)?.power) ?? machine.profile.power;
  const whole = shown.reckoning.face.recipe;
  const program = whole && (whole.after?.length || burnExtras(whole.engrave).length > 0);
  // What the recipe says; a drive burns at whole steps, and power follows.
  const chosen = (pages.run.bothFaces ? engrave : recipe?.spec.engrave) ?? engrave;
  const held = useHeldAt('burn');
  return (
    <>
      <Part
        name="Measure"
        aside={
          recipe ? (
            <Link className="link" to={`/shelf/recipes/${recipe.id}`}>
              open the recipe
            </Link>
          ) : undefined
        }
      >
        <RecipeChoice handle={handle} />
        <OnAnother handle={handle} />
        {held.length > 0 && (
          <div className="mt-2">
            <Held batchId={batch.id} reasons={held} />
          </div>
        )}
        {pages.run.bothFaces && (
          <div className="mt-2 grid grid-cols-[1.6fr_1fr] gap-3">
            <Select
              label="Recipe for the back"
              value={batch.setup.back.recipeId ?? ''}
              options={recipeOptions(recipes, machine.id, 'the same')}
              onChange={(recipeId) =>
                handle.update('back', { ...batch.setup.back, recipeId: recipeId === '' ? null : recipeId })
              }
            />
            <Measure
              of={setupSections.back}
              at="deeper"
              value={batch.setup.back.deeper}
              onCommit={(deeper) => handle.update('back', { ...batch.setup.back, deeper })}
            />
          </div>
        )}
        {cutsStock(batch) && (
          <div className="mt-2">
            <StockRecipe handle={handle} />
          </div>
        )}
      </Part>
      <Part name="Reckon">
        {engrave && chosen && cut ? (
          <>
            <BurnReadings batch={batch} engrave={engrave} chosen={chosen} cut={cut} watts={watts} estimate={estimate} />
            {estimate && <StopWatch batch={batch} estimate={estimate} />}
            {estimate?.duty && <TubeDuty duty={estimate.duty} name={machine.name} />}
            {program && (
              <div className="mt-3">
                <Energies spec={{ engrave: whole.engrave, after: whole.after && [...whole.after] }} machine={machine} />
              </div>
            )}
            <p className="mt-3">
              <b>Proof:</b> <ProofOf recipe={recipe} blank={batch.blank} />
            </p>
          </>
        ) : (
          <p className="text-soft">Power, speed and interval come from the recipe.</p>
        )}
      </Part>
      <Part name="Do">
        {!pages.run.alone && (
          <Choice
            label="Sweep (by rows turns round less often; by piece keeps heat together)"
            value={batch.setup.burn.sweep}
            options={[
              ['row', 'row of pieces at once'],
              ['piece', 'piece by piece'],
            ]}
            onChange={(sweep) => handle.update('burn', { ...batch.setup.burn, sweep })}
          />
        )}
        <Steps handle={handle} steps={shown.steps} station="burn" part="do" />
      </Part>
      <Part name="Check">
        <OfMaterial material={recipe?.spec.material ?? batch.blank.spec.material} />
        <Caution>{CAUTIONS.burn}</Caution>
      </Part>
    </>
  );
};
