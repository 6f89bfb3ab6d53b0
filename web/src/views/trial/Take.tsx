import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api, proveBody, type TrialDocument } from '@bistre/contract';
import {
  burnWords,
  EFFECT_WORDS,
  HOLD_WORDS,
  lineWords,
  partOf,
  placeOf,
  settingAt,
  testsFor,
  type HoldKind,
  type HoldTest,
} from '@bistre/core';
import { messageOf } from '../../data/api';
import { useRecipes } from '../../data/queries';
import { write } from '../../data/write';
import { Choice, Measure, Select } from '../../parts/fields';
import { Finding } from '../../parts/Part';

/** A test as it is filled in: its result is nothing until somebody made it. */
interface Made extends Omit<HoldTest, 'holds'> {
  readonly holds: boolean | null;
}

const fresh = (kind: HoldKind): Made => ({ kind, times: HOLD_WORDS[kind].times, with: HOLD_WORDS[kind].with, holds: null }); // prettier-ignore

/** How often, with what, and whether it held. */
const TestRow = ({ test, onChange }: { test: Made; onChange: (test: Made) => void }) => (
  <div className="mb-2 grid grid-cols-[8rem_minmax(0,1fr)] items-start gap-3 md:grid-cols-[8rem_14rem_minmax(0,1fr)]">
    <Measure
      of={proveBody.shape.tests.unwrap().element}
      at="times"
      label={`${HOLD_WORDS[test.kind].name}, times`}
      value={test.times}
      onCommit={(times) => onChange({ ...test, times })}
    />
    <label className="block">
      <span className="block text-[13px] text-soft">with</span>
      <input
        className="field"
        value={test.with}
        maxLength={60}
        onChange={(e) => onChange({ ...test, with: e.target.value })}
      />
    </label>
    <Choice
      label={`What came of it: ${HOLD_WORDS[test.kind].name.toLowerCase()}`}
      value={test.holds === null ? '' : String(test.holds)}
      options={[
        ['', 'not made yet'],
        ['true', 'holds'],
        ['false', 'comes off'],
      ]}
      onChange={(v) => onChange({ ...test, holds: v === '' ? null : v === 'true' })}
    />
  </div>
);

/** Makes a recipe of a cell, or gives its setting to one that there is, with what was done to see whether it holds. */
export const Take = ({ trial, cell }: { trial: TrialDocument; cell: number }) => {
  const navigate = useNavigate();
  const { data: recipes = [] } = useRecipes();
  const offered = recipes.filter((r) => r.machineId === trial.machineId);
  const [into, setInto] = useState(offered.find((r) => r.spec.material === trial.spec.material)?.id ?? '');
  const [name, setName] = useState(`${trial.spec.material}, ${EFFECT_WORDS[trial.spec.effect]}`.slice(0, 80));
  const [tests, setTests] = useState<readonly Made[]>(() => testsFor(trial.spec.effect).map(fresh));
  const { column, row } = placeOf(trial.spec, cell);
  const s = settingAt(trial.spec, column, row);
  const engraves = partOf(trial.spec.effect) === 'engrave';
  const off = tests.some((t) => t.holds === false);
  const take = async (): Promise<void> => {
    try {
      const made = tests.flatMap(({ holds, ...t }) => (holds === null ? [] : [{ ...t, holds }]));
      const body = { cell, recipeId: into === '' ? null : into, name: into === '' ? name : '', tests: made };
      const sent = await write({ endpoint: api.proveRecipe, params: { id: trial.id }, body, scope: trial.id });
      if (!sent.kept && sent.reply) await navigate(`/shelf/recipes/${sent.reply.id}`);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <section aria-label="Take it" className="mb-6">
      <h2 className="part-title mb-2">Take it</h2>
      <p className="mb-2">
        Cell {cell + 1}: {engraves ? burnWords(s) : lineWords(s)}
        .
        {engraves && (trial.spec.after ?? []).map((a, i) => <span key={i}> Then {burnWords(a)}.</span>)}
      </p>
      {tests.length > 0 && (
        <fieldset className="mb-3">
          <legend className="mb-1 font-bold">Does cell {cell + 1} hold?</legend>
          {tests.map((test, i) => (
            <TestRow key={test.kind} test={test} onChange={(t) => setTests(tests.map((o, k) => (k === i ? t : o)))} />
          ))}
          {off && (
            <Finding tone="out">
              What comes off proves nothing. Score this cell lower, or plan the next grid where there is more energy.
            </Finding>
          )}
        </fieldset>
      )}
      <div className="grid max-w-2xl grid-cols-2 gap-3">
        <Select label="Into" value={into} options={[['', 'a new recipe'], ...offered.map((r) => [r.id, r.name] as const)]} onChange={setInto} />
        {into === '' && (
          <label className="block">
            <span className="block text-[13px] text-soft">Name</span>
            <input className="field" value={name} maxLength={80} onChange={(e) => setName(e.target.value)} />
          </label>
        )}
      </div>
      <button className="act act-main mt-3" disabled={off || (into === '' && name.trim() === '')} onClick={() => void take()}>
        {into === '' ? 'Make the recipe of this cell' : 'Give it this cell’s setting'}
      </button>
    </section>
  );
}; // prettier-ignore
