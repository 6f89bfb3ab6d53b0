import { useState } from 'react';
import { api, driveSpec, type DriveDocument, type DriveSpec } from '@bistre/contract';
import { freshDrive, mm, reckonTravel, type Drive } from '@bistre/core';
import { call } from '../../data/api';
import { Choice, MeasureField, Select, TextField } from '../../parts/fields';
import { Reading } from '../../parts/Reading';
import { Buttons, Group, Page, useSave } from './form';

const freshSpec = (): DriveSpec => ({ ...freshDrive, risers: [] });

/** Another kind of drive with everything kept that both have. */
const asKind = (spec: DriveSpec, kind: DriveSpec['kind']): DriveSpec => {
  const { rollerDiameter, centreDistance, friction, driven, bandThickness } = spec.kind === 'chuck' ? freshDrive : spec;
  const jaws = spec.kind === 'chuck' ? spec.jaws : 100;
  // Both kinds' fields; the contract drops those that the chosen kind does not have.
  return driveSpec.parse({
    ...spec,
    rollerDiameter,
    centreDistance,
    friction,
    driven: kind === 'wheel' ? 2 : driven,
    bandThickness: kind === 'wheel' ? 0 : bandThickness,
    jaws,
    kind,
  });
};

const CHAINS = [
  ['travel-per-turn', 'asks travel of a turn'],
  ['steps-per-turn', 'asks steps of a roller turn'],
  ['steps-per-blank-turn', 'asks steps of a piece’s turn'],
  ['axis-steps', 'axis steps/mm are changed'],
  ['scale-art', 'axis stays, art is scaled'],
] as const;

