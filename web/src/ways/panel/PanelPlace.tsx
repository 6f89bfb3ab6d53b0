import { api } from '@bistre/contract';
import { TURNED } from '@bistre/core';
import { Finding, Part } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { Steps } from '../../parts/Steps';
import type { StationProps } from '../pages';
import { SimBurn } from '../../stations/sim/SimBurn';

/** Place, as long as a sheet has no marks to aim at: side one, and pieces that turn in their own holes. */
export const PanelPlace = ({ handle, shown }: Pick<StationProps, 'handle' | 'shown'>) => {
  const { batch } = handle;
  const { reckoning, steps } = shown;
  const { face, board, run } = reckoning;
  const front = face.side === 'front';
  const marks = board?.marks.length ?? 0;
  return (
    <>
      <Part name="Measure">
        {run.openLoad === null ? (
          <p>
            <button
              className="act act-main"
              disabled={!batch.fixture || batch.roster.length === 0}
              onClick={() => void handle.act(api.startLoad)}
            >
              Take a sheet: {Math.min(run.waiting.length, board?.slots.length ?? 0)} pieces
            </button>{' '}
            <span className="ml-2 text-soft">
              {!batch.fixture
                ? 'save the sheet at the Hold station first'
                : batch.roster.length === 0
                  ? 'bring in the roster at the Run station first'
                  : 'from then on its names stay in their places'}
            </span>
          </p>
        ) : (
          <p>
            Sheet {run.openLoad}: {reckoning.onTheBoard.length} pieces, side {front ? 'one' : 'two'} up.
          </p>
        )}
        <p className="mt-2 text-soft">
          {front
            ? marks > 0
              ? `Side one needs no aiming: its file cuts the ${marks} marks that side two is aimed by.`
              : 'Side one needs no aiming, and the sheet is not moved afterwards.'
            : 'Nothing is aimed at: the sheet lies where its holes were cut.'}
        </p>
      </Part>
      <Part name="Reckon">
        <div className="grid grid-cols-2 gap-3">
          <Reading
            label="side two to side one, at 95 %"
            value={`± ${reckoning.budget.predicted.toFixed(2)}`}
            unit="mm"
            working={reckoning.budget.working}
            note={marks > 0 ? 'once its marks are read' : 'play of a piece in its own hole'}
          />
          <Reading
            label="cut by this file"
            value={front ? (marks > 0 ? String(marks) : String(reckoning.onTheBoard.length)) : '0'}
            unit={front ? (marks > 0 ? 'marks' : 'pieces') : 'pieces'}
          />
        </div>
        {reckoning.warnings
          .filter((w) => w.station === 'hold' || w.station === 'run')
          .slice(0, 4)
          .map((w) => (
            <div key={w.message} className="mt-2">
              <Finding tone="out">{w.message}</Finding>
            </div>
          ))}
      </Part>
      <Part name="Do">
        <Steps
          handle={handle}
          steps={steps.filter((s) => !s.id.startsWith('place.mark') && s.id !== 'place.reread')}
          station="place"
          part="do"
          withFiles
        />
        {front && run.openLoad !== null && <SimBurn handle={handle} />}
        {front && run.openLoad !== null && (
          <p className="mt-2">
            <button
              className="act act-main"
              onClick={() => void handle.act(api.tick, { params: { step: TURNED }, body: { done: true } })}
            >
              {marks > 0 ? 'Side one is burned, the sheet is turned over' : 'Side one is burned, the pieces are turned'}
            </button>
          </p>
        )}
      </Part>
      <Part name="Check">
        <Steps
          handle={handle}
          steps={steps.filter((s) => s.id !== 'place.reread' && s.id !== (front ? 'place.walk' : 'place.walk-one'))}
          station="place"
          part="check"
          withFiles
        />
      </Part>
    </>
  );
};
