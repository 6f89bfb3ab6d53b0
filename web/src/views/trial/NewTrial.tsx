import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { api, trialSpec, type MachineDocument, type RecipeDocument, type TrialSpec } from '@bistre/contract';
import {
  burnedOn,
  burnExtras,
  burnWords,
  counted,
  EFFECT_WORDS,
  EFFECTS,
  energyOf,
  freePlace,
  gridSize,
  layTrial,
  levelText,
  NUMBER_WORDS,
  partOf,
  planNotes,
  planProblems,
  TRIAL_NUMBERS,
  trialJob,
  type Alphabet,
  type Effect,
  type TrialNumber,
} from '@bistre/core';
import { machineOf } from '@bistre/contract';
import { useLabels } from '../../data/labels';
import { messageOf } from '../../data/api';
import { useBlanks, useMachines, useRecipes, useTrials } from '../../data/queries';
import { useScrap } from '../../data/scrap';
import { KEPT, write } from '../../data/write';
import { Measure, Select } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Group, Page } from '../shelf/form';
import { GridPicture } from './GridPicture';
import { beginning, planOf, spotOfMachine, wishFor, type Stretch, type Wish } from './wish';

const StretchFields = ({
  name,
  value,
  onChange,
}: {
  name: string;
  value: Stretch;
  onChange: (value: Stretch) => void;
}) => {
  // prettier-ignore
  // Read as the recipe's own numbers are read: a percent, a speed, lines to the inch.
  const of = trialSpec.shape.base;
  return (
    <Group title={name}>
      <Select
        label={`${name} go through`}
        value={value.number}
        options={TRIAL_NUMBERS.map((n) => [n, NUMBER_WORDS[n].name] as const)}
        onChange={(number) => onChange({ ...value, number: number as TrialNumber })}
      />
      <div className="grid grid-cols-2 gap-2">
        <Measure
          of={of}
          at={value.number}
          label="from"
          value={value.from}
          onCommit={(from) => onChange({ ...value, from })}
        />
        <Measure of={of} at={value.number} label="to" value={value.to} onCommit={(to) => onChange({ ...value, to })} />
      </div>
      <Select
        label="in"
        value={String(value.count)}
        options={[2, 3, 4, 5, 6, 7, 8].map((n) => [String(n), `${n} steps`] as const)}
        onChange={(n) => onChange({ ...value, count: Number(n) })}
      />
    </Group>
  );
};

const Scraps = ({ material, onTake }: { material: string; onTake: (piece: TrialSpec['piece']) => void }) => {
  const all = useScrap(material);
  if (all.length === 0)
    return (
      <p className="mb-4 text-soft">
        No spoiled piece and no offcut of {material.trim() || 'this material'} is known here: practise on one of the
        same material all the same.
      </p>
    );
  return (
    <ul aria-label="What lies here of it" className="mb-4 flex flex-wrap gap-3">
      {all.map(({ name, width, height, there, used, piece }) => (
        <li key={name}>
          <button type="button" className="act text-left" onClick={() => onTake(piece)}>
            {name}, {width.toFixed(0)} × {height.toFixed(0)} mm: {there}
            {used > 0 && `, ${used} tried on`}
          </button>
        </li>
      ))}
    </ul>
  );
};

const Shown = ({
  spec,
  name,
  machine,
  alphabet,
}: {
  spec: TrialSpec;
  name: string;
  machine: MachineDocument;
  alphabet: Alphabet;
}) => {
  // prettier-ignore
  const key = JSON.stringify([spec, name, machine.id]);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the key holds what both follow from
  const [laid, job] = useMemo(() => [layTrial(spec, name, alphabet), trialJob(spec, name, machineOf(machine), alphabet)] as const, [key, alphabet]); // prettier-ignore
  const energies = laid.cells.map((c) => energyOf(machine.profile.power, spec.effect, c.setting));
  const unit = partOf(spec.effect) === 'engrave' ? 'J/mm²' : 'J/mm';
  return (
    <section aria-label="The grid" className="mb-5">
      <h2 className="part-title mb-2">The grid</h2>
      <div className="max-w-xl">
        <GridPicture spec={spec} laid={laid} photo={null} marks={new Map()} chosen={null} best={null} />
      </div>
      <p className="mt-1">
        {spec.columns.levels.length} × {spec.rows.levels.length} cells of {spec.cell.width} × {spec.cell.height} mm,{' '}
        {laid.width.toFixed(1)} × {laid.height.toFixed(1)} mm with their lettering; columns{' '}
        {spec.columns.levels.map((v) => levelText(spec.columns.number, v)).join(', ')}{' '}
        {NUMBER_WORDS[spec.columns.number].unit}, rows{' '}
        {spec.rows.levels.map((v) => levelText(spec.rows.number, v)).join(', ')} {NUMBER_WORDS[spec.rows.number].unit}.
      </p>
      <p>
        Energy {Math.min(...energies).toFixed(2)} to {Math.max(...energies).toFixed(2)} {unit}.
        {job.ok &&
          ` It burns ${Math.ceil(job.value.burning / 60)} min${job.value.waiting > 0 ? `, with ${counted(Math.round(job.value.waiting), 'second')} of waiting so that no cell heats the next` : '; no cell heats the next'}.`}
      </p>
      {planNotes(spec, spotOfMachine(machine)).map((note) => (
        <p key={note} className="mt-1 text-[13px]">
          {note}
        </p>
      ))}
      {!job.ok && <Finding tone="out">{job.problem.message}</Finding>}
    </section>
  );
};

