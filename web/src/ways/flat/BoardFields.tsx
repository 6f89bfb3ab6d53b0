import { useState, type ReactNode } from 'react';
import type { BoardSettings } from '@bistre/core';
import { Choice, MeasureField, Select, TextField, Tick } from '../../parts/fields';
import { CornerSelect } from './CornerSelect';

const MARK_WORDS = [
  ['2', '2, no check'],
  ['3', '3, one to check'],
  ['4', '4, a misread one is named'],
  ['5', '5'],
  ['6', '6'],
] as const;

/** The settings of a board: its size, name, walls, order and marks. */
export const BoardFields = ({
  hold,
  update,
  places = 'pockets',
  notches = true,
  warp,
}: {
  hold: BoardSettings;
  update: (part: Partial<BoardSettings>) => void;

  /** What the board has for its pieces. */
  places?: 'pockets' | 'places';
  /** Whether fingers need notches to lift pieces out. */
  notches?: boolean;
  /** How far the board is bowed. */
  warp: ReactNode;
}) => {
  const [more, setMore] = useState(false);
  return (
    <>
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
              label={places}
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
            label={places === 'places' ? 'Room between places' : 'Wall between pockets'}
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
          {warp}
          <Select
            label="Pieces lie"
            value={hold.turned}
            options={[
              ['auto', 'as fits best'],
              ['along', 'along the board'],
              ['across', 'across the board'],
            ]}
            onChange={(turned) => update({ turned: turned as BoardSettings['turned'] })}
          />
          {notches && (
            <Select
              label="Finger notches"
              value={hold.notches}
              options={[
                ['one', 'one, front side'],
                ['both', 'both sides'],
                ['none', 'none'],
              ]}
              onChange={(notches) => update({ notches: notches as BoardSettings['notches'] })}
            />
          )}
          <CornerSelect label="Slot 1 at" order={hold.order} onChange={(order) => update({ order })} />
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
        {more ? 'fewer settings' : `more: ${notches ? 'walls, notches' : `room between ${places}`}, warp, order, marks`}
      </button>
    </>
  );
};
