import { useEffect, type ReactNode } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { UseQueryResult } from '@tanstack/react-query';
import type { BlankDocument } from '@bistre/contract';
import {
  useArtworks,
  useBlanks,
  useDrives,
  useFeeders,
  useFixtures,
  useMachines,
  useRecipes,
  useSteps,
  useTrials,
} from '../data/queries';
import { ArtworkPage, NewArtwork } from './shelf/ArtworkPage';
import { BlankForm } from './shelf/BlankForm';
import { DriveForm } from './shelf/DriveForm';
import { FeederForm } from './shelf/FeederForm';
import { MachineForm } from './shelf/MachineForm';
import { Page } from './shelf/form';
import { RecipeForm } from './shelf/RecipeForm';
import { FixturePage } from './shelf/FixturePage';
import { Runs } from './shelf/Runs';
import { Sizes } from './shelf/Sizes';
import { NewTrial } from './trial/NewTrial';
import { TrialPage } from './trial/TrialPage';
import { StepForm } from './shelf/StepForm';

const BlankPage = ({ blank }: { blank: BlankDocument }) => {
  const navigate = useNavigate();
  return (
    <Page kind="blanks" title={blank.name} subject={blank.id}>
      <BlankForm
        blank={blank}
        onClose={() => void navigate('/shelf/blanks')}
        below={
          <>
            <Sizes blank={blank} />
            <Runs id={blank.id} />
          </>
        }
      />
    </Page>
  );
};

/** A thing of a list in its form, or the form of a new one; nothing where there is none of that name. */
const open = <T extends { id: string }>(
  { data = [] }: UseQueryResult<T[]>,
  id: string,
  page: (thing: T) => ReactNode,
  fresh?: () => ReactNode,
): ReactNode => {
  if (id === 'new' && fresh) return fresh();
  const thing = data.find((t) => t.id === id);
  return thing ? page(thing) : null;
};

/** One thing of the Shelf. */
export const ShelfItem = () => {
  // Where it leads back to, also when the server has gone meanwhile.
  useEffect(() => void import('./Shelf'), []);
  const { kind = '', id = '' } = useParams();
  const [machines, recipes, blanks] = [useMachines(), useRecipes(), useBlanks()];
  const [drives, feeders, artworks, steps] = [useDrives(), useFeeders(), useArtworks(), useSteps()];
  const [fixtures, trials] = [useFixtures(), useTrials()];
  // Forms offer what is on the Shelf beside: they are shown once it is there.
  const ready = [machines, recipes, blanks, drives, feeders, artworks, steps, fixtures, trials].every(
    (list) => list.data,
  );
  const pages: Readonly<Record<string, () => ReactNode>> = {
    machines: () => open(machines, id, (m) => <MachineForm key={id} machine={m} />, () => <MachineForm machine={null} />), // prettier-ignore
    artworks: () => open(artworks, id, (a) => <ArtworkPage key={id} artwork={a} />, () => <NewArtwork />), // prettier-ignore
    drives: () => open(drives, id, (d) => <DriveForm key={id} drive={d} />, () => <DriveForm drive={null} />), // prettier-ignore
    feeders: () => open(feeders, id, (f) => <FeederForm key={id} feeder={f} />, () => <FeederForm feeder={null} />), // prettier-ignore
    recipes: () => open(recipes, id, (r) => <RecipeForm key={id} recipe={r} />, () => <RecipeForm recipe={null} />), // prettier-ignore
    steps: () => open(steps, id, (s) => <StepForm key={id} step={s} />, () => <StepForm step={null} />), // prettier-ignore
    trials: () =>
      open(
        trials,
        id,
        (t) => <TrialPage key={id} trial={t} />,
        () => <NewTrial />,
      ),
    fixtures: () => open(fixtures, id, (f) => <FixturePage key={id} fixture={f} />),
    blanks: () => open(blanks, id, (b) => <BlankPage key={id} blank={b} />),
  };
  const shown = ready ? pages[kind]?.() : null;
  if (shown) return shown;
  return (
    <Page title="Shelf">
      <p>{ready ? 'This is not on the Shelf any more.' : 'Opening …'}</p>
    </Page>
  );
};
