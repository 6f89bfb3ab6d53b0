import { OfMaterial } from './burn/OfMaterial';
import { Energies, energyWorking } from './burn/Energies';
import { ProofOf } from './burn/ProofOf';
import { OnAnother } from './burn/OnAnother';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { setupSections } from '@bistre/contract';
import {
  beamSource,
  burnExtras,
  CAUTIONS,
  cutsStock,
  duration,
  fixed,
  fluence,
  mm,
  percent,
  pieceCount,
  worked,
  type BurnSetting,
  type Duty,
  type WorkedLine,
} from '@bistre/core';
import { useRecipes } from '../data/queries';
import { reckoner } from '../data/worker';
import { Choice, Measure, Select } from '../parts/fields';
import { Caution, Part } from '../parts/Part';
import { Reading, Working } from '../parts/Reading';
import { RecipeChoice } from '../parts/RecipeChoice';
import { Held, useHeldAt } from '../parts/FileLinks';
import { recipeOptions } from '../parts/recipe-options';
import { StockRecipe } from '../parts/StockRecipe';
import { Steps } from '../parts/Steps';
import type { StationProps } from '../ways/pages';

/** The energy on the surface as it is burned, and what the recipe wanted. */
const energyOf = (watts: number, burned: BurnSetting, chosen: BurnSetting): WorkedLine[] =>
  burned.interval === chosen.interval
    ? [energyWorking('fluence', watts, burned)]
    : [
        energyWorking('fluence as burned, by whole steps', watts, burned),
        energyWorking('fluence of the recipe', watts, chosen),
      ];

type Timed = NonNullable<Awaited<ReturnType<ReturnType<typeof reckoner>['time']>>>;

/** What takes most of a load beside the burning itself. */
const mostOf = ({ load, burning, between }: Timed): string =>
  load - burning - between >= between ? 'run-ups and gaps' : 'ways between';

/** Whether a gas tube bears a load, and how long it has to rest where it does not. */
const TubeDuty = ({ duty, name }: { duty: Duty; name: string }) => (
  <p className="mt-2">
    <b>Tube:</b> fires <Working lines={duty.working} title="duty of the tube" figure={percent(duty.fires, 0)} /> of the
    load at {percent(duty.power, 0)} on average.{' '}
    {duty.rest > 0 ? (
      <span className="text-ochre">
        More than a gas tube bears: let {name} rest {duration(duty.rest)} after each load, loading counted, or take less
        power and go slower. Its maker’s limit goes before this one.
      </span>
    ) : (
      'A gas tube bears that.'
    )}
  </p>
);

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
  const { acceleration } = machine.profile;
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
            <div className="readings">
              <Reading
                label="engrave"
                size="text-[19px]"
                value={`${(engrave.power * 100).toFixed(0)} %`}
                unit={`at ${fixed(engrave.speed, 0)} mm/s`}
                note={
                  engrave.interval === chosen.interval
                    ? `${engrave.interval} mm lines, ${engrave.passes} × `
                    : `${fixed(engrave.interval, 4)} mm lines; recipe ${percent(chosen.power, 0)} at ${chosen.interval}`
                }
              />
              <Reading
                label="energy on the surface"
                size="text-[19px]"
                value={fixed(engrave.passes * fluence(watts, engrave))}
                unit="J/mm²"
                note={engrave.passes > 1 ? `in ${engrave.passes} passes` : undefined}
                working={energyOf(watts, engrave, chosen)}
              />
              <Reading
                label="cut"
                size="text-[19px]"
                value={`${(cut.power * 100).toFixed(0)} %`}
                unit={`at ${cut.speed} mm/s`}
                note={`${cut.passes} × `}
              />
              <Reading
                label={estimate?.pieces === 1 ? 'this piece' : `these ${estimate?.pieces ?? '…'} pieces`}
                size="text-[19px]"
                value={estimate ? duration(estimate.load) : '…'}
                working={
                  estimate
                    ? [
                        worked(
                          'every move planned',
                          'constant acceleration, speed limits, corners',
                          `${acceleration} mm/s², rapid ${machine.profile.rapidSpeed} mm/s`,
                          duration(estimate.load),
                          'geometry',
                        ),
                        worked(
                          'beam on',
                          'time in burning moves',
                          pieceCount(estimate.pieces),
                          duration(estimate.burning),
                          'geometry',
                        ),
                        worked(
                          'run-ups, gaps and turns',
                          'beam off at the burn’s own speed',
                          'what is left of it',
                          duration(estimate.load - estimate.burning - estimate.between),
                          'geometry',
                        ),
                        worked(
                          'from burn to burn',
                          'rapid moves',
                          `${machine.profile.rapidSpeed} mm/s`,
                          duration(estimate.between),
                          'geometry',
                        ),
                      ]
                    : []
                }
                note={
                  estimate ? `beam on ${duration(estimate.burning)}; most of the rest: ${mostOf(estimate)}` : 'planning'
                }
              />
              <Reading
                label="whole batch, burning"
                size="text-[19px]"
                value={estimate ? duration(estimate.batch) : '…'}
                note={
                  estimate?.finer
                    ? `loading not counted; at ${estimate.finer.linesPerInch} lines per inch ${duration(estimate.finer.more)} more`
                    : 'loading not counted'
                }
                working={
                  estimate
                    ? [
                        worked(
                          'batch',
                          'time per piece × quantity',
                          `${fixed(estimate.load / estimate.pieces, 2)} s × ${batch.quantity}`,
                          duration(estimate.batch),
                          'geometry',
                        ),
                      ]
                    : []
                }
              />
              <Reading
                label="run-up each end"
                size="text-[19px]"
                value={estimate ? fixed(estimate.runUp, 1) : '…'}
                unit="mm"
                working={
                  estimate
                    ? [
                        worked(
                          'run-up',
                          'v² / 2a',
                          `${engrave.speed}² / (2 × ${acceleration})`,
                          mm(estimate.runUp),
                          'geometry',
                        ),
                      ]
                    : []
                }
              />
            </div>
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
