import { api, type FileName } from '@bistre/contract';
import { segmentTick } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { FileLinks } from '../../parts/FileLinks';
import { BurnCaution, Part } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { Steps } from '../../parts/Steps';
import type { StationProps } from '../pages';
import { SimBurn } from '../../stations/sim/SimBurn';

/** Whether a step belongs to the segment that is on, or to none. */
export const ofSegment = (step: string, current: number | undefined): boolean => {
  const mark = /^place\.mark-(\d+)$/.exec(step);
  if (mark && current !== undefined) return Math.ceil(Number(mark[1]) / 2) === current - 1;
  const segment = /segment-(\d+)/.exec(step);
  return !segment || Number(segment[1]) === current;
};

/** The file of the part of a long piece that is on, and the word that it is burned. */
export const PartBurn = ({
  handle,
  part,
  index,
  next,
  more = [],
  caution = 'Local rules and the maker’s instructions come first.',
}: {
  handle: BatchHandle;
  part: string;
  /** From 1. */
  index: number;
  /** What becomes of the work then; nothing after the last. */
  next: string;
  more?: readonly (readonly [FileName, string])[];
  caution?: string;
}) => (
  <>
    <FileLinks
      batchId={handle.batch.id}
      files={[['load.gcode', 'G-code'], ['load.svg', 'SVG'], ['load.dxf', 'DXF'], ...more]}
      label={`${part} ${index}`}
    />
    <BurnCaution>{caution}</BurnCaution>
    <SimBurn handle={handle} />
    <p className="mt-2">
      <button
        className="act act-main"
        onClick={() => void handle.act(api.tick, { params: { step: segmentTick(index) }, body: { done: true } })}
      >
        {part} {index} is burned{next}
      </button>
    </p>
  </>
);

/** The segment that is on. */
export const SegmentBurn = ({ handle, shown }: Pick<StationProps, 'handle' | 'shown'>) => {
  const { run, own } = shown.reckoning;
  const { long } = own;
  if (!long?.plan || run.openLoad === null || long.burned) return null;
  const last = long.current === long.plan.segments.length;
  return <PartBurn handle={handle} part="Segment" index={long.current} next={last ? '' : ', the work is moved on'} />;
};

/** Place, while a long piece has nothing to aim at: before its first segment, and when all are burned. */
export const SegmentPlace = ({ handle, shown }: Pick<StationProps, 'handle' | 'shown'>) => {
  const { batch } = handle;
  const { run } = shown.reckoning;
  const { long } = shown.reckoning.own;
  const n = long?.plan?.segments.length ?? 0;
  return (
    <>
      <Part name="Measure">
        {run.openLoad === null ? (
          <p>
            <button className="act act-main" disabled={n === 0} onClick={() => void handle.act(api.startLoad)}>
              Take the work
            </button>{' '}
            <span className="ml-2 text-soft">from then on its seams stay where they are</span>
          </p>
        ) : (
          <p>
            Work {run.openLoad} is on.{' '}
            {long?.burned
              ? 'All its segments are burned; judge it at the Run station.'
              : 'Its first segment needs no aiming: it makes the marks of the next.'}
          </p>
        )}
      </Part>
      <Part name="Reckon">
        <div className="grid grid-cols-2 gap-3">
          <Reading label="segment" value={long?.burned ? `${n}` : String(long?.current ?? 1)} unit={`of ${n}`} />
          <Reading
            label="far end, at 95 %"
            value={`± ${shown.reckoning.budget.predicted.toFixed(2)}`}
            unit="mm"
            working={shown.reckoning.budget.working}
          />
        </div>
      </Part>
      <Part name="Do">
        <Steps
          handle={handle}
          steps={shown.steps.filter((s) => ofSegment(s.id, long?.current))}
          station="place"
          part="do"
        />
        <SegmentBurn handle={handle} shown={shown} />
      </Part>
      <Part name="Check">
        <FileLinks batchId={batch.id} files={[['walk.gcode', 'Walk file']]} label="True outline, beam off" />
        <Steps
          handle={handle}
          steps={shown.steps.filter((s) => ofSegment(s.id, long?.current))}
          station="place"
          part="check"
        />
      </Part>
    </>
  );
};
