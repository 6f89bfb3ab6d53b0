import { useState } from 'react';
import { api } from '@bistre/contract';
import { cutFromSheet, degrees, effectiveHold, percent, type HoldSettings } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { useFixtures } from '../../data/queries';
import { Select } from '../../parts/fields';
import { FileLinks } from '../../parts/FileLinks';
import { Finding, Part } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { Steps } from '../../parts/Steps';
import type { StationProps } from '../props';
import { BoardSettings, TallThings } from './BoardSettings';
import { BackCheck, CardCheck } from './Findings';
import { FixingFields } from './FixingFields';
import { KerfCheck } from './KerfCheck';
import { LinesReckon } from './LinesFields';
import { LocatorReckon } from './LocatorFields';
import { OwnReckon } from './OwnFields';
import { LongReckon } from './LongReckon';
import { PanelReckon } from './PanelReckon';
import { PhotoReckon } from './PhotoFields';
import { SheetReckon } from './SheetReckon';

const FixtureLine = ({ handle, hold }: { handle: BatchHandle; hold: HoldSettings }) => {
  const { data: fixtures = [] } = useFixtures();
  const { batch } = handle;
  const fitting = fixtures.filter((f) => f.blankId === batch.blank.id).flatMap((f) => f.revisions);
  if (batch.fixture) {
    return (
      <p className="flex items-center justify-between gap-3">
        <span>
          {cutFromSheet(hold.method) ? 'Sheet' : 'Board'}{' '}
          <b>
            {batch.fixture.name} r{batch.fixture.revision}
          </b>{' '}
          on the Shelf since {new Date(batch.fixture.savedAt).toLocaleDateString('en-GB')}.{' '}
          {hold.method === 'sheet'
            ? `${hold.sheet.paper}, bleed ${hold.sheet.bleed} mm.`
            : hold.method === 'panel'
              ? `${hold.panel.width} × ${hold.panel.height} mm, both faces.`
              : hold.method === 'lines'
                ? `Two ${hold.lines.peg} mm pegs a place, ${hold.boardThickness} mm board.`
                : hold.method === 'locator'
                  ? `For a frame of ${hold.locator.frame.width} × ${hold.locator.frame.depth} mm.`
                  : `${hold.clearance.school === 'own' ? `${hold.clearance.total} mm clearance` : hold.clearance.school}, ${hold.boardThickness} mm board.`}
        </span>
        <button
          className="act shrink-0"
          onClick={() => void handle.act(api.useFixture, { body: { revisionId: null } })}
        >
          {cutFromSheet(hold.method) ? 'Change the sheet' : 'Change the board'}
        </button>
      </p>
    );
  }
  return (
    <p className="flex flex-wrap items-end gap-3">
      <button className="act act-main" onClick={() => void handle.act(api.saveFixture)}>
        {cutFromSheet(hold.method) ? 'Save the sheet to the Shelf' : 'Save the board to the Shelf'}
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

/** Hold: the board that holds the pieces, computed from their sizes. */
export const HoldStation = ({ handle, shown }: StationProps) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const { board, pocket, heights, fixings } = reckoning;
  const hold = effectiveHold(batch);
  const [more, setMore] = useState(false);
  const update = (part: Partial<HoldSettings>): void => handle.update('hold', { ...batch.setup.hold, ...part });
  return (
    <>
      <Part
        name="Measure"
        aside={
          hold.method === 'photo' || hold.method === 'long' ? undefined : (
            <button className="link" onClick={() => setMore(!more)}>
              {more
                ? 'fewer settings'
                : `${fixings.pins ? `${fixings.pins.places.length} pins` : 'pins'}, stand, tall things`}
            </button>
          )
        }
      >
        {batch.fixture ? (
          <FixtureLine handle={handle} hold={hold} />
        ) : (
          <>
            <BoardSettings handle={handle} hold={batch.setup.hold} update={update} />
          </>
        )}
        {more && (
          <div className="mt-3 grid grid-cols-2 gap-3 border-t border-hairline pt-2">
            {!batch.fixture && <TallThings hold={batch.setup.hold} update={update} />}
            <FixingFields handle={handle} shown={shown} />
          </div>
        )}
        {reckoning.outOfDate.map((reason) => (
          <div key={reason} className="mt-2">
            <Finding tone="attention">Out of date. {reason}</Finding>
          </div>
        ))}
        {reckoning.boardProblem && hold.method !== 'photo' && (
          <div className="mt-2">
            <Finding tone="out">{reckoning.boardProblem.message}</Finding>
          </div>
        )}
      </Part>
      <Part name="Reckon">
        {hold.method === 'sheet' ? (
          <SheetReckon handle={handle} shown={shown} hold={hold} />
        ) : hold.method === 'lines' ? (
          <LinesReckon shown={shown} hold={hold} cut={batch.fixture !== null} />
        ) : hold.method === 'locator' ? (
          <LocatorReckon shown={shown} />
        ) : hold.method === 'photo' ? (
          <PhotoReckon handle={handle} shown={shown} />
        ) : hold.method === 'marked' ? (
          <OwnReckon shown={shown} hold={hold} />
        ) : hold.method === 'long' ? (
          <LongReckon handle={handle} shown={shown} />
        ) : hold.method === 'panel' ? (
          <PanelReckon shown={shown} hold={hold} />
        ) : (
          <div className="grid grid-cols-[1.5fr_1.1fr_1fr] gap-x-2 gap-y-3">
            <Reading
              label="pocket"
              value={`${pocket.length.toFixed(2)} × ${pocket.width.toFixed(2)}`}
              size="text-[16px] lg:text-[17px]"
              unit="mm"
              working={pocket.working}
            />
            <Reading
              label="a piece drops in"
              value={percent(pocket.fits)}
              size="text-[16px] lg:text-[17px]"
              tone={pocket.fits > 0.98 ? 'inside' : pocket.fits > 0.9 ? 'attention' : 'out'}
              working={pocket.working}
            />
            <Reading
              label="float"
              value={`±${Math.max(pocket.floatX, pocket.floatY).toFixed(2)}`}
              size="text-[16px] lg:text-[17px]"
              unit="mm"
              note={
                pocket.yaw !== null
                  ? `yaw ±${degrees(pocket.yaw, 2)}`
                  : pocket.byEye === null
                    ? 'free to turn'
                    : `by eye ±${degrees(pocket.byEye, 2)}`
              }
              working={pocket.working}
            />
            <Reading
              label="pieces a load"
              value={String(board?.slots.length ?? 0)}
              size="text-[16px] lg:text-[17px]"
              unit={board ? `in ${board.columns} × ${board.rows}` : ''}
              note={`${reckoning.planned.length} loads: ${reckoning.planned.slice(0, 4).join(' + ')}${reckoning.planned.length > 4 ? ' …' : ''}`}
            />
            <Reading
              label="bed for focus"
              value={Math.abs(heights.bedMove).toFixed(2)}
              size="text-[16px] lg:text-[17px]"
              unit={`mm ${heights.bedMove >= 0 ? 'down' : 'up'}`}
              working={heights.working}
            />
            <Reading
              label="board"
              value={board ? `${board.width} × ${board.height}` : '–'}
              size="text-[16px] lg:text-[17px]"
              unit="mm"
              note={`wall ${board?.wall.toFixed(1) ?? '–'}, kerf ${batch.machine.profile.kerf.toFixed(2)}`}
            />
          </div>
        )}
        {reckoning.warnings
          .filter((w) => w.station === 'hold')
          .map((w) => (
            <div key={w.message} className="mt-2">
              <Finding tone="out">{w.message}</Finding>
            </div>
          ))}
      </Part>
      <Part name="Do">
        {hold.method === 'marked' && (
          <p className="text-soft">
            Nothing is made for it: the piece brings its marks. Aim at them at the Place station.
          </p>
        )}
        {hold.method === 'photo' && (
          <FileLinks
            batchId={batch.id}
            files={
              hold.photo.marksOn === 'bed'
                ? [
                    ['marks.gcode', 'G-code'],
                    ['marks.svg', 'SVG'],
                    ['walk.gcode', 'Walk file'],
                  ]
                : hold.photo.marksOn === 'sheet'
                  ? [
                      ['marks.pdf', 'Sheet of marks, PDF'],
                      ['walk.gcode', 'Walk file'],
                    ]
                  : [['walk.gcode', 'Walk file']]
            }
            label="Camera’s marks, and the outlines"
          />
        )}
        {!batch.fixture && hold.method !== 'long' && hold.method !== 'marked' && hold.method !== 'photo' && (
          <FixtureLine handle={handle} hold={hold} />
        )}
        {hold.method === 'sheet' && hold.sheet.traced ? null : hold.method === 'sheet' ? (
          <FileLinks batchId={batch.id} files={[['print.pdf', 'Sheet, PDF']]} label="To print, true size" />
        ) : hold.method === 'locator' ? (
          <FileLinks
            batchId={batch.id}
            files={[
              ['locator.csv', 'Cut list'],
              ['locator.svg', 'Drawing'],
              ['grid.gcode', 'Grid, G-code'],
              ['grid.svg', 'SVG'],
              ['grid.dxf', 'DXF'],
              ['walk.gcode', 'Walk file'],
            ]}
            label="Locator board"
          />
        ) : ['panel', 'long', 'marked', 'photo'].includes(hold.method) ? null : (
          <FileLinks
            batchId={batch.id}
            files={[
              ['board.svg', 'SVG'],
              ['board.dxf', 'DXF'],
              ['board.gcode', 'G-code'],
            ]}
            label="Board as cut file"
          />
        )}
        {hold.method === 'lines' && (
          <FileLinks
            batchId={batch.id}
            files={[
              ['card.svg', 'SVG'],
              ['card.gcode', 'G-code'],
            ]}
            label="Trial in card"
          />
        )}
        <Steps handle={handle} steps={shown.steps.filter((s) => s.id !== 'hold.save')} station="hold" part="do" />
      </Part>
      <Part name="Check">
        {!cutFromSheet(hold.method) && hold.method !== 'locator' && <KerfCheck handle={handle} />}
        {hold.method === 'lines' && <CardCheck handle={handle} />}
        {hold.method === 'locator' && <BackCheck handle={handle} />}
        <Steps handle={handle} steps={shown.steps} station="hold" part="check" />
      </Part>
    </>
  );
};
