import { useState, type ReactNode } from 'react';
import { useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import {
  api,
  machineProfile,
  recipeSpec,
  type MachineDocument,
  type MachineProfile,
  type RecipeDocument,
  type RecipeSpec,
} from '@bistre/contract';
import { call, messageOf } from '../data/api';
import { queryClient, useBlanks, useMachines, useRecipes } from '../data/queries';
import { MeasureField, Select, TextField, Tick } from '../parts/fields';
import { Finding } from '../parts/Part';
import { TopBar } from '../parts/TopBar';
import { BlankForm } from './BlankForm';

const NEW_MACHINE: MachineProfile = {
  source: 'gas tube',
  power: 40,
  bed: { width: 400, height: 300 },
  zeroCorner: 'front-left',
  yRuns: 'away',
  kerf: 0.15,
  kerfMeasuredAt: null,
  pointerOffset: null,
  jogSteps: [10, 1, 0.1],
  eye: 0.03,
  spot: 0.03,
  repeatability: 0.05,
  nozzleGap: 6,
  headRadius: 18,
  focusRange: 2,
  acceleration: 3000,
  rapidSpeed: 300,
  dialect: { powerMax: 1000, laserOn: 'M4', arcs: true, decimals: 3 },
};
const NEW_RECIPE: RecipeSpec = {
  material: 'name the material',
  engrave: { power: 0.3, speed: 200, interval: 0.1, passes: 1 },
  cut: { power: 0.7, speed: 10, interval: 0.1, passes: 1 },
  proof: '',
};

const Page = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="flex min-h-dvh flex-col">
    <TopBar>Shelf</TopBar>
    <main className="mx-auto w-full max-w-4xl flex-1 px-6 py-6">
      <h1 className="mb-4 text-3xl font-bold">{title}</h1>
      {children}
    </main>
  </div>
);
const Group = ({ title, children }: { title: string; children: ReactNode }) => (
  <section className="mb-5">
    <h2 className="part-title mb-2">{title}</h2>
    <div className="grid grid-cols-3 gap-3">{children}</div>
  </section>
);

/** Runs a save, says how it went. */
const useSave = (): {
  busy: boolean;
  problem: string | null;
  save: (job: () => Promise<unknown>, after: string) => void;
} => {
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  return {
    busy,
    problem,
    save: (job, after) => {
      setBusy(true);
      setProblem(null);
      job()
        .then(async () => {
          await queryClient.invalidateQueries();
          toast('Saved.');
          void navigate(after);
        })
        .catch((error: unknown) => setProblem(messageOf(error)))
        .finally(() => setBusy(false));
    },
  };
};

const Buttons = ({
  busy,
  problem,
  onSave,
  back,
}: {
  busy: boolean;
  problem: string | null;
  onSave: () => void;
  back: string;
}) => {
  const navigate = useNavigate();
  return (
    <>
      {problem && <Finding tone="out">{problem}</Finding>}
      <p className="mt-3 flex gap-3">
        <button className="act act-main" disabled={busy} onClick={onSave}>
          Save
        </button>
        <button className="act" onClick={() => void navigate(back)}>
          Leave it
        </button>
      </p>
    </>
  );
};

