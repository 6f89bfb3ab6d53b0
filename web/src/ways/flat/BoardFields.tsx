import { useState, type ReactNode } from 'react';
import type { BoardSettings, FillOrder } from '@bistre/core';
import { Choice, Field, Select, usePart } from '../../parts/fields';

const MARK_WORDS: Readonly<Record<string, string>> = {
  '2': '2, no check',
  '3': '3, one to check',
  '4': '4, a misread one is named',
};

/** How many marks, with what more of them tell. */
export const MarksSelect = ({
  most = 6,
  words = MARK_WORDS,
}: {
  most?: number;
  words?: Readonly<Record<string, string>>;
}) => {
  const [marks, put] = usePart<number>('marks');
  return (
    <Select
      label="Marks"
      value={String(marks)}
      options={Array.from({ length: most - 1 }, (_, i) => String(i + 2)).map((n) => [n, words[n] ?? n] as const)}
      onChange={(n) => put(Number(n))}
    />
  );
};

const ORDERS = [
  ['rows', 'rows'],
  ['columns', 'columns'],
  ['rows-serpentine', 'rows, there and back'],
  ['columns-serpentine', 'columns, there and back'],
] as const;

const OrderFields = () => {
  const [order, put] = usePart<FillOrder>('order');
  return (
    <>
      <Field at="order.corner" />
      <Select
        label="Filled by"
        value={`${order.first}${order.serpentine ? '-serpentine' : ''}`}
        options={ORDERS}
        onChange={(v) =>
          put({ ...order, first: v.startsWith('rows') ? 'rows' : 'columns', serpentine: v.endsWith('serpentine') })
        }
      />
    </>
  );
};

type Extent = BoardSettings['extent'];
const freshExtent = (kind: Extent['kind']): Extent => {
  switch (kind) {
    case 'count':
      return { kind, count: 24 };
    case 'board':
      return { kind, width: 400, height: 300 };
    case 'grid':
      return { kind, columns: 4, rows: 6 };
    case 'bed':
      return { kind };
  }
};

/** How large the board is: for a count, given, or as large as the bed. */
const ExtentFields = ({ places }: { places: string }) => {
  const [extent, put] = usePart<Extent>('extent');
  return (
    <>
      <div className="col-span-2 flex items-end gap-3">
        <Choice
          label="Board"
          value={extent.kind}
          options={[
            ['count', 'for a count'],
            ['grid', 'rows × columns'],
            ['board', 'given size'],
            ['bed', 'fills the bed'],
          ]}
          onChange={(kind) => put(freshExtent(kind))}
        />
        {extent.kind === 'count' && (
          <div className="w-24">
            <Field at="extent.count" label={places} />
          </div>
        )}
      </div>
      {extent.kind === 'grid' && (
        <>
          <Field at="extent.columns" />
          <Field at="extent.rows" />
        </>
      )}
      {extent.kind === 'board' && (
        <>
          <Field at="extent.width" />
          <Field at="extent.height" />
        </>
      )}
    </>
  );
};

const WallField = ({ label }: { label: string }) => {
  const [wall] = usePart<number>('wall');
  const [thickness] = usePart<number>('boardThickness');
  const least = Math.max(thickness, 2);
  return <Field at="wall" label={label} hint={wall < least ? `at least ${least} mm is used` : undefined} />;
};

/** The settings of a board: its size, name, walls, order and marks; within a way's choice. */
export const BoardFields = ({
  places = 'pockets',
  notches = true,
  warp,
}: {
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
      <ExtentFields places={places} />
      <Field at="boardThickness" />
      <Field at="name" label="Name engraved on it" />
      {more && (
        <>
          <WallField label={places === 'places' ? 'Room between places' : 'Wall between pockets'} />
          {warp}
          <Field at="turned" />
          {notches && <Field at="notches" />}
          <OrderFields />
          <MarksSelect />
          <Field at="slotNumbers" />
        </>
      )}
      <button className="link col-span-2 justify-self-start text-[13px]" onClick={() => setMore(!more)}>
        {more ? 'fewer settings' : `more: ${notches ? 'walls, notches' : `room between ${places}`}, warp, order, marks`}
      </button>
    </>
  );
};
