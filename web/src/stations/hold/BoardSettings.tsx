import { useState } from 'react';
import type { HoldMethod, HoldSettings } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { CornerSelect } from './CornerSelect';
import { LinesFields } from './LinesFields';
import { LocatorFields } from './LocatorFields';
import { LongFields } from './LongFields';
import { OwnFields } from './OwnFields';
import { PanelFields } from './PanelFields';
import { PhotoFields } from './PhotoFields';
import { SheetFields } from './SheetFields';
import { Choice, MeasureField, Select, TextField, Tick } from '../../parts/fields';

/** What stands above the bed and may meet the head. */
export const TallThings = ({ hold, update }: { hold: HoldSettings; update: (part: Partial<HoldSettings>) => void }) => (
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

/** The settings of pockets or a stop corner. */
const PocketSettings = ({ hold, update }: { hold: HoldSettings; update: (part: Partial<HoldSettings>) => void }) => {
  const [more, setMore] = useState(false);
  return (
    <>
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
      ) : hold.method === 'lines' ? (
        <LinesFields hold={hold} update={update} />
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
                kind === 'count'
                  ? { kind, count: 24 }
                  : kind === 'board'
                    ? { kind, width: 400, height: 300 }
                    : { kind },
            })
          }
        />
        {hold.extent.kind === 'count' && (
          <div className="w-24">
            <MeasureField
              kind="count"
              label={hold.method === 'lines' ? 'places' : 'pockets'}
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
      <TextField label="Name engraved on it" value={hold.name} most={24} onCommit={(name) => update({ name })} />
      {more ? (
        <>
          <MeasureField
            label={hold.method === 'lines' ? 'Room between places' : 'Wall between pockets'}
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
          {hold.method !== 'lines' && (
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
          )}
          <CornerSelect label="Slot 1 at" hold={hold} update={update} />
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
        </>
      ) : null}
      <button className="link col-span-2 justify-self-start text-[13px]" onClick={() => setMore(!more)}>
        {more
          ? 'fewer settings'
          : `more: ${hold.method === 'lines' ? 'room between places' : 'walls, notches'}, warp, order, marks`}
      </button>
    </>
  );
};

const WAYS: readonly (readonly [HoldMethod, string])[] = [
  ['nest', 'pockets: drop in, quick to load'],
  ['fence', 'stop corner: no float, one size'],
  ['lines', 'pegs and witness lines: odd shapes'],
  ['locator', 'locator board: an open frame on stops'],
  ['sheet', 'printed sheet, cut out'],
  ['panel', 'one sheet, both faces, cut out'],
  ['long', 'longer than the bed, in segments'],
  ['marked', 'its own marks: drilled or printed pieces'],
  ['feed', 'feeder: strips, rows, long boards'],
  ['photo', 'lying anywhere, by photograph'],
];

/** The settings of a board or a sheet; shown shut while a saved revision is in use. */
export const BoardSettings = ({
  handle,
  hold,
  update,
}: {
  handle: BatchHandle;
  hold: HoldSettings;
  update: (part: Partial<HoldSettings>) => void;
}) => (
  <div className="grid grid-cols-2 gap-x-3 gap-y-2">
    <div className="col-span-2">
      <Select
        label="Held by"
        value={hold.method}
        options={WAYS}
        onChange={(method) => update({ method: method as HoldMethod })}
      />
    </div>
    {hold.method === 'sheet' ? (
      <SheetFields hold={hold} update={update} />
    ) : hold.method === 'long' ? (
      <LongFields handle={handle} hold={hold} update={update} />
    ) : hold.method === 'marked' ? (
      <OwnFields handle={handle} hold={hold} update={update} />
    ) : hold.method === 'locator' ? (
      <LocatorFields hold={hold} update={update} />
    ) : hold.method === 'photo' ? (
      <PhotoFields handle={handle} hold={hold} update={update} />
    ) : hold.method === 'panel' ? (
      <PanelFields hold={hold} update={update} />
    ) : (
      <PocketSettings hold={hold} update={update} />
    )}
  </div>
);
