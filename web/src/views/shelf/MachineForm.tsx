import { useState } from 'react';
import { api, machineProfile, type MachineDocument, type MachineProfile } from '@bistre/contract';
import { freshMachine, POINTER_STALE_DAYS } from '@bistre/core';
import { call } from '../../data/api';
import { MeasureField, Select, TextField, Tick } from '../../parts/fields';
import { Buttons, Group, Page, useSave } from './form';

const freshProfile: MachineProfile = { ...freshMachine, jogSteps: [...freshMachine.jogSteps] };

/** A machine's profile: everything Bistre must know of it to write its files and to trust its aim. */
export const MachineForm = ({ machine }: { machine: MachineDocument | null }) => {
  const [name, setName] = useState(machine?.name ?? '');
  const [p, setP] = useState<MachineProfile>(machine?.profile ?? freshProfile);
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
    <Page kind="machines" subject={machine?.id} title={machine ? machine.name : 'New machine'}>
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
            <MeasureField
              label="on a surface over the focus by"
              value={p.pointerOffset.height}
              min={-200}
              max={200}
              hint="negative below it"
              onCommit={(height) => set({ pointerOffset: { ...p.pointerOffset!, height } })}
            />
            {p.pointerOffset.second && (
              <>
                {(
                  [
                    ['x', 'x at a second height', 50],
                    ['y', 'y at a second height', 50],
                    ['height', 'over the focus by', 200],
                  ] as const
                ).map(([key, label, most]) => (
                  <MeasureField
                    key={key}
                    label={label}
                    value={p.pointerOffset!.second![key]}
                    min={-most}
                    max={most}
                    onCommit={(v) =>
                      set({ pointerOffset: { ...p.pointerOffset!, second: { ...p.pointerOffset!.second!, [key]: v } } })
                    }
                  />
                ))}
              </>
            )}
            <p className="col-span-3 text-[13px] text-soft">
              measured {new Date(p.pointerOffset.measuredAt).toLocaleDateString('en-GB')}; old after{' '}
              {POINTER_STALE_DAYS} days.{' '}
              <button className="link" onClick={() => set({ pointerOffset: null })}>
                forget it
              </button>{' '}
              <button
                className="link ml-3"
                onClick={() => {
                  const { x, y, height, second } = p.pointerOffset!;
                  set({
                    pointerOffset: { ...p.pointerOffset!, second: second ? null : { x, y, height: height + 10 } },
                  });
                }}
              >
                {p.pointerOffset.second ? 'forget the second height' : 'measured at a second height too'}
              </button>
            </p>
          </>
        ) : (
          <p className="col-span-3">
            <span className="text-ochre">Unmeasured: ± 0.3 mm is carried.</span> Burn a dot, bring the pointer onto it;
            head position at the burn minus head position now.{' '}
            <button
              className="link"
              onClick={() =>
                set({ pointerOffset: { x: 0, y: 0, height: 0, second: null, measuredAt: new Date().toISOString() } })
              }
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
          label="nozzle to the bed at its lowest"
          value={p.bedLowest}
          min={0}
          max={3000}
          onCommit={(bedLowest) => set({ bedLowest })}
        />
        <MeasureField
          label="nozzle to the floor, bed out (0: it stays)"
          value={p.withoutBed ?? 0}
          min={0}
          max={3000}
          onCommit={(floor) => set({ withoutBed: floor === 0 ? null : floor })}
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
