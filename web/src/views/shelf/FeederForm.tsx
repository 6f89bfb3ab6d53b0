import { useState } from 'react';
import { api, feederSpec, type FeederDocument, type FeederSpec } from '@bistre/contract';
import { calibrateFeed, freshFeeder } from '@bistre/core';
import { call } from '../../data/api';
import { Choice, MeasureField, Select, TextField, Tick } from '../../parts/fields';
import { Reading } from '../../parts/Reading';
import { Buttons, Group, Page, useSave } from './form';

const freshSpec = (): FeederSpec => ({
  ...freshFeeder,
  window: { ...freshFeeder.window },
  rollers: [...freshFeeder.rollers],
  supports: freshFeeder.supports.map((s) => ({ ...s })),
});

/** A feeder: what it takes, where its rollers and bars are, how it is told, how it fed so far. */
export const FeederForm = ({ feeder }: { feeder: FeederDocument | null }) => {
  const [name, setName] = useState(feeder?.name ?? '');
  const [spec, setSpec] = useState<FeederSpec>(feeder?.spec ?? freshSpec());
  const { busy, problem, save } = useSave();
  const set = (part: Partial<FeederSpec>): void => setSpec({ ...spec, ...part });
  const commit = (): void =>
    save(async () => {
      const checked = feederSpec.safeParse(spec);
      if (!checked.success) throw new Error(checked.error.issues[0]!.message);
      return feeder
        ? call(api.saveFeeder, { params: { id: feeder.id }, body: { name, spec, version: feeder.version } })
        : call(api.createFeeder, { body: { name, spec } });
    }, '/shelf/feeders');
  const calibration = feeder ? calibrateFeed(feeder.readings, spec) : null;
  const number = (
    key:
      'widest' | 'narrowest' | 'thickest' | 'longest' | 'shortest' | 'deadFront' | 'deadBack' | 'guideAt' | 'repeats',
    label: string,
  ) => <MeasureField label={label} value={spec[key]} min={0} max={10_000} onCommit={(v) => set({ [key]: v })} />;
  return (
    <Page kind="feeders" title={feeder ? feeder.name : 'New feeder'} subject={feeder?.id}>
      <Group title="Feeder">
        <TextField label="name" value={name} most={80} onCommit={setName} />
        <Choice
          label="the work moves"
          value={spec.along}
          options={[
            ['x', 'right to left'],
            ['y', 'front to back'],
          ]}
          onChange={(along) => set({ along })}
        />
        {calibration && (
          <Reading
            label="feed factor"
            size="text-[19px]"
            value={calibration.factor.toFixed(4)}
            note={
              calibration.readings === 0
                ? 'not measured yet'
                : `${calibration.readings} feeds; ${calibration.feedPerStep.toPrecision(5)} mm a step would be true`
            }
            working={calibration.working}
          />
        )}
      </Group>
      <Group title="What it takes">
        {number('widest', 'widest')}
        {number('narrowest', 'narrowest')}
        {number('thickest', 'thickest')}
        {number('longest', 'longest without rails')}
        <MeasureField
          label="longest on rails (0: it has none)"
          value={spec.longestOnRails ?? 0}
          min={0}
          max={10_000}
          onCommit={(v) => set({ longestOnRails: v === 0 ? null : v })}
        />
        {number('shortest', 'shortest that two rollers hold')}
      </Group>
      <Group title="Where things are, on the bed">
        <MeasureField
          label="window from"
          value={spec.window.from}
          min={0}
          max={10_000}
          onCommit={(from) => set({ window: { ...spec.window, from } })}
        />
        <MeasureField
          label="window to"
          value={spec.window.to}
          min={0}
          max={10_000}
          onCommit={(to) => set({ window: { ...spec.window, to } })}
        />
        {number('guideAt', 'guide edge, across')}
        {number('deadFront', 'dead band, leading end')}
        {number('deadBack', 'dead band, trailing end')}
        <div className="col-span-3">
          <p className="text-[13px] text-soft">Rollers, along the travel</p>
          <div className="mt-1 flex flex-wrap items-start gap-2">
            {spec.rollers.map((at, i) => (
              <div key={i} className="flex w-40 items-start gap-1">
                <MeasureField
                  hideLabel
                  label={`roller ${i + 1}`}
                  value={at}
                  onCommit={(v) => set({ rollers: spec.rollers.map((r, k) => (k === i ? v : r)) })}
                />
                <button
                  className="act !px-2"
                  aria-label={`take out roller ${i + 1}`}
                  onClick={() => set({ rollers: spec.rollers.filter((_, k) => k !== i) })}
                >
                  ✕
                </button>
              </div>
            ))}
            <button className="link mt-2" onClick={() => set({ rollers: [...spec.rollers, 0] })}>
              add one
            </button>
          </div>
        </div>
        <div className="col-span-3">
          <p className="text-[13px] text-soft">Bars under the work: middle along the travel, and width</p>
          <div className="mt-1 flex flex-wrap items-start gap-3">
            {spec.supports.map((s, i) => (
              <div key={i} className="flex w-64 items-start gap-1">
                <MeasureField
                  hideLabel
                  label={`bar ${i + 1}, middle`}
                  value={s.at}
                  onCommit={(at) => set({ supports: spec.supports.map((b, k) => (k === i ? { ...b, at } : b)) })}
                />
                <MeasureField
                  hideLabel
                  label={`bar ${i + 1}, width`}
                  value={s.width}
                  min={1}
                  max={500}
                  onCommit={(width) => set({ supports: spec.supports.map((b, k) => (k === i ? { ...b, width } : b)) })}
                />
                <button
                  className="act !px-2"
                  aria-label={`take out bar ${i + 1}`}
                  onClick={() => set({ supports: spec.supports.filter((_, k) => k !== i) })}
                >
                  ✕
                </button>
              </div>
            ))}
            <button
              className="link mt-2"
              onClick={() => set({ supports: [...spec.supports, { at: spec.window.from + 100, width: 20 }] })}
            >
              add one
            </button>
          </div>
        </div>
      </Group>
      <Group title="How it feeds">
        <MeasureField
          kind="number"
          unit="mm"
          label="feed of one step"
          value={spec.feedPerStep}
          min={0.00001}
          max={10}
          onCommit={(feedPerStep) => set({ feedPerStep })}
        />
        <MeasureField
          kind="speed"
          label="speed"
          value={spec.speed}
          min={0.5}
          max={2_000}
          onCommit={(speed) => set({ speed })}
        />
        <MeasureField
          kind="number"
          unit="s"
          label="lies still after"
          value={spec.settle}
          min={0}
          max={30}
          onCommit={(settle) => set({ settle })}
        />
        {number('repeats', 'repeats within ±, by its maker')}
        <Tick
          label="a file can feed it"
          checked={spec.word !== null}
          onChange={(on) => set({ word: on ? 'U' : null })}
        />
        {spec.word !== null && (
          <Select
            label="by the word, in mm"
            value={spec.word}
            options={(['U', 'V', 'W', 'A', 'B', 'C'] as const).map((w) => [w, w] as const)}
            onChange={(word) => set({ word: word as FeederSpec['word'] })}
          />
        )}
      </Group>
      {feeder && feeder.readings.length > 0 && (
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
      )}
      <Buttons busy={busy} problem={problem} onSave={commit} back="/shelf/feeders" />
    </Page>
  );
};
