import { api, driveSpec, type DriveDocument, type DriveSpec } from '@bistre/contract';
import { freshDrive, mm, reckonTravel, type Drive } from '@bistre/core';
import { Choice, Field, FieldList, Fields, Select, usePart, Within } from '../../parts/fields';
import { Reading } from '../../parts/Reading';
import { Group, onDate, ShelfForm } from './form';

const freshSpec = (): DriveSpec => ({ ...freshDrive, risers: [], spacings: [] });

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

const WORDS = [
  ['Y|mm', 'Y in mm, for the y motor'],
  ['A|degrees', 'A in degrees'],
  ['A|mm', 'A in mm'],
  ['B|degrees', 'B in degrees'],
  ['C|degrees', 'C in degrees'],
] as const;

/** What turns the blank: rollers, wheels or jaws, with how far one turn takes it. */
const Turns = () => {
  const [spec, put] = usePart<DriveSpec>('spec');
  const travel =
    spec.kind !== 'chuck' && driveSpec.safeParse(spec).success
      ? reckonTravel({ ...spec, id: '', name: '' } as Drive, 75)
      : null;
  return (
    <>
      <Group title="Drive">
        <Field at="name" />
        <Choice
          label="Turns the blank by"
          value={spec.kind}
          options={[
            ['roller', 'rollers'],
            ['wheel', 'wheels'],
            ['chuck', 'chuck'],
          ]}
          onChange={(kind) => put(asKind(spec, kind))}
        />
        {travel && (
          <Reading label="travel of one turn" size="text-[19px]" value={mm(travel.perTurn)} working={travel.working} />
        )}
      </Group>
      <Group title={spec.kind === 'chuck' ? 'Jaws' : 'Rollers'}>
        <Within at="spec">
          {spec.kind === 'chuck' ? <Field at="jaws" /> : <Fields at="rollerDiameter centreDistance friction" />}
          {spec.kind === 'roller' && (
            <>
              <Field at="driven" />
              <Field at="bandThickness" />
            </>
          )}
          <Field at="height" />
          <Field at="room" />
        </Within>
        {spec.kind !== 'chuck' && (
          <FieldList<{ apart: number }>
            at="spec.spacings"
            one="distance"
            add="add another distance"
            most={8}
            className="grid grid-cols-[1fr_2.75rem] items-start gap-2"
            fresh={() => ({ apart: spec.centreDistance + 20 })}
            row={() => <Field at="apart" />}
          />
        )}
      </Group>
      <Group title="Feet">
        <FieldList<{ name: string; height: number }>
          at="spec.risers"
          one="riser"
          add="add blocks or other feet"
          most={8}
          className="col-span-full grid grid-cols-[15rem_15rem_2.75rem] items-start gap-3"
          fresh={(all) => ({ name: `blocks ${all.length + 1}`, height: 20 })}
          row={() => (
            <>
              <Field at="name" />
              <Field at="height" />
            </>
          )}
        />
      </Group>
    </>
  );
};

/** How the machine is told about the drive, and the value to return to. */
const Told = () => {
  const [control, put] = usePart<DriveSpec['control']>('spec.control');
  const was = control.kind === 'scale-art' ? control.stepsPerMm : control.was;
  return (
    <Group title="How the machine is told">
      <Select
        label="The machine"
        value={control.kind}
        options={CHAINS}
        onChange={(kind) => put(kind === 'scale-art' ? { kind, stepsPerMm: 80 } : { kind: kind as 'axis-steps', was })}
      />
      <Field at={control.kind === 'scale-art' ? 'spec.control.stepsPerMm' : 'spec.control.was'} />
    </Group>
  );
};

const Axis = () => {
  const [{ letter, unit }, put] = usePart<DriveSpec['axis']>('spec.axis');
  return (
    <Select
      label="Its word in a file"
      value={`${letter}|${unit}`}
      options={WORDS}
      onChange={(v) => {
        const [letter, unit] = v.split('|') as ['Y', 'mm'];
        put({ letter, unit });
      }}
    />
  );
};

/** A rotary: what turns the blank, how the machine is told about it, what it has taught so far. */
export const DriveForm = ({ drive }: { drive: DriveDocument | null }) => {
  const { name = '', spec = freshSpec() } = drive ?? {};
  return (
    <ShelfForm
      kind="drives"
      thing={drive}
      fresh="New drive"
      schema={api.createDrive.body}
      start={{ name, spec }}
      calls={{ create: api.createDrive, save: api.saveDrive }}
    >
      <Turns />
      <Group title="Motor and axis">
        <Fields at="spec.stepsPerTurn spec.reduction spec.motorSide" />
        <Axis />
        <Field at="spec.topMoves" />
        <Fields at="spec.axisAcceleration spec.backlash" />
      </Group>
      <Told />
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
                  <span className="text-soft">{onDate(h.at)}</span>
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
    </ShelfForm>
  );
};
