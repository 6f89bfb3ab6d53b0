import { api, type MachineDocument, type MachineProfile } from '@bistre/contract';
import { freshMachine, POINTER_STALE_DAYS } from '@bistre/core';
import { Field, Fields, usePart, Within } from '../../parts/fields';
import { Group, onDate, ShelfForm } from './form';

const freshProfile: MachineProfile = { ...freshMachine, jogSteps: [...freshMachine.jogSteps] };

/** Where the pointer’s dot falls beside the beam, at one height or two. */
const PointerOffset = () => {
  const [offset, put] = usePart<MachineProfile['pointerOffset']>('pointerOffset');
  const now = (): string => new Date().toISOString();
  if (!offset)
    return (
      <p className="col-span-3">
        <span className="text-ochre">Unmeasured: ± 0.3 mm is carried.</span> Burn a dot, bring the pointer onto it; head
        position at the burn minus head position now.{' '}
        <button
          type="button"
          className="link"
          onClick={() => put({ x: 0, y: 0, height: 0, second: null, measuredAt: now() })}
        >
          type it
        </button>
      </p>
    );
  const { x, y, height, second, measuredAt } = offset;
  return (
    <>
      <Within at="pointerOffset">
        <Field at="x" label="x" />
        <Field at="y" label="y" />
        <Field at="height" />
        {second && (
          <Within at="second">
            <Field at="x" label="x at a second height" />
            <Field at="y" label="y at a second height" />
            <Field at="height" label="Over the focus by" />
          </Within>
        )}
      </Within>
      <p className="col-span-3 text-[13px] text-soft">
        measured {onDate(measuredAt)}; old after {POINTER_STALE_DAYS} days.{' '}
        <button type="button" className="link" onClick={() => put(null)}>
          forget it
        </button>{' '}
        <button
          type="button"
          className="link ml-3"
          onClick={() => put({ ...offset, second: second ? null : { x, y, height: height + 10 } })}
        >
          {second ? 'forget the second height' : 'measured at a second height too'}
        </button>
      </p>
    </>
  );
};

const placesOf = (offset: MachineProfile['pointerOffset']): string => JSON.stringify({ ...offset, measuredAt: null });

/** An offset that was typed anew was measured now. */
const dated = (was: MachineProfile, profile: MachineProfile): MachineProfile =>
  profile.pointerOffset && placesOf(profile.pointerOffset) !== placesOf(was.pointerOffset)
    ? { ...profile, pointerOffset: { ...profile.pointerOffset, measuredAt: new Date().toISOString() } }
    : profile;

/** A machine's profile: everything Bistre must know of it to write its files and to trust its aim. */
export const MachineForm = ({ machine }: { machine: MachineDocument | null }) => {
  const { name = '', profile = freshProfile } = machine ?? {};
  const { kerfMeasuredAt } = profile;
  return (
    <ShelfForm
      kind="machines"
      thing={machine}
      fresh="New machine"
      schema={api.createMachine.body}
      start={{ name, profile }}
      calls={{
        create: api.createMachine,
        save: api.saveMachine,
        bodyOf: (typed) => ({ ...typed, profile: dated(profile, typed.profile) }),
      }}
    >
      <Group title="Machine">
        <Fields at="name profile.source profile.power" />
      </Group>
      <Within at="profile">
        <Group title="Bed and coordinates">
          <Fields at="bed.width bed.height zeroCorner yRuns" />
        </Group>
        <Group title="Aiming">
          <Fields at="jogSteps.0 jogSteps.1 jogSteps.2 eye spot repeatability" />
        </Group>
        <Group title="Pointer offset: dot minus beam">
          <PointerOffset />
        </Group>
        <Group title="Cutting and heights">
          <Field at="kerf" hint={kerfMeasuredAt ? `measured ${onDate(kerfMeasuredAt)}` : 'assumed'} />
          <Fields at="nozzleGap bedLowest withoutBed headRadius focusRange" />
        </Group>
        <Group title="Motion and file dialect">
          <Fields at="acceleration rapidSpeed dialect.powerMax dialect.laserOn dialect.decimals dialect.arcs" />
        </Group>
      </Within>
    </ShelfForm>
  );
};
