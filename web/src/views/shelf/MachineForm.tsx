import { Changed } from './Changed';
import { Runs } from './Runs';
import { useState } from 'react';
import { z } from 'zod';
import { api, inRange, type MachineDocument, type MachineProfile } from '@bistre/contract';
import {
  axesOf,
  freshMachine,
  POINTER_STALE_DAYS,
  squareFor,
  pointerFromDisplay,
  pointerWords,
  rayleighRange,
  spotOf,
  WAVELENGTHS,
} from '@bistre/core';
import { Field, Fields, Measure, usePart, Within } from '../../parts/fields';
import { Group, onDate, ShelfForm } from './form';

const freshProfile: MachineProfile = { ...freshMachine, jogSteps: [...freshMachine.jogSteps] };

/** Where the head stands, as the machine shows it. */
const SHOWN = z.object({
  burnedX: inRange('Burned at x', -10_000, 10_000, 'mm'),
  burnedY: inRange('Burned at y', -10_000, 10_000, 'mm'),
  dotX: inRange('Dot on it at x', -10_000, 10_000, 'mm'),
  dotY: inRange('Dot on it at y', -10_000, 10_000, 'mm'),
});
type Shown = { readonly [K in keyof z.infer<typeof SHOWN>]: number | null };
const NOTHING: Shown = { burnedX: null, burnedY: null, dotX: null, dotY: null };

/** A dot burned and met again by the pointer: both places as the display shows them, and Bistre subtracts. */
const MeasurePointer = ({ onOffset }: { onOffset: (offset: { x: number; y: number }) => void }) => {
  const [yRuns] = usePart<MachineProfile['yRuns']>('yRuns');
  const [shown, setShown] = useState(NOTHING);
  const { burnedX, burnedY, dotX, dotY } = shown;
  const offset =
    burnedX !== null && burnedY !== null && dotX !== null && dotY !== null
      ? pointerFromDisplay(yRuns, { x: burnedX, y: burnedY }, { x: dotX, y: dotY })
      : null;
  return (
    <div className="col-span-3">
      <p className="text-[13px] text-soft">
        Burn a dot on scrap and note where the head stands; jog until the pointer’s dot lies on the burn, and note it
        again. Both as the display shows them.
      </p>
      <div className="mt-1 grid grid-cols-4 gap-3">
        {(['burnedX', 'burnedY', 'dotX', 'dotY'] as const).map((at) => (
          <Measure
            key={at}
            of={SHOWN}
            at={at}
            value={shown[at]}
            onCommit={(value) => setShown((old) => ({ ...old, [at]: value }))}
          />
        ))}
      </div>
      <p className="mt-1">
        {offset && <>The dot falls {pointerWords(offset)}. </>}
        <button
          type="button"
          className="act"
          disabled={!offset}
          onClick={() => {
            if (offset) onOffset(offset);
            setShown(NOTHING);
          }}
        >
          Take the offset
        </button>
      </p>
    </div>
  );
};

/** Where the pointer’s dot falls beside the beam, at one height or two. */
const PointerOffset = () => {
  const [offset, put] = usePart<MachineProfile['pointerOffset']>('pointerOffset');
  const [anew, setAnew] = useState(false);
  const now = (): string => new Date().toISOString();
  const take = (seen: { x: number; y: number }): void => {
    put({ ...seen, height: offset?.height ?? 0, second: null, measuredAt: now() });
    setAnew(false);
  };
  if (!offset)
    return (
      <>
        <p className="col-span-3">
          <span className="text-ochre">Unmeasured: ± 0.3 mm is carried.</span>{' '}
          <button
            type="button"
            className="link"
            onClick={() => put({ x: 0, y: 0, height: 0, second: null, measuredAt: now() })}
          >
            type it
          </button>
        </p>
        <MeasurePointer onOffset={take} />
      </>
    );
  const { x, y, height, second, measuredAt } = offset;
  return (
    <>
      <Within at="pointerOffset">
        <Field at="x" label="To the right" />
        <Field at="y" label="Away from you" />
        <Field at="height" />
        {second && (
          <Within at="second">
            <Field at="x" label="To the right, second height" />
            <Field at="y" label="Away from you, second height" />
            <Field at="height" label="Over the focus by" />
          </Within>
        )}
      </Within>
      <p className="col-span-3 text-[13px] text-soft">
        The dot falls {pointerWords(offset)}, whichever way the machine counts; measured {onDate(measuredAt)}, old after{' '}
        {POINTER_STALE_DAYS} days.{' '}
        <button type="button" className="link" onClick={() => setAnew(!anew)}>
          measure it anew
        </button>{' '}
        <button type="button" className="link ml-3" onClick={() => put(null)}>
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
      {anew && <MeasurePointer onOffset={take} />}
    </>
  );
};

