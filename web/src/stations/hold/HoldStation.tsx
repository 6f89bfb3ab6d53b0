import { useState } from 'react';
import { api, type Setup } from '@bistre/contract';
import { adopt, WAYS, waysFor, type WayId } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { useFixtures } from '../../data/queries';
import { Select } from '../../parts/fields';
import { Finding, Part } from '../../parts/Part';
import { Steps } from '../../parts/Steps';
import type { HoldPages, StationProps } from '../../ways/pages';
import { FixingFields } from './FixingFields';
import { TallThings } from './TallThings';

/** What is kept on the Shelf: saved there, or taken from there. */
const FixtureLine = ({
  handle,
  kept: { noun, words },
}: {
  handle: BatchHandle;
  kept: NonNullable<HoldPages['kept']>;
}) => {
  const { data: fixtures = [] } = useFixtures();
  const { batch } = handle;
  const fitting = fixtures.filter((f) => f.blankId === batch.blank.id).flatMap((f) => f.revisions);
  if (batch.fixture) {
    return (
      <p className="flex items-center justify-between gap-3">
        <span>
          {noun === 'sheet' ? 'Sheet' : 'Board'}{' '}
          <b>
            {batch.fixture.name} r{batch.fixture.revision}
          </b>{' '}
          on the Shelf since {new Date(batch.fixture.savedAt).toLocaleDateString('en-GB')}. {words(batch)}
        </span>
        <button
          className="act shrink-0"
          onClick={() => void handle.act(api.useFixture, { body: { revisionId: null } })}
        >
          Change the {noun}
        </button>
      </p>
    );
  }
  return (
    <p className="flex flex-wrap items-end gap-3">
      <button className="act act-main" onClick={() => void handle.act(api.saveFixture)}>
        Save the {noun} to the Shelf
      </button>
      {fitting.length > 0 && (
        <span className="w-56">
          <Select
            label="or take one from the Shelf"
            value=""
            options={[['', 'choose …'], ...fitting.map((r) => [r.id, `${r.name} r${r.revision}`] as const)]}
            onChange={(revisionId) => {
              if (revisionId) void handle.act(api.useFixture, { body: { revisionId } });
            }}
          />
        </span>
      )}
    </p>
  );
};

/** Hold: what holds the pieces, reckoned from their sizes. */
export const HoldStation = ({ handle, shown, pages }: StationProps) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const [more, setMore] = useState(false);
  if (!pages.hold) return null;
  const { Settings, Reckon, Files, Check, kept, aids, saysProblem } = pages.hold;
  const props = { handle, shown };
  const pins = reckoning.fixings.pins?.places.length;
  return (
    <>
      <Part
        name="Measure"
        aside={
          aids ? (
            <button className="link" onClick={() => setMore(!more)}>
              {more ? 'fewer settings' : `${pins === undefined ? 'pins' : `${pins} pins`}, stand, tall things, axes`}
            </button>
          ) : undefined
        }
      >
        {batch.fixture && kept ? (
          <FixtureLine handle={handle} kept={kept} />
        ) : (
          <div className="grid grid-cols-2 gap-x-3 gap-y-2">
            <div className="col-span-2">
              <Select
                label="Held by"
                value={batch.setup.held.way}
                options={waysFor(batch.blank.spec.shape)}
                onChange={(way) => handle.update('held', adopt(batch.setup.held, WAYS[way as WayId]) as Setup['held'])}
              />
            </div>
            <Settings {...props} />
          </div>
        )}
        {more && (
          <div className="mt-3 grid grid-cols-2 gap-3 border-t border-hairline pt-2">
            {!batch.fixture && <TallThings handle={handle} />}
            <FixingFields handle={handle} shown={shown} />
          </div>
        )}
        {reckoning.outOfDate.map((reason) => (
          <div key={reason} className="mt-2">
            <Finding tone="attention">Out of date. {reason}</Finding>
          </div>
        ))}
        {reckoning.boardProblem && !saysProblem && (
          <div className="mt-2">
            <Finding tone="out">{reckoning.boardProblem.message}</Finding>
          </div>
        )}
      </Part>
      <Part name="Reckon">
        <Reckon {...props} />
        {reckoning.warnings
          .filter((w) => w.station === 'hold')
          .map((w) => (
            <div key={w.message} className="mt-2">
              <Finding tone="out">{w.message}</Finding>
            </div>
          ))}
      </Part>
      <Part name="Do">
        {!batch.fixture && kept && <FixtureLine handle={handle} kept={kept} />}
        {Files && <Files {...props} />}
        <Steps handle={handle} steps={shown.steps.filter((s) => s.id !== 'hold.save')} station="hold" part="do" />
      </Part>
      <Part name="Check">
        {Check && <Check {...props} />}
        <Steps handle={handle} steps={shown.steps} station="hold" part="check" />
      </Part>
    </>
  );
};