const MachineForm = ({ machine }: { machine: MachineDocument | null }) => {
  const [name, setName] = useState(machine?.name ?? '');
  const [p, setP] = useState<MachineProfile>(machine?.profile ?? NEW_MACHINE);
  const { busy, problem, save } = useSave();
  const set = (part: Partial<MachineProfile>): void => setP({ ...p, ...part });
  const commit = (): void =>
    save(async () => {
      const checked = machineProfile.safeParse(p);
      if (!checked.success) throw new Error(checked.error.issues[0]!.message);
      return machine
        ? call(api.saveMachine, { params: { id: machine.id }, body: { name, profile: p, version: machine.version } })
        : call(api.createMachine, { body: { name, profile: p } });
    }, '/shelf/machines');
  const jog = (i: 0 | 1 | 2, v: number): void =>
    set({ jogSteps: p.jogSteps.map((s, k) => (k === i ? v : s)) as MachineProfile['jogSteps'] });
  return (
    <Page title={machine ? machine.name : 'New machine'}>
      <Group title="Machine">
        <TextField label="name" value={name} most={80} onCommit={setName} />
        <Select
          label="source"
          value={p.source}
          options={[
            ['gas tube', 'gas tube'],
            ['diode', 'diode'],
            ['fibre', 'fibre'],
          ]}
          onChange={(source) => set({ source: source as MachineProfile['source'] })}
        />
        <MeasureField
          kind="number"
          unit="W"
          label="power"
          value={p.power}
          min={0.1}
          max={20000}
          onCommit={(power) => set({ power })}
        />
      </Group>
      <Group title="Bed and coordinates">
        <MeasureField
          label="bed width"
          value={p.bed.width}
          min={20}
          max={10000}
          onCommit={(width) => set({ bed: { ...p.bed, width } })}
        />
        <MeasureField
          label="bed height"
          value={p.bed.height}
          min={20}
          max={10000}
          onCommit={(height) => set({ bed: { ...p.bed, height } })}
        />
        <Select
          label="zero corner"
          value={p.zeroCorner}
          options={[
            ['front-left', 'front left'],
            ['front-right', 'front right'],
            ['back-left', 'back left'],
            ['back-right', 'back right'],
          ]}
          onChange={(zeroCorner) => set({ zeroCorner: zeroCorner as MachineProfile['zeroCorner'] })}
        />
        <Select
          label="y runs in its files"
          value={p.yRuns}
          options={[
            ['away', 'away from the operator'],
            ['toward', 'towards the operator'],
          ]}
          onChange={(yRuns) => set({ yRuns: yRuns as MachineProfile['yRuns'] })}
        />
      </Group>
      <Group title="Aiming">
        <MeasureField label="coarse jog" value={p.jogSteps[0]} min={0.01} max={100} onCommit={(v) => jog(0, v)} />
        <MeasureField label="fine jog" value={p.jogSteps[1]} min={0.005} max={50} onCommit={(v) => jog(1, v)} />
        <MeasureField label="finest jog" value={p.jogSteps[2]} min={0.001} max={10} onCommit={(v) => jog(2, v)} />
        <MeasureField label="eye or loupe, standard" value={p.eye} min={0} max={1} onCommit={(eye) => set({ eye })} />
        <MeasureField
          label="pointer spot, standard"
          value={p.spot}
          min={0}
          max={2}
          onCommit={(spot) => set({ spot })}
        />
        <MeasureField
          label="return to a place, ±"
          value={p.repeatability}
          min={0}
          max={2}
          onCommit={(repeatability) => set({ repeatability })}
        />
      </Group>
      <Group title="Pointer offset: dot minus beam">
        {p.pointerOffset ? (
          <>
            <MeasureField
              label="x"
              value={p.pointerOffset.x}
              min={-50}
              max={50}
              onCommit={(x) => set({ pointerOffset: { ...p.pointerOffset!, x, measuredAt: new Date().toISOString() } })}
            />
            <MeasureField
              label="y"
              value={p.pointerOffset.y}
              min={-50}
              max={50}
              onCommit={(y) => set({ pointerOffset: { ...p.pointerOffset!, y, measuredAt: new Date().toISOString() } })}
            />
            <p className="pt-5 text-[13px] text-soft">
              measured {new Date(p.pointerOffset.measuredAt).toLocaleDateString('en-GB')}{' '}
              <button className="link" onClick={() => set({ pointerOffset: null })}>
                forget it
              </button>
            </p>
          </>
        ) : (
          <p className="col-span-3">
            <span className="text-ochre">Unmeasured: ± 0.3 mm is carried.</span> Burn a dot, bring the pointer onto it;
            head position at the burn minus head position now.{' '}
            <button
              className="link"
              onClick={() => set({ pointerOffset: { x: 0, y: 0, measuredAt: new Date().toISOString() } })}
            >
              type it
            </button>
          </p>
        )}
      </Group>
      <Group title="Cutting and heights">
        <MeasureField
          label={`kerf, ${p.kerfMeasuredAt ? `measured ${new Date(p.kerfMeasuredAt).toLocaleDateString('en-GB')}` : 'assumed'}`}
          value={p.kerf}
          min={0}
          max={2}
          onCommit={(kerf) => set({ kerf })}
        />
        <MeasureField
          label="nozzle gap"
          value={p.nozzleGap}
          min={0}
          max={500}
          onCommit={(nozzleGap) => set({ nozzleGap })}
        />
        <MeasureField
          label="head radius"
          value={p.headRadius}
          min={0}
          max={300}
          onCommit={(headRadius) => set({ headRadius })}
        />
        <MeasureField
          label="focus range, in total"
          value={p.focusRange}
          min={0.01}
          max={100}
          onCommit={(focusRange) => set({ focusRange })}
        />
      </Group>
      <Group title="Motion and file dialect">
        <MeasureField
          kind="number"
          unit="mm/s²"
          label="acceleration"
          value={p.acceleration}
          min={10}
          max={100000}
          onCommit={(acceleration) => set({ acceleration })}
        />
        <MeasureField
          kind="speed"
          label="rapid speed"
          value={p.rapidSpeed}
          min={1}
          max={10000}
          onCommit={(rapidSpeed) => set({ rapidSpeed })}
        />
        <MeasureField
          kind="count"
          label="S word at full power"
          value={p.dialect.powerMax}
          min={1}
          max={100000}
          onCommit={(powerMax) => set({ dialect: { ...p.dialect, powerMax } })}
        />
        <Select
          label="beam on by"
          value={p.dialect.laserOn}
          options={[
            ['M4', 'M4, power follows speed'],
            ['M3', 'M3, constant power'],
          ]}
          onChange={(laserOn) => set({ dialect: { ...p.dialect, laserOn: laserOn as 'M3' | 'M4' } })}
        />
        <Select
          label="decimals"
          value={String(p.dialect.decimals)}
          options={[
            ['2', '2'],
            ['3', '3'],
            ['4', '4'],
          ]}
          onChange={(d) => set({ dialect: { ...p.dialect, decimals: Number(d) as 2 | 3 | 4 } })}
        />
        <Tick
          label="arcs as G2 and G3"
          checked={p.dialect.arcs}
          onChange={(arcs) => set({ dialect: { ...p.dialect, arcs } })}
        />
      </Group>
      <Buttons busy={busy} problem={problem} onSave={commit} back="/shelf/machines" />
    </Page>
  );
};

const RecipeForm = ({ recipe }: { recipe: RecipeDocument | null }) => {
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
    <Page title={recipe ? recipe.name : 'New recipe'}>
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

/** One thing of the Shelf. */
export const ShelfItem = () => {
  const { kind = '', id = '' } = useParams();
  const navigate = useNavigate();
  const machines = useMachines().data;
  const recipes = useRecipes().data;
  const blanks = useBlanks().data;
  if (!machines || !recipes || !blanks)
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
    <Page title={blank.name}>
      <BlankForm blank={blank} onClose={() => void navigate('/shelf/blanks')} />
    </Page>
  ) : (
    missing
  );
};
