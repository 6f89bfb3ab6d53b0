import { ChoiceFields } from '../fields';
import { heldIn } from '../held';
import { RoundMeasure } from '../round/RoundMeasure';
import { RollersApart } from './RollersApart';
import { SeamFields } from './SeamFields';
import { Link } from 'react-router';
import { inputWithoutArt, choiceOf } from '@bistre/contract';
import { fixed, numberIn, percent } from '@bistre/core';
import { Field, Measure, Select } from '../../parts/fields';
import { FileLinks } from '../../parts/FileLinks';
import { Finding, Part } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { useSimulated } from '../../parts/use-simulated';
import { Steps } from '../../parts/Steps';
import type { StationProps } from '../pages';
import { LetterStep, NumberStep, RingStep, RunOutStep, SlowStep } from './checks';
import { CupPanel } from './CupPanel';

const small = 'text-[17px]';
const large = 'text-[21px] lg:text-[27px]';

/** Drive: what the machine must be told for this blank, and the proofs of it. */
export const DriveStation = ({ handle, shown }: StationProps) => {
  const { batch } = handle;
  const round = shown.reckoning.own.round;
  const [simulated, setSimulated] = useSimulated();
  if (!round)
    return (
      <Part name="Measure">
        <Finding tone="attention">This blank is flat: it needs no drive.</Finding>
      </Part>
    );
  const { choice: settings, put: update } = heldIn(handle, 'drive');
  const { on } = round;
  const toggle = (): void => setSimulated(!simulated);
  const warnings = shown.reckoning.warnings.filter((w) => w.station === 'drive');
  return (
    <>
      <RoundMeasure
        handle={handle}
        round={round}
        on={settings.driveId ?? ''}
        rimFaces={settings.rimFaces}
        onRim={(rimFaces) => update({ rimFaces })}
        more={
          <>
            <RollersApart
              spacings={round.spacings}
              drive={batch.drive?.spec ?? null}
              set={settings.spacing ?? null}
              onSet={(spacing) => update({ spacing })}
            />
            {on && (
              <>
                <Select
                  label="Stands"
                  value={`${settings.stand.bed}|${settings.stand.riser ?? ''}`}
                  options={on.heights.options.map((o) => {
                    const bed = o.name.startsWith('bed') ? 'out' : 'in';
                    const riser = o.name.includes(', on ') ? o.name.split(', on ')[1]! : '';
                    return [
                      `${bed}|${riser}`,
                      `${o.name}: ${o.left.toFixed(0)} mm ${o.fits ? 'left' : 'missing'}`,
                    ] as const;
                  })}
                  onChange={(v) => {
                    const [bed, riser] = v.split('|') as ['in' | 'out', string];
                    update({ stand: { bed, riser: riser || null } });
                  }}
                />
                <Measure
                  of={choiceOf('drive')}
                  at="contactAt"
                  label={`Contact circle${settings.contactAt === null ? ', the widest' : ''}`}
                  value={settings.contactAt ?? on.seat.contactAt}
                  onCommit={(contactAt) =>
                    update({
                      contactAt: Math.abs(contactAt - on.seat.contactAt) < 1e-9 ? settings.contactAt : contactAt,
                    })
                  }
                />
              </>
            )}
          </>
        }
        below={
          on &&
          round.shape.feature && (
            <div className="mt-2 grid grid-cols-2 items-end gap-x-3 gap-y-2">
              <ChoiceFields handle={handle} way="drive">
                <Field at="zeroAt" label={`Zeroed right of the ${round.shape.feature.kind}`} />
                {on.drive.kind !== 'chuck' && round.shape.feature.kind === 'handle' && <Field at="overhang" />}
              </ChoiceFields>
            </div>
          )
        }
        seam={<SeamFields handle={handle} />}
      />
      {!on && !round.problem && (
        <Part name="Reckon">
          <Finding tone="attention">Choose the drive that turns it, or let it lie still in a cradle.</Finding>
        </Part>
      )}
      {on && (
        <>
          <Part name="Reckon">
            <div className="readings">
              {on.control.value === null ? (
                <Reading
                  label="turning word in the file"
                  size={large}
                  value={`× ${on.control.artScale.toFixed(4)}`}
                  working={on.control.working}
                  note="nothing is typed in"
                />
              ) : (
                <Reading
                  label={on.control.where}
                  size={large}
                  value={String(on.control.value)}
                  unit={on.control.where.endsWith(on.control.unit) ? '' : on.control.unit}
                  tone={numberIn(inputWithoutArt(batch), on.control) === on.control.value ? 'inside' : 'plain'}
                  working={on.control.working}
                  note={
                    on.control.diameter
                      ? `diameter ${fixed(on.control.diameter.value)}; it was ${on.control.was}`
                      : `type it; it was ${on.control.was}`
                  }
                />
              )}
              <Reading
                label="travel of one turn"
                size={large}
                value={on.travel.perTurn.toFixed(2)}
                unit="mm"
                working={on.travel.working}
                note={`${fixed(on.travel.stepsPerMm, 3)} steps/mm`}
              />
              <Reading
                label="acceleration ≤"
                size={large}
                value={on.throwing.recommended.toFixed(0)}
                unit="mm/s²"
                tone={on.mustSlow ? 'out' : 'inside'}
                working={on.throwing.working}
                note={
                  on.drive.kind === 'chuck'
                    ? 'the drive’s own'
                    : `at ${on.throwing.limit.toFixed(0)} it ${on.throwing.cause}`
                }
              />
              <Reading
                label="rows every"
                size={small}
                value={on.interval ? on.interval.used.toFixed(5) : '–'}
                unit="mm"
                note={
                  on.interval
                    ? `${Math.round(on.interval.used / on.travel.step)} steps; ${on.interval.wanted} is ${on.interval.steps.toFixed(2)}. At ${percent(on.interval.burned.power, 1)}`
                    : 'no recipe yet'
                }
                working={on.travel.working.slice(-1)}
              />
              <Reading
                label={on.level.raise ? `raise the ${on.level.raise} by` : 'lift'}
                size={small}
                value={on.level.lift.toFixed(1)}
                unit="mm"
                working={[...on.taper.working, ...on.level.working]}
                note={settings.rowScaling ? 'rows scaled' : `ends ± ${percent(on.taper.residual, 2)}`}
              />
              <Reading
                label="crest over its feet"
                size={small}
                value={on.heights.crest.toFixed(1)}
                unit="mm"
                tone={on.standing.left < 0 ? 'out' : 'plain'}
                working={[...on.seat.working, ...on.heights.working]}
                note={`${on.standing.left.toFixed(0)} mm left`}
              />
              <Reading
                label="seam"
                size={small}
                value={`± ${on.seam.spread.toFixed(2)}`}
                unit="mm"
                tone={on.rings.rings > 0 ? 'inside' : 'attention'}
                working={on.seam.working}
                note={
                  on.rings.rings > 0 ? `${on.rings.rings} ${on.rings.rings === 1 ? 'ring' : 'rings'}` : 'no ring yet'
                }
              />
              <Reading
                label="off focus, at most"
                size={small}
                value={on.focusFall.fall.toFixed(2)}
                unit="mm"
                tone={on.focusFall.ok ? 'inside' : 'out'}
                working={on.focusFall.working}
              />
              <Reading
                label="idle, walk"
                size={small}
                value={`${on.throwing.idleSpeed.toFixed(0)}, ${on.throwing.walkSpeed.toFixed(0)}`}
                unit="mm/s"
                working={on.throwing.working}
              />
            </div>
            {warnings.map((w) => (
              <div key={w.message} className="mt-2">
                <Finding tone={w.danger ? 'out' : 'attention'}>{w.message}</Finding>
              </div>
            ))}
          </Part>
          <Part
            name="Do"
            aside={
              <button className="link" onClick={toggle}>
                {simulated ? 'leave the simulated drive' : 'use the simulated drive'}
              </button>
            }
          >
            <NumberStep handle={handle} on={on} />
            <SlowStep handle={handle} on={on} />
            {simulated && <CupPanel handle={handle} round={round} />}
            <Steps handle={handle} steps={shown.steps.filter((s) => !s.takes)} station="drive" part="do" />
          </Part>
          <Part name="Check">
            {on.drive.kind === 'chuck' && <RunOutStep handle={handle} />}
            <h3 className="mt-1 font-bold">Witness ring on tape</h3>
            <RingStep handle={handle} on={on} />
            <h3 className="mt-3 font-bold">The F on tape</h3>
            <LetterStep handle={handle} />
            <FileLinks
              batchId={batch.id}
              files={[
                ['ring.gcode', 'Ring'],
                ['turn.gcode', 'Turn for a pen dot'],
                ['letter.gcode', 'F'],
                ['walk.gcode', 'Walk'],
                ['wrap.svg', 'Wrap, SVG'],
                ['template.pdf', 'Template, PDF'],
                ['template.svg', 'SVG'],
                ['template.dxf', 'DXF'],
              ]}
              label="Files"
            />
            <Steps handle={handle} steps={shown.steps.filter((s) => !s.takes)} station="drive" part="check" />
            <div className="mt-2 flex flex-wrap items-center gap-5 text-[13px]">
              <ChoiceFields handle={handle} way="drive">
                <Field at="bothWays" />
              </ChoiceFields>
              <Link className="link" to={`/shelf/drives/${on.drive.id}`}>
                {on.drive.name} on the Shelf
              </Link>
            </div>
          </Part>
        </>
      )}
    </>
  );
};