/** What a setting from another machine rests on, and how far it can be trusted; or why there is none. */
const Brought = ({
  recipe,
  wish,
  machine,
  machines,
}: {
  recipe: RecipeDocument | undefined;
  wish: Wish;
  machine: MachineDocument;
  machines: readonly MachineDocument[];
}) => {
  const brought = beginning(recipe, wish.effect, machine, machines);
  if (!brought || !recipe) return null;
  if (!brought.ok) return <Finding tone="attention">{brought.problem.message}</Finding>;
  const { trust, because } = brought.value;
  return (
    <p className="mb-4">
      <b>{trust === 'close' ? 'A close beginning' : 'A rough beginning'}</b>, brought over from {recipe.name} on{' '}
      {machines.find((m) => m.id === recipe.machineId)?.name}. {because.join(' ')} It proves nothing on {machine.name}:
      this trial does.
    </p>
  );
};

/** What every cell is burned by beside its four numbers: as the recipe says, since what is proved is all of it. */
const Beside = ({ wish: { base, after = [], effect } }: { wish: Wish }) => {
  const engraves = partOf(effect) === 'engrave';
  const told = burnExtras(base);
  const then = engraves ? after : [];
  if (told.length + then.length === 0) return null;
  return (
    <p className="mb-4">
      {told.length > 0 && <>Every cell as the recipe has it: {told.join(', ')}. </>}
      {then.map((s, i) => (
        <span key={i}>
          <b>Then</b> {burnWords(s)}.{' '}
        </span>
      ))}
    </p>
  );
};

