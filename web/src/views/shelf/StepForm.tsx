import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, photographPath, type ShopStepDocument, type ShopStepSpec } from '@bistre/contract';
import { isStation, WAYS } from '@bistre/core';
import { messageOf, sendPhotograph } from '../../data/api';
import { useBlanks, useMachines, useRecipes } from '../../data/queries';
import { Field, Select, usePart } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Group, ShelfForm } from './form';

type Of = ShopStepSpec['of'];

const KINDS: readonly (readonly [Of['kind'], string])[] = [
  ['blank', 'a blank'],
  ['material', 'a material'],
  ['way', 'a way of holding'],
  ['machine', 'a machine'],
];

const WAY_WORDS = Object.values(WAYS).map((w) => [w.id, w.words] as const);

/** What the step belongs to: every batch of that has it. */
const BelongsTo = () => {
  const { data: blanks = [] } = useBlanks();
  const { data: machines = [] } = useMachines();
  const { data: recipes = [] } = useRecipes();
  const [of, put] = usePart<Of>('spec.of');
  const materials = [...new Set(recipes.map((r) => r.spec.material))];
  const fresh = (kind: Of['kind']): Of =>
    ({
      blank: { kind: 'blank', blankId: blanks[0]?.id ?? '' },
      material: { kind: 'material', material: materials[0] ?? '' },
      way: { kind: 'way', way: 'pockets' },
      machine: { kind: 'machine', machineId: machines[0]?.id ?? '' },
    })[kind] as Of;
  const named = (list: readonly { id: string; name: string }[]) => list.map((t) => [t.id, t.name] as const);
  const which = (chosen: Exclude<Of, { kind: 'material' }>) => {
    switch (chosen.kind) {
      case 'blank':
        return { label: 'Blank', value: chosen.blankId, options: named(blanks), onChange: (blankId: string) => put({ kind: 'blank', blankId }) }; // prettier-ignore
      case 'machine':
        return { label: 'Machine', value: chosen.machineId, options: named(machines), onChange: (machineId: string) => put({ kind: 'machine', machineId }) }; // prettier-ignore
      case 'way':
        return { label: 'Way of holding', value: chosen.way, options: WAY_WORDS, onChange: (way: string) => put({ kind: 'way', way } as Of) }; // prettier-ignore
    }
  };
  return (
    <>
      <Select
        label="Stands in every batch of"
        value={of.kind}
        options={KINDS}
        onChange={(kind) => put(fresh(kind as Of['kind']))}
      />
      {of.kind === 'material' ? (
        <Field at="spec.of.material" hint="as its blanks or recipes call it" suggest={materials} />
      ) : (
        <Select {...which(of)} />
      )}
    </>
  );
};

/** A photograph of how it is done: shown large at the bench. */
const Photograph = () => {
  const [id, put] = usePart<string | null>('spec.photoId');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setBusy(true);
    try {
      put((await sendPhotograph(file)).id);
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <section className="mb-5">
      <h2 className="part-title mb-2">Photograph</h2>
      {id && (
        <p className="mb-2">
          <img src={photographPath(id)} alt="as it is kept" className="max-h-64 border border-hairline" />
        </p>
      )}
      <label className="text-[13px] text-soft">
        {busy ? 'Reading …' : 'PNG, JPEG or WebP; kept no larger than 1600 dots, without where and when it was taken'}
        <input
          type="file"
          accept=".png,.jpg,.jpeg,.webp"
          className="block py-2"
          disabled={busy}
          onChange={(e) => {
            void take(e.target.files?.[0]);
            // The same file may be chosen again.
            e.target.value = '';
          }}
        />
      </label>
      {id && (
        <button type="button" className="link" onClick={() => put(null)}>
          take it out
        </button>
      )}
      {problem && <Finding tone="out">{problem}</Finding>}
    </section>
  );
};

const FRESH: Omit<ShopStepSpec, 'of' | 'station'> = {
  when: 'last',
  detail: '',
  caution: '',
  minutes: null,
  photoId: null,
};

/** A step that the shop adds: to what it belongs, where it stands among the others, and what the hand needs. */
export const StepForm = ({ step }: { step: ShopStepDocument | null }) => {
  const [params] = useSearchParams();
  const { data: blanks = [] } = useBlanks();
  const station = params.get('station') ?? '';
  const start: ShopStepSpec = step?.spec ?? {
    ...FRESH,
    of: { kind: 'blank', blankId: params.get('blank') ?? blanks[0]?.id ?? '' },
    station: isStation(station) ? station : 'run',
  };
  return (
    <ShelfForm
      kind="steps"
      thing={step}
      fresh="New step"
      schema={api.createStep.body}
      start={{ name: step?.name ?? '', spec: start }}
      calls={{ create: api.createStep, save: api.saveStep }}
    >
      <section className="mb-5 grid gap-3">
        <Field at="name" />
        <Field at="spec.detail" hint="One thing to do; the reason in a line." />
      </section>
      <Group title="Where it stands">
        <BelongsTo />
        <span />
        <Field at="spec.station" />
        <Field at="spec.when" />
      </Group>
      <Group title="While it is done">
        <Field at="spec.minutes" hint="A clock counts it down at the bench." />
      </Group>
      <section className="mb-5">
        <Field at="spec.caution" hint="Shown at the step. Local rules and the maker’s instructions come first." />
      </section>
      <Photograph />
    </ShelfForm>
  );
};
