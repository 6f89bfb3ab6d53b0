import { useEffect } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useArtworks, useBlanks, useDrives, useFeeders, useMachines, useRecipes } from '../data/queries';
import { ArtworkPage, NewArtwork } from './shelf/ArtworkPage';
import { BlankForm } from './shelf/BlankForm';
import { DriveForm } from './shelf/DriveForm';
import { FeederForm } from './shelf/FeederForm';
import { MachineForm } from './shelf/MachineForm';
import { Page } from './shelf/form';
import { RecipeForm } from './shelf/RecipeForm';

/** One thing of the Shelf. */
export const ShelfItem = () => {
  // Where it leads back to, also when the server has gone meanwhile.
  useEffect(() => void import('./Shelf'), []);
  const { kind = '', id = '' } = useParams();
  const navigate = useNavigate();
  const machines = useMachines().data;
  const recipes = useRecipes().data;
  const blanks = useBlanks().data;
  const drives = useDrives().data;
  const feeders = useFeeders().data;
  const artworks = useArtworks().data;
  if (!machines || !recipes || !blanks || !drives || !feeders || !artworks)
    return (
      <Page title="Shelf">
        <p>Opening …</p>
      </Page>
    );
  const missing = (
    <Page title="Shelf">
      <p>This is not on the Shelf any more.</p>
    </Page>
  );
  if (kind === 'machines')
    return id === 'new' ? (
      <MachineForm machine={null} />
    ) : machines.some((m) => m.id === id) ? (
      <MachineForm key={id} machine={machines.find((m) => m.id === id)!} />
    ) : (
      missing
    );
  if (kind === 'artworks') {
    if (id === 'new') return <NewArtwork />;
    const artwork = artworks.find((a) => a.id === id);
    return artwork ? <ArtworkPage key={id} artwork={artwork} /> : missing;
  }
  if (kind === 'drives')
    return id === 'new' ? (
      <DriveForm drive={null} />
    ) : drives.some((d) => d.id === id) ? (
      <DriveForm key={id} drive={drives.find((d) => d.id === id)!} />
    ) : (
      missing
    );
  if (kind === 'feeders')
    return id === 'new' ? (
      <FeederForm feeder={null} />
    ) : feeders.some((f) => f.id === id) ? (
      <FeederForm key={id} feeder={feeders.find((f) => f.id === id)!} />
    ) : (
      missing
    );
  if (kind === 'recipes')
    return id === 'new' ? (
      <RecipeForm recipe={null} />
    ) : recipes.some((r) => r.id === id) ? (
      <RecipeForm key={id} recipe={recipes.find((r) => r.id === id)!} />
    ) : (
      missing
    );
  const blank = blanks.find((b) => b.id === id);
  return blank ? (
    <Page kind="blanks" title={blank.name} subject={blank.id}>
      <BlankForm blank={blank} onClose={() => void navigate('/shelf/blanks')} />
    </Page>
  ) : (
    missing
  );
};