/** A square that the machine burned, by the rule: what its own axes really go. */
const OwnAxes = () => {
  const [square, put] = usePart<MachineProfile['square']>('square');
  const [bed] = usePart<MachineProfile['bed']>('bed');
  if (!square) {
    const side = squareFor(bed);
    const diagonal = Math.round(side * Math.SQRT2 * 10) / 10;
    return (
      <p className="col-span-3">
        <span className="text-ochre">Unmeasured: ± 1 mm a metre is carried.</span> A batch’s Hold station has the square
        to burn.{' '}
        <button
          type="button"
          className="link"
          onClick={() => put({ side, along: side, across: side, rising: diagonal, falling: diagonal, rule: 0.25, measuredAt: new Date().toISOString() })} // prettier-ignore
        >
          type what a rule says of it
        </button>
      </p>
    );
  }
  const { problem } = axesOf(square);
  return (
    <>
      <Within at="square">
        <Fields at="side along across rising falling rule" />
      </Within>
      <p className="col-span-3 text-[13px] text-soft">
        {problem ? (
          <span className="text-oxide">{problem}</span>
        ) : (
          `Measured ${onDate(square.measuredAt)}; files and readings go by it.`
        )}{' '}
        <button type="button" className="link" onClick={() => put(null)}>
          forget it
        </button>
      </p>
    </>
  );
};

/** What an ordinary lens and beam of a kind of source are [common practice]: a place to begin from, to be replaced. */
const USUAL: Readonly<Record<MachineProfile['source'], { focal: number; beam: number; quality: number }>> = {
  'gas tube': { focal: 50.8, beam: 5, quality: 1.2 },
  diode: { focal: 40, beam: 4, quality: 5 },
  fibre: { focal: 160, beam: 7, quality: 1.4 },
};

/** How the beam is focused: its spot and how far it stays sharp follow. */
const BeamAndLens = () => {
  const [optics, put] = usePart<MachineProfile['optics']>('optics');
  const [source] = usePart<MachineProfile['source']>('source');
  if (!optics)
    return (
      <p className="col-span-3">
        <span className="text-ochre">Not said: recipes of other lenses cannot be brought to its spot.</span>{' '}
        <button
          type="button"
          className="link"
          onClick={() => put({ wavelength: WAVELENGTHS[source], ...USUAL[source] })}
        >
          say its lens and beam
        </button>
      </p>
    );
  return (
    <>
      <Within at="optics">
        <Fields at="focal beam quality wavelength" />
      </Within>
      <p className="col-span-3 text-[13px] text-soft">
        Its spot is {spotOf(optics).toFixed(3)} mm wide (4λfM² / πD); ± {rayleighRange(optics).toFixed(2)} mm off its
        focus it has twice the area.{' '}
        <button type="button" className="link" onClick={() => put(null)}>
          forget it
        </button>
      </p>
    </>
  );
};

/** A second source on the same head, and where its beam meets the work. */
const AnotherSource = () => {
  const [second, put] = usePart<MachineProfile['second']>('second');
  if (!second)
    return (
      <p className="col-span-3">
        <span className="text-soft">One source.</span>{' '}
        <button
          type="button"
          className="link"
          onClick={() => put({ source: 'fibre', power: 20, leastPower: 0, offset: { x: 0, y: 0 } })}
        >
          it carries a second one
        </button>
      </p>
    );
  return (
    <>
      <Within at="second">
        <Fields at="source power leastPower offset.x offset.y" />
      </Within>
      <p className="col-span-3 text-[13px] text-soft">
        Chosen by T2 and M6 in its files. Burn a dot with each without moving the head: the second’s lies so far right
        of and behind the first’s.{' '}
        <button type="button" className="link" onClick={() => put(null)}>
          it has one alone
        </button>
      </p>
    </>
  );
};

const placesOf = (offset: MachineProfile['pointerOffset']): string => JSON.stringify({ ...offset, measuredAt: null });

const sidesOf = (square: MachineProfile['square']): string => JSON.stringify({ ...square, measuredAt: null });

/** An offset or a square that was typed anew was measured now. */
const dated = (was: MachineProfile, { pointerOffset, square, ...profile }: MachineProfile): MachineProfile => {
  const measuredAt = new Date().toISOString();
  return {
    ...profile,
    pointerOffset: pointerOffset && placesOf(pointerOffset) !== placesOf(was.pointerOffset) ? { ...pointerOffset, measuredAt } : pointerOffset, // prettier-ignore
    square: square && sidesOf(square) !== sidesOf(was.square) ? { ...square, measuredAt } : square,
  };
};

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
      below={
        machine && (
          <>
            <Changed machine={machine} />
            <Runs id={machine.id} />
          </>
        )
      }
      calls={{
        create: api.createMachine,
        save: api.saveMachine,
        bodyOf: (typed) => ({ ...typed, profile: dated(profile, typed.profile) }),
      }}
    >
      <Group title="Machine">
        <Fields at="name profile.source profile.power profile.leastPower" />
      </Group>
      <Within at="profile">
        <Group title="Bed and coordinates">
          <Fields at="bed.width bed.height zeroCorner yRuns" />
        </Group>
        <Group title="Aiming">
          <Fields at="jogSteps.0 jogSteps.1 jogSteps.2 eye spot repeatability" />
        </Group>
        <Group title="Beam and lens">
          <BeamAndLens />
        </Group>
        <Group title="Second source">
          <AnotherSource />
        </Group>
        <Group title="Proofs of its recipes">
          <Field at="proofDays" />
        </Group>
        <Group title="Pointer offset: dot minus beam">
          <PointerOffset />
        </Group>
        <Group title="Own axes: a burned square">
          <OwnAxes />
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
