import { useState } from 'react';
import { api, recipeSpec, type RecipeDocument, type RecipeSpec } from '@bistre/contract';
import { call } from '../../data/api';
import { useMachines } from '../../data/queries';
import { MeasureField, Select, TextField } from '../../parts/fields';
import { Buttons, Group, Page, useSave } from './form';

const NEW_RECIPE: RecipeSpec = {
  material: 'name the material',
  engrave: { power: 0.3, speed: 200, interval: 0.1, passes: 1 },
  cut: { power: 0.7, speed: 10, interval: 0.1, passes: 1 },
  proof: '',
};

/** Burn settings for a material on a machine, with what proved them. */
export const RecipeForm = ({ recipe }: { recipe: RecipeDocument | null }) => {
  const { data: machines = [] } = useMachines();
  const [name, setName] = useState(recipe?.name ?? '');
  const [machineId, setMachineId] = useState(recipe?.machineId ?? '');
  const [spec, setSpec] = useState<RecipeSpec>(recipe?.spec ?? NEW_RECIPE);
  const { busy, problem, save } = useSave();
  const commit = (): void =>
    save(async () => {
      const checked = recipeSpec.safeParse(spec);
      if (!checked.success) throw new Error(checked.error.issues[0]!.message);
      return recipe
        ? call(api.saveRecipe, { params: { id: recipe.id }, body: { name, spec, version: recipe.version } })
        : call(api.createRecipe, { body: { name, machineId: machineId || machines[0]!.id, spec } });
    }, '/shelf/recipes');
  const burn = (key: 'engrave' | 'cut') => (
    <Group title={key}>
      <MeasureField
        kind="percent"
        label="power"
        value={spec[key].power}
        min={0}
        max={1}
        onCommit={(power) => setSpec({ ...spec, [key]: { ...spec[key], power } })}
      />
      <MeasureField
        kind="speed"
        label="speed"
        value={spec[key].speed}
        min={0.1}
        max={10000}
        onCommit={(speed) => setSpec({ ...spec, [key]: { ...spec[key], speed } })}
      />
      {key === 'engrave' && (
        <MeasureField
          kind="interval"
          label="line interval (or 254 lpi)"
          value={spec[key].interval}
          min={0.005}
          max={5}
          digits={5}
          onCommit={(interval) => setSpec({ ...spec, [key]: { ...spec[key], interval } })}
        />
      )}
      <MeasureField
        kind="count"
        label="passes"
        value={spec[key].passes}
        min={1}
        max={50}
        onCommit={(passes) => setSpec({ ...spec, [key]: { ...spec[key], passes } })}
      />
    </Group>
  );
  return (
    <Page kind="recipes" subject={recipe?.id} title={recipe ? recipe.name : 'New recipe'}>
      <Group title="Recipe">
        <TextField label="name" value={name} most={80} onCommit={setName} />
        <TextField
          label="material"
          value={spec.material}
          most={100}
          onCommit={(material) => setSpec({ ...spec, material })}
        />
        <Select
          label="machine"
          value={machineId || machines[0]?.id || ''}
          options={machines.map((m) => [m.id, m.name] as const)}
          onChange={(v) => {
            if (!recipe) setMachineId(v);
          }}
        />
      </Group>
      {burn('engrave')}
      {burn('cut')}
      <section className="mb-5">
        <h2 className="part-title mb-2">Proof</h2>
        <label className="text-[13px] text-soft">
          the trial that proved it: what, when, on which piece; empty while untried
          <input
            className="field"
            maxLength={300}
            value={spec.proof}
            onChange={(e) => setSpec({ ...spec, proof: e.target.value })}
          />
        </label>
      </section>
      <Buttons busy={busy} problem={problem} onSave={commit} back="/shelf/recipes" />
    </Page>
  );
};
