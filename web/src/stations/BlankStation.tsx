import { besideOf } from '../ways/held';
import { useState } from 'react';
import { degrees, ENOUGH_SAMPLES, fixed, halfAngle, mm, worked, type GoverningSize } from '@bistre/core';
import { Choice } from '../parts/fields';
import { Finding, Part } from '../parts/Part';
import { Reading } from '../parts/Reading';
import { Steps } from '../parts/Steps';
import { BlankForm } from '../views/shelf/BlankForm';
import type { StationProps } from '../ways/pages';
import { Calipers, dimensionsOf } from './blank/Calipers';

const Size = ({ size, label }: { size: GoverningSize; label: string }) => (
  <Reading
    label={`${label} to allow for`}
    value={size.upper.toFixed(2)}
    unit="mm"
    tone={size.assumed ? 'attention' : 'plain'}
    working={size.working}
    note={
      size.assumed
        ? 'assumed'
        : size.stats
          ? `mean\u00a0${size.mean.toFixed(2)} s\u00a0${size.spread.toFixed(3)} n\u00a0${size.stats.n}`
          : 'as it is drawn'
    }
  />
);

/** Blank: measure real pieces; the sizes to allow for follow. */
export const BlankStation = ({ handle, shown }: StationProps) => {
  const { batch } = handle;
  const [editing, setEditing] = useState(false);
  const { sizes, questions } = shown.reckoning;
  const disc = batch.blank.spec.shape.kind === 'disc';
  const { beside, put } = besideOf(handle);
  const { round } = shown.reckoning.own;
  const dimensions = dimensionsOf(batch.blank.spec.shape);
  return (
    <>
      <Part
        name="Measure"
        aside={
          <button className="link" onClick={() => setEditing(true)}>
            shape, zones, holes
          </button>
        }
      >
        <p className="mb-2 text-soft">
          {round
            ? 'Caliper at the widest place; a tape round one piece checks it. A reading and Enter; ten pieces make a sound spread.'
            : 'Caliper, at the middle of each side. A reading and Enter goes on to the next; ten pieces make a sound spread.'}
        </p>
        <Calipers handle={handle} dimensions={dimensions} />
        {questions.map((q) => (
          <div key={q.message} className="mt-2">
            <Finding tone="attention">{q.message}</Finding>
          </div>
        ))}
      </Part>
      <Part name="Reckon">
        <div className="readings">
          {round ? (
            <>
              <Reading
                label="diameter, mean"
                value={round.diameter.mean.toFixed(2)}
                unit="mm"
                tone={round.diameter.assumed ? 'attention' : 'plain'}
                working={[...round.diameter.working, ...round.tapeWorking]}
                note={
                  round.diameter.assumed
                    ? 'assumed'
                    : `s\u00a0${round.diameter.spread.toFixed(3)} n\u00a0${round.diameter.stats?.n}`
                }
              />
              <Reading
                label="circumference"
                value={(Math.PI * round.diameter.mean).toFixed(2)}
                unit="mm"
                working={[
                  worked(
                    'circumference',
                    'π × D',
                    `π × ${fixed(round.diameter.mean)}`,
                    mm(Math.PI * round.diameter.mean),
                    'geometry',
                  ),
                ]}
              />
              <Reading
                label="lean of its side"
                value={degrees(halfAngle(round.shape.profile, round.artFrom, round.artTo), 2)}
                note={`over ${round.artFrom.toFixed(0)} to ${round.artTo.toFixed(0)} mm`}
              />
            </>
          ) : (
            <>
              <Size size={sizes.length} label={disc ? 'diameter' : 'length'} />
              {!disc && <Size size={sizes.width} label="width" />}
              <Size size={sizes.thickness} label="thickness" />
            </>
          )}
        </div>
        <div className="mt-3" hidden={round !== undefined}>
          <Choice
            label="Pieces the pocket must take"
            value={String(beside.coverage)}
            options={[
              ['0.9', '90 %'],
              ['0.95', '95 %'],
              ['0.99', '99 %'],
              ['1', 'all: each is measured'],
            ]}
            onChange={(v) => put({ coverage: Number(v) })}
          />
        </div>
      </Part>
      <Part name="Do">
        <Steps handle={handle} steps={shown.steps} station="blank" part="do" />
      </Part>
      <Part name="Check">
        {dimensions
          .filter((d) => d !== 'tape')
          .every((d) => batch.blank.samples.filter((s) => s.dimension === d).length >= ENOUGH_SAMPLES) ? (
          <Finding tone="inside">The spread comes from real pieces.</Finding>
        ) : (
          <Finding tone="attention">
            Below {ENOUGH_SAMPLES} pieces the catalogue’s ± {batch.blank.spec.catalogueTolerance} mm is assumed; the
            numbers say so.
          </Finding>
        )}
      </Part>
      {editing && <BlankForm blank={batch.blank} onClose={() => setEditing(false)} />}
    </>
  );
};
