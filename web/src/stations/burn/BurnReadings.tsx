import type { BatchDocument } from '@bistre/contract';
import {
  duration,
  fixed,
  fluence,
  mm,
  percent,
  pieceCount,
  worked,
  type BurnSetting,
  type Duty,
  type WorkedLine,
} from '@bistre/core';
import type { reckoner } from '../../data/worker';
import { Reading, Working } from '../../parts/Reading';
import { energyWorking } from './Energies';

/** The energy on the surface as it is burned, and what the recipe wanted. */
const energyOf = (watts: number, burned: BurnSetting, chosen: BurnSetting): WorkedLine[] =>
  burned.interval === chosen.interval
    ? [energyWorking('fluence', watts, burned)]
    : [
        energyWorking('fluence as burned, by whole steps', watts, burned),
        energyWorking('fluence of the recipe', watts, chosen),
      ];

/** What the page's worker planned of a load. */
export type Timed = NonNullable<Awaited<ReturnType<ReturnType<typeof reckoner>['time']>>>;

/** What takes most of a load beside the burning itself. */
const mostOf = ({ load, burning, between }: Timed): string =>
  load - burning - between >= between ? 'run-ups and gaps' : 'ways between';

/** Whether a gas tube bears a load, and how long it has to rest where it does not. */
export const TubeDuty = ({ duty, name }: { duty: Duty; name: string }) => (
  <p className="mt-2">
    <b>Tube:</b> fires <Working lines={duty.working} title="duty of the tube" figure={percent(duty.fires, 0)} /> of the
    load at {percent(duty.power, 0)} on average.{' '}
    {duty.rest > 0 ? (
      <span className="text-ochre">
        More than a gas tube bears: let {name} rest {duration(duty.rest)} after each load, loading counted, or take less
        power and go slower. Its maker’s limit goes before this one.
      </span>
    ) : (
      'A gas tube bears that.'
    )}
  </p>
);

/** What a recipe burns with here, and how long it takes. */
export const BurnReadings = ({
  batch,
  engrave,
  chosen,
  cut,
  watts,
  estimate,
}: {
  batch: BatchDocument;
  engrave: BurnSetting;
  /** As the recipe says it; a drive burns at whole steps. */
  chosen: BurnSetting;
  cut: BurnSetting;
  watts: number;
  estimate: Timed | null;
}) => {
  const { machine } = batch;
  const { acceleration } = machine.profile;
  return (
    <div className="readings">
      <Reading
        label="engrave"
        size="text-[19px]"
        value={`${(engrave.power * 100).toFixed(0)} %`}
        unit={`at ${fixed(engrave.speed, 0)} mm/s`}
        note={
          engrave.interval === chosen.interval
            ? `${engrave.interval} mm lines, ${engrave.passes} × `
            : `${fixed(engrave.interval, 4)} mm lines; recipe ${percent(chosen.power, 0)} at ${chosen.interval}`
        }
      />
      <Reading
        label="energy on the surface"
        size="text-[19px]"
        value={fixed(engrave.passes * fluence(watts, engrave))}
        unit="J/mm²"
        note={engrave.passes > 1 ? `in ${engrave.passes} passes` : undefined}
        working={energyOf(watts, engrave, chosen)}
      />
      <Reading
        label="cut"
        size="text-[19px]"
        value={`${(cut.power * 100).toFixed(0)} %`}
        unit={`at ${cut.speed} mm/s`}
        note={`${cut.passes} × `}
      />
      <Reading
        label={estimate?.pieces === 1 ? 'this piece' : `these ${estimate?.pieces ?? '…'} pieces`}
        size="text-[19px]"
        value={estimate ? duration(estimate.load) : '…'}
        working={
          estimate
            ? [
                worked(
                  'every move planned',
                  'constant acceleration, speed limits, corners',
                  `${acceleration} mm/s², rapid ${machine.profile.rapidSpeed} mm/s`,
                  duration(estimate.planned),
                  'geometry',
                ),
                ...(estimate.stopwatch
                  ? [
                      ...estimate.stopwatch.working,
                      worked('as this machine goes', 'planned × stop-watch', `${duration(estimate.planned)} × ${fixed(estimate.stopwatch.factor, 3)}`, duration(estimate.load), 'typed'), // prettier-ignore
                    ]
                  : []),
                worked(
                  'beam on',
                  'time in burning moves',
                  pieceCount(estimate.pieces),
                  duration(estimate.burning),
                  'geometry',
                ),
                worked(
                  'run-ups, gaps and turns',
                  'beam off at the burn’s own speed',
                  'what is left of it',
                  duration(estimate.load - estimate.burning - estimate.between),
                  'geometry',
                ),
                worked(
                  'from burn to burn',
                  'rapid moves',
                  `${machine.profile.rapidSpeed} mm/s`,
                  duration(estimate.between),
                  'geometry',
                ),
              ]
            : []
        }
        note={estimate ? `beam on ${duration(estimate.burning)}; most of the rest: ${mostOf(estimate)}` : 'planning'}
      />
      <Reading
        label="whole batch, burning"
        size="text-[19px]"
        value={estimate ? duration(estimate.batch) : '…'}
        note={
          estimate?.finer
            ? `loading not counted; at ${estimate.finer.linesPerInch} lines per inch ${duration(estimate.finer.more)} more`
            : 'loading not counted'
        }
        working={
          estimate
            ? [
                worked(
                  'batch',
                  'time per piece × quantity',
                  `${fixed(estimate.load / estimate.pieces, 2)} s × ${batch.quantity}`,
                  duration(estimate.batch),
                  'geometry',
                ),
                ...(estimate.finer
                  ? [
                      worked(`at ${estimate.finer.linesPerInch} lines per inch`, 'planned anew at 25.4 / lines', `25.4 / ${estimate.finer.linesPerInch} = ${mm(estimate.finer.interval, 4)}`, duration(estimate.batch + estimate.finer.more), 'geometry'), // prettier-ignore
                    ]
                  : []),
              ]
            : []
        }
      />
      <Reading
        label="run-up each end"
        size="text-[19px]"
        value={estimate ? fixed(estimate.runUp, 1) : '…'}
        unit="mm"
        working={
          estimate
            ? [worked('run-up', 'v² / 2a', `${engrave.speed}² / (2 × ${acceleration})`, mm(estimate.runUp), 'geometry')]
            : []
        }
      />
    </div>
  );
};
