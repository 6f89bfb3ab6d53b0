import { useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api } from '@bistre/contract';
import { gaugeStrip, kerfFromGauge, mm, percent, type HoldSettings } from '@bistre/core';
import { call, messageOf } from '../data/api';
import { useFixtures } from '../data/queries';
import { Choice, MeasureField, Select, TextField, Tick } from '../parts/fields';
import { FileLinks } from '../parts/FileLinks';
import { Finding, Part } from '../parts/Part';
import { Reading } from '../parts/Reading';
import { Steps } from '../parts/Steps';
import type { StationProps } from '../views/Workspace';
import type { BatchHandle } from '../data/use-batch';

const EMPTY_ALPHABET = { id: '', name: '', kind: 'stroke' as const, licence: '', glyphs: {}, kern: {} };

/** The gauge strip's answer, typed back: corrects the machine's kerf with today's date. */
export const KerfCheck = ({ handle }: { handle: BatchHandle }) => {
  const client = useQueryClient();
  const { machine, setup } = handle.batch;
  const take = async (slot: number): Promise<void> => {
    const found = kerfFromGauge(gaugeStrip(setup.hold.boardThickness, EMPTY_ALPHABET), slot);
    if (!found) {
      toast.error(`There is no slot ${slot} on the gauge strip.`);
      return;
    }
    try {
      await call(api.saveMachine, {
        params: { id: machine.id },
        body: {
          name: machine.name,
          version: machine.version,
          profile: { ...machine.profile, kerf: found.kerf, kerfMeasuredAt: new Date().toISOString() },
        },
      });
      await client.invalidateQueries({ queryKey: ['batch', handle.batch.id] });
      toast(`Kerf of ${machine.name} is now ${mm(found.kerf)}, measured today.`);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  const measured = machine.profile.kerfMeasuredAt;
  return (
    <div className="grid grid-cols-[1fr_9rem] items-end gap-3">
      <p className="text-[13px]">
        Kerf <b>{machine.profile.kerf.toFixed(2)} mm</b>,{' '}
        {measured ? (
          `measured ${new Date(measured).toLocaleDateString('en-GB')}`
        ) : (
          <span className="text-ochre">assumed</span>
        )}
        . Cut the{' '}
        <a className="link" href={`/api/batches/${handle.batch.id}/files/gauge.svg`}>
          gauge strip
        </a>
        ; which is the narrowest slot its tongue enters?
      </p>
      <MeasureField
        list
        kind="count"
        label="slot, then Enter"
        value={null}
        min={1}
        max={11}
        onCommit={(slot) => void take(slot)}
      />
    </div>
  );
};

const TallThings = ({
  hold,
  update,
  locked,
}: {
  hold: HoldSettings;
  update: (part: Partial<HoldSettings>) => void;
  locked: boolean;
}) => (
  <div className="col-span-2">
    <p className="text-[13px] text-soft">
      Tall things on the bed (magnets, pins, walls): place on the board’s axes, height above the bed
    </p>
    {hold.tallThings.map((thing, i) => {
      const change = (part: Partial<typeof thing>): void =>
        update({ tallThings: hold.tallThings.map((t, k) => (k === i ? { ...t, ...part } : t)) });
      return (
        <div key={i} className="mt-1 grid grid-cols-[1.4fr_1fr_1fr_1fr_1fr_2.2rem] gap-1.5">
          <TextField label="name" value={thing.label} most={40} onCommit={(label) => change({ label })} />
          <MeasureField label="x" value={thing.x} onCommit={(x) => change({ x })} />
          <MeasureField label="y" value={thing.y} onCommit={(y) => change({ y })} />
          <MeasureField
            label="radius"
            value={thing.radius}
            min={0}
            max={500}
            onCommit={(radius) => change({ radius })}
          />
          <MeasureField
            label="height"
            value={thing.height}
            min={0}
            max={1000}
            onCommit={(height) => change({ height })}
          />
          <button
            className="act mt-[1.3rem] justify-center !px-0"
            aria-label={`Take out ${thing.label}`}
            onClick={() => update({ tallThings: hold.tallThings.filter((_, k) => k !== i) })}
          >
            ✕
          </button>
        </div>
      );
    })}
    <button
      className="link mt-1"
      disabled={locked}
      onClick={() =>
        update({ tallThings: [...hold.tallThings, { label: 'magnet', x: 0, y: 0, radius: 8, height: 8 }] })
      }
    >
      add one
    </button>
  </div>
);

const MARK_WORDS = [
  ['2', '2, no check'],
  ['3', '3, one to check'],
  ['4', '4, a misread one is named'],
  ['5', '5'],
  ['6', '6'],
] as const;

/** The settings of a board; shown shut while a saved revision is in use. */
const BoardSettings = ({ hold, update }: { hold: HoldSettings; update: (part: Partial<HoldSettings>) => void }) => (
  <div className="grid grid-cols-2 gap-x-3 gap-y-2">
    <div className="col-span-2">
      <Choice
        label="Held by"
        value={hold.method}
        options={[
          ['nest', 'pockets'],
          ['fence', 'stop corner'],
        ]}
        onChange={(method) => update({ method })}
      />
    </div>
    {hold.method === 'nest' ? (
      <div className="col-span-2 flex items-end gap-3">
        <Choice
          label="Clearance in total (loose is the default: pieces drop in by themselves)"
          value={hold.clearance.school}
          options={[
            ['loose', 'loose 1.0'],
            ['snug', 'snug 0.5'],
            ['own', 'own'],
          ]}
          onChange={(school) => update({ clearance: school === 'own' ? { school, total: 0.7 } : { school } })}
        />
        {hold.clearance.school === 'own' && (
          <div className="w-28">
            <MeasureField
              label="own"
              value={hold.clearance.total}
              min={0}
              max={20}
              onCommit={(total) => update({ clearance: { school: 'own', total } })}
            />
          </div>
        )}
      </div>
    ) : (
      <MeasureField
        label="Room to push"
        value={hold.pushRoom}
        min={0.5}
        max={50}
        onCommit={(pushRoom) => update({ pushRoom })}
        hint="Every piece goes to the front left corner."
      />
    )}
    <div className="col-span-2 flex items-end gap-3">
      <Choice
        label="Board"
        value={hold.extent.kind}
        options={[
          ['count', 'for a count'],
          ['board', 'given size'],
          ['bed', 'fills the bed'],
        ]}
        onChange={(kind) =>
          update({
            extent:
              kind === 'count' ? { kind, count: 24 } : kind === 'board' ? { kind, width: 400, height: 300 } : { kind },
          })
        }
      />
      {hold.extent.kind === 'count' && (
        <div className="w-24">
          <MeasureField
            kind="count"
            label="pockets"
            value={hold.extent.count}
            min={1}
            max={2000}
            onCommit={(count) => update({ extent: { kind: 'count', count } })}
          />
        </div>
      )}
    </div>
    {hold.extent.kind === 'board' && (
      <>
        <MeasureField
          label="Board width"
          value={hold.extent.width}
          min={60}
          max={5000}
          onCommit={(width) =>
            update({ extent: { ...(hold.extent as { kind: 'board'; width: number; height: number }), width } })
          }
        />
        <MeasureField
          label="Board height"
          value={hold.extent.height}
          min={40}
          max={5000}
          onCommit={(height) =>
            update({ extent: { ...(hold.extent as { kind: 'board'; width: number; height: number }), height } })
          }
        />
      </>
    )}
    <MeasureField
      label="Board thickness"
      value={hold.boardThickness}
      min={0.3}
      max={50}
      onCommit={(boardThickness) => update({ boardThickness })}
    />
    <MeasureField
      label="Wall between pockets"
      value={hold.wall}
      min={0}
      max={200}
      onCommit={(wall) => update({ wall })}
      hint={
        hold.wall < Math.max(hold.boardThickness, 2)
          ? `at least ${Math.max(hold.boardThickness, 2)} mm is used`
          : undefined
      }
    />
    <MeasureField
      label="Warp of the board"
      value={hold.boardWarp}
      min={0}
      max={50}
      onCommit={(boardWarp) => update({ boardWarp })}
    />
    <TextField label="Name engraved on it" value={hold.name} most={24} onCommit={(name) => update({ name })} />
    <Select
      label="Pieces lie"
      value={hold.turned}
      options={[
        ['auto', 'as fits best'],
        ['along', 'along the board'],
        ['across', 'across the board'],
      ]}
      onChange={(turned) => update({ turned: turned as HoldSettings['turned'] })}
    />
    <Select
      label="Finger notches"
      value={hold.notches}
      options={[
        ['one', 'one, front side'],
        ['both', 'both sides'],
        ['none', 'none'],
      ]}
      onChange={(notches) => update({ notches: notches as HoldSettings['notches'] })}
    />
    <Select
      label="Slot 1 at"
      value={hold.order.corner}
      options={[
        ['back-left', 'back left'],
        ['back-right', 'back right'],
        ['front-left', 'front left'],
        ['front-right', 'front right'],
      ]}
      onChange={(corner) => update({ order: { ...hold.order, corner: corner as HoldSettings['order']['corner'] } })}
    />
    <Select
      label="Filled by"
      value={`${hold.order.first}${hold.order.serpentine ? '-serpentine' : ''}`}
      options={[
        ['rows', 'rows'],
        ['columns', 'columns'],
        ['rows-serpentine', 'rows, there and back'],
        ['columns-serpentine', 'columns, there and back'],
      ]}
      onChange={(v) =>
        update({
          order: {
            ...hold.order,
            first: v.startsWith('rows') ? 'rows' : 'columns',
            serpentine: v.endsWith('serpentine'),
          },
        })
      }
    />
    <Select
      label="Marks"
      value={String(hold.marks)}
      options={MARK_WORDS}
      onChange={(marks) => update({ marks: Number(marks) })}
    />
    <Tick
      label="Slot numbers in the walls"
      checked={hold.slotNumbers}
      onChange={(slotNumbers) => update({ slotNumbers })}
    />
  </div>
);

const FixtureLine = ({ handle, hold }: { handle: BatchHandle; hold: HoldSettings }) => {
  const { data: fixtures = [] } = useFixtures();
  const { batch } = handle;
  const fitting = fixtures.filter((f) => f.blankId === batch.blank.id).flatMap((f) => f.revisions);
  if (batch.fixture) {
    return (
      <p className="flex items-center justify-between gap-3">
        <span>
          Board{' '}
          <b>
            {batch.fixture.name} r{batch.fixture.revision}
          </b>{' '}
          on the Shelf since {new Date(batch.fixture.savedAt).toLocaleDateString('en-GB')}.{' '}
          {hold.clearance.school === 'own' ? `${hold.clearance.total} mm clearance` : hold.clearance.school},{' '}
          {hold.boardThickness} mm board.
        </span>
        <button
          className="act shrink-0"
          onClick={() => void handle.act(api.useFixture, { body: { revisionId: null, version: batch.version } })}
        >
          Change the board
        </button>
      </p>
    );
  }
  return (
    <p className="flex flex-wrap items-end gap-3">
      <button className="act act-main" onClick={() => void handle.act(api.saveFixture)}>
        Save the board to the Shelf
      </button>
      {fitting.length > 0 && (
        <span className="w-56">
          <Select
            label="or take one from the Shelf"
            value=""
            options={[['', 'choose …'], ...fitting.map((r) => [r.id, `${r.name} r${r.revision}`] as const)]}
            onChange={(revisionId) => {
              if (revisionId) void handle.act(api.useFixture, { body: { revisionId, version: batch.version } });
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
  const { board, pocket, heights } = reckoning;
  const hold = batch.fixture?.hold ?? batch.setup.hold;
  const [more, setMore] = useState(false);
  const update = (part: Partial<HoldSettings>): void => handle.update('hold', { ...batch.setup.hold, ...part });
  return (
    <>
      <Part
        name="Measure"
        aside={
          batch.fixture ? undefined : (
            <button className="link" onClick={() => setMore(!more)}>
              {more ? 'fewer settings' : 'heights and tall things'}
            </button>
          )
        }
      >
        {batch.fixture ? (
          <FixtureLine handle={handle} hold={hold} />
        ) : (
          <>
            <BoardSettings hold={batch.setup.hold} update={update} />
            {more && (
              <div className="mt-2 grid grid-cols-2 gap-3">
                <TallThings hold={batch.setup.hold} update={update} locked={false} />
              </div>
            )}
          </>
        )}
        {reckoning.outOfDate.map((reason) => (
          <div key={reason} className="mt-2">
            <Finding tone="attention">Out of date. {reason}</Finding>
          </div>
        ))}
        {reckoning.boardProblem && (
          <div className="mt-2">
            <Finding tone="out">{reckoning.boardProblem.message}</Finding>
          </div>
        )}
      </Part>
      <Part name="Reckon">
        <div className="grid grid-cols-3 gap-x-3 gap-y-3">
          <Reading
            label="pocket"
            value={`${pocket.length.toFixed(2)} × ${pocket.width.toFixed(2)}`}
            size="text-[17px]"
            unit="mm"
            working={pocket.working}
          />
          <Reading
            label="a piece drops in"
            value={percent(pocket.fits)}
            size="text-[17px]"
            tone={pocket.fits > 0.98 ? 'inside' : pocket.fits > 0.9 ? 'attention' : 'out'}
            working={pocket.working}
          />
          <Reading
            label="float, greatest yaw"
            value={`±${Math.max(pocket.floatX, pocket.floatY).toFixed(2)}`}
            size="text-[17px]"
            unit={pocket.yaw === null ? 'mm, free to turn' : `mm, ±${((pocket.yaw * 180) / Math.PI).toFixed(2)}°`}
            working={pocket.working}
          />
          <Reading
            label="pieces a load"
            value={String(board?.slots.length ?? 0)}
            size="text-[17px]"
            unit={board ? `in ${board.columns} × ${board.rows}` : ''}
            note={`${reckoning.planned.length} loads: ${reckoning.planned.slice(0, 4).join(' + ')}${reckoning.planned.length > 4 ? ' …' : ''}`}
          />
          <Reading
            label="bed move for focus"
            value={Math.abs(heights.bedMove).toFixed(2)}
            size="text-[17px]"
            unit={`mm ${heights.bedMove >= 0 ? 'down' : 'up'}`}
            working={heights.working}
          />
          <Reading
            label="board"
            value={board ? `${board.width} × ${board.height}` : '–'}
            size="text-[17px]"
            unit="mm"
            note={`wall ${board?.wall.toFixed(1) ?? '–'}, kerf ${batch.machine.profile.kerf.toFixed(2)}`}
          />
        </div>
        {reckoning.warnings
          .filter((w) => w.station === 'hold')
          .map((w) => (
            <div key={w.message} className="mt-2">
              <Finding tone="out">{w.message}</Finding>
            </div>
          ))}
      </Part>
      <Part name="Do">
        {!batch.fixture && <FixtureLine handle={handle} hold={hold} />}
        <FileLinks
          batchId={batch.id}
          files={[
            ['board.svg', 'SVG'],
            ['board.dxf', 'DXF'],
            ['board.gcode', 'G-code'],
          ]}
          label="Board as cut file"
        />
        <Steps handle={handle} steps={shown.steps} station="hold" part="do" />
      </Part>
      <Part name="Check">
        <KerfCheck handle={handle} />
        <Steps handle={handle} steps={shown.steps} station="hold" part="check" />
      </Part>
    </>
  );
};
