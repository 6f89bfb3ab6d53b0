import { api, type RecipeDocument, type RecipeSpec } from '@bistre/contract';
import { useMachines } from '../../data/queries';
import { Field, Select, usePart, Within } from '../../parts/fields';
import { Energies } from '../../stations/burn/Energies';
import { ProofOf } from '../../stations/burn/ProofOf';
import { BurnFields, BurnsAfter, CutFields } from './BurnFields';
import { Group, ShelfForm } from './form';
import { ProofStory } from './ProofStory';

const NEW_RECIPE: RecipeSpec = {
  material: 'name the material',
  engrave: { power: 0.3, speed: 200, interval: 0.1, passes: 1 },
  cut: { power: 0.7, speed: 10, interval: 0.1, passes: 1 },
  note: '',
};

/** The machine it belongs to: chosen once. */
const OnMachine = ({ chosen }: { chosen: boolean }) => {
  const { data: machines = [] } = useMachines();
  const [id, put] = usePart<string>('machineId');
  return (
    <Select
      label="Machine"
      value={id}
      options={machines.filter((m) => !chosen || m.id === id).map((m) => [m.id, m.name] as const)}
      onChange={put}
    />
  );
};

/** All that a recipe does, burn by burn, with the energy of each at the lines it really has. */
const Program = () => {
  const { data: machines = [] } = useMachines();
  const [machineId] = usePart<string>('machineId');
  const [spec] = usePart<RecipeSpec>('spec');
  const machine = machines.find((m) => m.id === machineId);
  const second = Boolean(machine?.profile.second);
  return (
    <>
      <Group title="engrave">
        <Within at="spec.engrave">
          <BurnFields second={second} />
        </Within>
      </Group>
      <BurnsAfter second={second} start={spec.engrave} />
      {machine && <Energies spec={spec} machine={machine} />}
      <Group title="cut">
        <CutFields second={second} />
      </Group>
    </>
  );
};

/** Burn settings for a material on a machine, with what proved them. */
export const RecipeForm = ({ recipe }: { recipe: RecipeDocument | null }) => {
  const { data: machines = [] } = useMachines();
  const { name = '', machineId = machines[0]?.id ?? '', spec = NEW_RECIPE } = recipe ?? {};
  return (
    <ShelfForm
      kind="recipes"
      thing={recipe}
      fresh="New recipe"
      schema={api.createRecipe.body}
      start={{ name, machineId, spec }}
      calls={{
        create: api.createRecipe,
        save: api.saveRecipe,
        bodyOf: ({ machineId, ...body }, making) => (making ? { ...body, machineId } : body),
      }}
    >
      <Group title="Recipe">
        <Field at="name" />
        <Field at="spec.material" />
        <OnMachine chosen={recipe !== null} />
      </Group>
      <Program />
      <section className="mb-5">
        <h2 className="part-title mb-2">Where it comes from</h2>
        <Field at="spec.note" />
      </section>
      {recipe && (
        <section aria-label="Proof" className="mb-5">
          <h2 className="part-title mb-2">Proof</h2>
          <ProofOf recipe={recipe} />
          <ProofStory recipe={recipe} />
        </section>
      )}
    </ShelfForm>
  );
};