/** A rotary: what turns the blank, how the machine is told about it, what it has taught so far. */
export const DriveForm = ({ drive }: { drive: DriveDocument | null }) => {
  const [name, setName] = useState(drive?.name ?? '');
  const [spec, setSpec] = useState<DriveSpec>(drive?.spec ?? freshSpec());
  const { busy, problem, save } = useSave();
  const set = (part: Partial<DriveSpec>): void => setSpec({ ...spec, ...part } as DriveSpec);
  const commit = (): void =>
    save(async () => {
      const checked = driveSpec.safeParse(spec);
      if (!checked.success) throw new Error(checked.error.issues[0]!.message);
      return drive
        ? call(api.saveDrive, { params: { id: drive.id }, body: { name, spec, version: drive.version } })
        : call(api.createDrive, { body: { name, spec } });
    }, '/shelf/drives');
  const travel = driveSpec.safeParse(spec).success
    ? reckonTravel({ ...spec, id: '', name } as Drive, spec.kind === 'chuck' ? spec.jaws : 75)
    : null;
  const { control } = spec;
  return (
    <Page kind="drives" title={drive ? drive.name : 'New drive'} subject={drive?.id}>
      <Group title="Drive">
        <TextField label="name" value={name} most={80} onCommit={setName} />
        <Choice
          label="turns the blank by"
          value={spec.kind}
          options={[
            ['roller', 'rollers'],
            ['wheel', 'wheels'],
            ['chuck', 'chuck'],
          ]}
          onChange={(kind) => setSpec(asKind(spec, kind))}
        />
        {travel && spec.kind !== 'chuck' && (
          <Reading label="travel of one turn" size="text-[19px]" value={mm(travel.perTurn)} working={travel.working} />
        )}
      </Group>
      <Group title={spec.kind === 'chuck' ? 'Jaws' : 'Rollers'}>
        {spec.kind === 'chuck' ? (
          <MeasureField
            label="largest the jaws take"
            value={spec.jaws}
            min={1}
            max={1000}
            onCommit={(jaws) => set({ jaws })}
          />
        ) : (
          <>
            <MeasureField
              label="roller diameter"
              value={spec.rollerDiameter}
              min={2}
              max={500}
              onCommit={(rollerDiameter) => set({ rollerDiameter })}
            />
            <MeasureField
              label="distance of their axes"
              value={spec.centreDistance}
              min={4}
              max={1000}
              onCommit={(centreDistance) => set({ centreDistance })}
            />
            <MeasureField
              kind="number"
              unit="μ"
              label="friction (rubber on steel about 0.5)"
              value={spec.friction}
              min={0.02}
              max={2}
              onCommit={(friction) => set({ friction })}
            />
          </>
        )}
        {spec.kind === 'roller' && (
          <>
            <Select
              label="driven"
              value={String(spec.driven)}
              options={[
                ['1', 'one roller'],
                ['2', 'both rollers'],
              ]}
              onChange={(v) => set({ driven: Number(v) as 1 | 2 })}
            />
            <MeasureField
              label="traction band on the blank"
              value={spec.bandThickness}
              min={0}
              max={20}
              onCommit={(bandThickness) => set({ bandThickness })}
            />
          </>
        )}
        <MeasureField
          label="height of its axis"
          value={spec.height}
          min={0}
          max={500}
          onCommit={(height) => set({ height })}
        />
        <MeasureField
          label="length it takes"
          value={spec.room}
          min={10}
          max={5000}
          onCommit={(room) => set({ room })}
        />
      </Group>
      <Group title="Motor and axis">
        <MeasureField
          kind="number"
          label="steps of one motor turn"
          value={spec.stepsPerTurn}
          min={1}
          max={10000000}
          onCommit={(stepsPerTurn) => set({ stepsPerTurn })}
        />
        <MeasureField
          kind="number"
          label="reduction, motor turns to one"
          value={spec.reduction}
          min={0.01}
          max={1000}
          onCommit={(reduction) => set({ reduction })}
        />
        <Select
          label="motor side"
          value={spec.motorSide}
          options={[
            ['left', 'left'],
            ['right', 'right'],
          ]}
          onChange={(motorSide) => set({ motorSide: motorSide as 'left' })}
        />
        <Select
          label="its word in a file"
          value={`${spec.axis.letter}|${spec.axis.unit}`}
          options={[
            ['Y|mm', 'Y in mm, for the y motor'],
            ['A|degrees', 'A in degrees'],
            ['A|mm', 'A in mm'],
            ['B|degrees', 'B in degrees'],
            ['C|degrees', 'C in degrees'],
          ]}
          onChange={(v) => {
            const [letter, unit] = v.split('|') as ['Y', 'mm'];
            set({ axis: { letter, unit } });
          }}
        />
        <Select
          label="on a growing value the top moves"
          value={spec.topMoves}
          options={[
            ['toward', 'towards the operator'],
            ['away', 'away from the operator'],
          ]}
          onChange={(topMoves) => set({ topMoves: topMoves as 'toward' })}
        />
        <MeasureField
          kind="number"
          unit="mm/s²"
          label="axis acceleration as it is"
          value={spec.axisAcceleration}
          min={1}
          max={200000}
          onCommit={(axisAcceleration) => set({ axisAcceleration })}
        />
      </Group>
      <Group title="How the machine is told">
        <Select
          label="the machine"
          value={control.kind}
          options={CHAINS}
          onChange={(kind) =>
            set({
              control:
                kind === 'scale-art'
                  ? { kind, stepsPerMm: 80 }
                  : {
                      kind: kind as 'axis-steps',
                      was: control.kind === 'scale-art' ? control.stepsPerMm : control.was,
                    },
            })
          }
        />
        {control.kind === 'scale-art' ? (
          <MeasureField
            kind="number"
            unit="steps/mm"
            label="the axis is set to"
            value={control.stepsPerMm}
            min={0.1}
            max={1000000}
            onCommit={(stepsPerMm) => set({ control: { kind: 'scale-art', stepsPerMm } })}
          />
        ) : (
          <MeasureField
            kind="number"
            label="stands there without it; put back to"
            value={control.was}
            min={0}
            max={10000000}
            onCommit={(was) => set({ control: { kind: control.kind, was } })}
          />
        )}
      </Group>
      {drive && (
        <section className="mb-5">
          <h2 className="part-title mb-2">Calibration history</h2>
          {drive.history.length === 0 ? (
            <p className="text-soft">No ring was read with it yet.</p>
          ) : (
            <ul>
              {drive.history.slice(0, 12).map((h) => (
                <li key={h.at} className="flex justify-between border-t border-hairline py-1">
                  <span>{h.blankName}</span>
                  <span>
                    {h.overlap > 0 ? 'overlap' : 'gap'} {Math.abs(h.overlap).toFixed(2)} mm at ×{' '}
                    {h.correction.toFixed(5)}
                  </span>
                  <span className="text-soft">{new Date(h.at).toLocaleDateString('en-GB')}</span>
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
      <Buttons busy={busy} problem={problem} onSave={commit} back="/shelf/drives" />
    </Page>
  );
};
