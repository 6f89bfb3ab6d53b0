import { api, type FeederDocument, type FeederSpec } from '@bistre/contract';
import { calibrateFeed, freshFeeder } from '@bistre/core';
import { Field, FieldList, Fields, usePart, Within } from '../../parts/fields';
import { Reading } from '../../parts/Reading';
import { Group, ShelfForm } from './form';

const freshSpec = (): FeederSpec => ({
  ...freshFeeder,
  window: { ...freshFeeder.window },
  rollers: [...freshFeeder.rollers],
  supports: freshFeeder.supports.map((s) => ({ ...s })),
});

/** How far a long feed really went, over what was commanded. */
const FeedFactor = ({ feeder }: { feeder: FeederDocument }) => {
  const [feedPerStep] = usePart<number>('spec.feedPerStep');
  const {
    factor,
    readings,
    feedPerStep: true_,
    working,
  } = calibrateFeed(feeder.readings, { ...feeder.spec, feedPerStep });
  return (
    <Reading
      label="feed factor"
      size="text-[19px]"
      value={factor.toFixed(4)}
      note={readings === 0 ? 'not measured yet' : `${readings} feeds; ${true_.toPrecision(5)} mm a step would be true`}
      working={working}
    />
  );
};

const Measured = ({ feeder }: { feeder: FeederDocument }) => (
  <section className="mb-5">
    <h2 className="part-title mb-2">Feeds measured</h2>
    <table className="w-full text-[14px]">
      <thead className="text-left text-[13px] text-soft">
        <tr>
          <th className="font-normal">when</th>
          <th className="font-normal">commanded</th>
          <th className="font-normal">tape</th>
          <th className="font-normal">back, missed by</th>
          <th className="font-normal">by</th>
        </tr>
      </thead>
      <tbody>
        {[...feeder.readings].reverse().map((r) => (
          <tr key={r.id} className="border-t border-hairline">
            <td>{new Date(r.at).toLocaleString('en-GB')}</td>
            <td>{r.commanded.toFixed(1)} mm</td>
            <td>{r.measured.toFixed(1)} mm</td>
            <td>{r.missed === null ? '–' : `${r.missed.toFixed(1)} mm`}</td>
            <td>{r.by}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </section>
);

const ROWS = 'flex w-44 items-start gap-1';

/** Where window, guide, rollers and bars are, on the bed. */
const Places = () => (
  <Group title="Where things are, on the bed">
    <Fields at="window.from window.to guideAt deadFront deadBack" />
    <div className="col-span-3">
      <p className="text-[13px] text-soft">Rollers, along the travel</p>
      <div className="mt-1 flex flex-wrap items-start gap-2">
        <FieldList
          at="rollers"
          one="roller"
          least={1}
          most={12}
          fresh={() => 0}
          className={ROWS}
          row={(i) => <Field at="" label={`Roller ${i + 1}`} />}
        />
      </div>
    </div>
    <div className="col-span-3">
      <p className="text-[13px] text-soft">Bars under the work: middle along the travel, and width</p>
      <div className="mt-1 flex flex-wrap items-start gap-3">
        <FieldList
          at="supports"
          one="bar"
          most={30}
          fresh={(all: readonly FeederSpec['supports'][number][]) => ({
            at: (all[all.length - 1]?.at ?? 0) + 100,
            width: 20,
          })}
          className="flex w-72 items-start gap-1"
          row={(i) => (
            <>
              <Field at="at" label={`Bar ${i + 1}, middle`} />
              <Field at="width" label={`Bar ${i + 1}, width`} />
            </>
          )}
        />
      </div>
    </div>
  </Group>
);

/** A feeder: what it takes, where its rollers and bars are, how it is told, how it fed so far. */
export const FeederForm = ({ feeder }: { feeder: FeederDocument | null }) => {
  const { name = '', spec = freshSpec() } = feeder ?? {};
  return (
    <ShelfForm
      kind="feeders"
      thing={feeder}
      fresh="New feeder"
      schema={api.createFeeder.body}
      start={{ name, spec }}
      calls={{ create: api.createFeeder, save: api.saveFeeder }}
    >
      <Group title="Feeder">
        <Field at="name" />
        <Field at="spec.along" open />
        {feeder && <FeedFactor feeder={feeder} />}
      </Group>
      <Within at="spec">
        <Group title="What it takes">
          <Fields at="widest narrowest thickest longest longestOnRails shortest" />
        </Group>
        <Places />
      </Within>
      <Group title="How it feeds">
        <Fields at="spec.feedPerStep spec.speed spec.settle spec.repeats spec.word" />
      </Group>
      {feeder && feeder.readings.length > 0 && <Measured feeder={feeder} />}
    </ShelfForm>
  );
};