const Form = ({ start, alphabet, recipe }: { start: Wish; alphabet: Alphabet; recipe: RecipeDocument | undefined }) => {
  const navigate = useNavigate();
  const { data: machines = [] } = useMachines();
  const { data: trials = [] } = useTrials();
  const [wish, setWish] = useState(start);
  const [problem, setProblem] = useState<string | null>(null);
  const put = (part: Partial<Wish>): void => setWish((w) => ({ ...w, ...part }));
  const machine = machines.find((m) => m.id === wish.machineId)!;
  const taken = burnedOn(wish.piece.name, trials, alphabet).map((o) => o.taken);
  const spec = planOf(wish, machine, alphabet, taken);
  const size = gridSize(spec, alphabet);
  const room = freePlace(wish.piece, size, taken);
  const wrong = planProblems(spec, machineOf(machine))[0]?.message ?? (room.ok ? null : room.problem.message);
  const name = wish.name.trim() || `Trial ${trials.length + 1}`;
  const make = async (): Promise<void> => {
    try {
      const made = await write({ endpoint: api.createTrial, body: { name, machineId: wish.machineId, spec, follows: null }, scope: 'new' }); // prettier-ignore
      if (made.kept) setProblem(KEPT);
      else await navigate(`/shelf/trials/${made.reply!.id}`);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  const text = (label: string, value: string, onChange: (value: string) => void, hint?: string) => (
    <label className="block">
      <span className="block text-[13px] text-soft">{label}</span>
      <input className="field" value={value} maxLength={100} placeholder={hint} onChange={(e) => onChange(e.target.value)} />
    </label>
  ); // prettier-ignore
  const part = partOf(wish.effect);
  return (
    <>
      <Group title="What for">
        {text('Name', wish.name, (n) => put({ name: n }), name)}
        {text('Material', wish.material, (material) => put({ material }))}
        <Select
          label="Effect"
          value={wish.effect}
          options={EFFECTS.map((e) => [e, EFFECT_WORDS[e]] as const)}
          onChange={(effect) => put({ effect: effect as Effect })}
        />
        <Select
          label="Machine"
          value={wish.machineId}
          options={machines.map((m) => [m.id, m.name] as const)}
          onChange={(machineId) => {
            const to = machines.find((m) => m.id === machineId)!;
            const { base, after, columns, rows } = wishFor(to, recipe, wish.piece, wish.material, machines);
            put({ machineId, base, after, columns, rows });
          }}
        />
      </Group>
      <Brought recipe={recipe} wish={wish} machine={machine} machines={machines} />
      <StretchFields name="Columns" value={wish.columns} onChange={(columns) => put({ columns })} />
      <StretchFields name="Rows" value={wish.rows} onChange={(rows) => put({ rows })} />
      <Group title="What stays">
        {(['power', 'speed', ...(part === 'engrave' ? (['interval'] as const) : []), 'passes'] as const)
          .filter((n) => n !== wish.columns.number && n !== wish.rows.number)
          .map((n) => (
            <Measure
              key={n}
              of={trialSpec.shape.base}
              at={n}
              value={wish.base[n]}
              onCommit={(v) => put({ base: { ...wish.base, [n]: v } })}
            />
          ))}
      </Group>
      <Beside wish={wish} />
      <Group title="Piece: a spoiled one of the same material">
        {text('Piece', wish.piece.name, (n) => put({ piece: { ...wish.piece, name: n } }))}
        {(['width', 'height'] as const).map((at) => (
          <Measure
            key={at}
            of={trialSpec.shape.piece}
            at={at}
            value={wish.piece[at]}
            onCommit={(v) => put({ piece: { ...wish.piece, [at]: v } })}
          />
        ))}
        {(['x', 'y'] as const).map((at) => (
          <Measure
            key={at}
            of={trialSpec.shape.onBed}
            at={at}
            label={`Its lower left corner on the bed, ${at}`}
            value={wish.onBed[at]}
            onCommit={(v) => put({ onBed: { ...wish.onBed, [at]: v } })}
          />
        ))}
      </Group>
      <Scraps material={wish.material} onTake={(piece) => put({ piece })} />
      {wrong ? (
        <Finding tone="out">{wrong}</Finding>
      ) : (
        <Shown spec={spec} name={name} machine={machine} alphabet={alphabet} />
      )}
      {problem && <Finding tone="out">{problem}</Finding>}
      <p className="mt-4 flex gap-3">
        <button
          className="act act-main"
          disabled={wrong !== null || wish.material.trim() === ''}
          onClick={() => void make()}
        >
          Keep this plan
        </button>
      </p>
    </>
  );
};

/** A new trial: about a recipe's own numbers, or about what is easy for a machine. */
export const NewTrial = () => {
  const [params] = useSearchParams();
  const { data: recipes = [] } = useRecipes();
  const { data: machines = [] } = useMachines();
  const { data: blanks = [] } = useBlanks();
  const alphabet = useLabels();
  const recipe = recipes.find((r) => r.id === params.get('recipe'));
  const blank = blanks.find((b) => b.id === params.get('blank'));
  const wanted = params.get('machine') ?? recipe?.machineId;
  const machine = machines.find((m) => m.id === wanted) ?? machines[0];
  const scrap = useScrap(recipe?.spec.material ?? '').find((s) => s.name === params.get('scrap'));
  if (!machine)
    return (
      <Page title="New trial">
        <p>Put a machine on the Shelf first: a trial proves on one machine.</p>
      </Page>
    );
  if (!alphabet)
    return (
      <Page title="New trial">
        <p>Opening …</p>
      </Page>
    );
  const shape = blank?.spec.shape;
  const piece = scrap
    ? scrap.piece
    : shape && shape.kind === 'rectangle'
      ? { name: `Spoiled ${blank.name}`, width: shape.length, height: shape.width }
      : { name: 'Scrap', width: 80, height: 70 };
  return (
    <Page title="New trial" wide>
      <Form
        start={wishFor(machine, recipe, piece, blank?.spec.material ?? '', machines)}
        alphabet={alphabet}
        recipe={recipe}
      />
    </Page>
  );
};
