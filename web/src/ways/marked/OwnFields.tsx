import { useState } from 'react';
import {
  placeErrors,
  fixed,
  markReach,
  MOST_MARKS,
  NEAR_MARKS,
  parseMarkTable,
  worked,
  heldAs,
  type OwnMarks,
  PLANE_95,
} from '@bistre/core';
import { ChoiceFields } from '../fields';
import type { BatchProps } from '../pages';
import { Field, FieldList, usePart } from '../../parts/fields';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { TableBox } from '../../parts/TableBox';

/** The marks one by one, or from a table. */
const Marks = ({ draft }: { draft: string }) => {
  const [marks, put] = usePart<OwnMarks['marks']>('own.marks');
  const [table, setTable] = useState(false);
  return (
    <>
      <FieldList
        at="own.marks"
        one="mark"
        add="one more mark"
        most={MOST_MARKS}
        fresh={(all: OwnMarks['marks']) => ({
          x: 10 + 20 * all.length,
          y: 10,
          look: { kind: 'ring' as const, size: 6 },
        })}
        className="mt-1 grid grid-cols-[1.2rem_minmax(0,1fr)_minmax(0,1fr)_8rem_2.75rem] items-start gap-2"
        row={(i) => (
          <>
            <b className="pt-6">{i + 1}</b>
            <Field at="x" label={`Mark ${i + 1}, x`} />
            <Field at="y" label={`Mark ${i + 1}, y`} />
            <Field at="look.kind" label={`Mark ${i + 1} is a`} />
          </>
        )}
      />
      <button className="link ml-4" onClick={() => setTable(!table)}>
        from a table
      </button>
      {table && (
        <TableBox
          draft={draft}
          label="A line each: x, y, form, size"
          example={'12.5; 10; hole; 6\n87.5; 10; hole; 6\n50; 60; cross'}
          read={parseMarkTable}
          onRead={(read) => {
            put(read.slice(0, MOST_MARKS));
            setTable(false);
          }}
        />
      )}
      {marks.length === 0 && <p className="text-ochre">Two at least.</p>}
    </>
  );
};

/** Marks that pieces carry already: where they are on the piece, typed or from a table. */
export const OwnFields = ({ handle }: BatchProps) => (
  <ChoiceFields handle={handle} way="marked">
    <div className="col-span-2">
      <p className="mb-1 text-[13px] text-soft">
        Where the marks are on a piece, from its front left corner: holes, crosses, printed corners, anything with a
        middle.
      </p>
      <Marks draft={`own.${handle.batch.id}`} />
    </div>
    <Field at="own.stretches" />
    <Field at="name" />
  </ChoiceFields>
);

/** What follows from a piece's own marks: how far apart they lie, and how well they will place it. */
export const OwnReckon = ({ handle, shown }: BatchProps) => {
  const { own } = heldAs(handle.batch, 'marked').choice;
  const { board, place } = shown.reckoning;
  const marks = own.marks;
  const reach = markReach(marks);
  const map = board && marks.length >= 2 ? placeErrors(place, marks, own.stretches) : null;
  const corners = board ? [0, board.width].flatMap((x) => [0, board.height].map((y) => ({ x, y }))) : [];
  const worst = map ? Math.max(...corners.map(map.radius)) : 0;
  return (
    <div className="readings">
      <Reading
        label="marks"
        size={ROW_SIZE}
        value={String(marks.length)}
        unit={marks.length === 2 ? ': no check' : ''}
        note={own.stretches ? 'scaled when they say so' : 'never scaled: the piece is rigid'}
      />
      <Reading
        label="farthest apart"
        size={ROW_SIZE}
        value={reach.toFixed(1)}
        unit="mm"
        tone={reach >= NEAR_MARKS ? 'inside' : 'out'}
        note={`at least ${NEAR_MARKS} mm`}
      />
      <Reading
        label="worst corner, at 95 %"
        size={ROW_SIZE}
        value={map ? `± ${worst.toFixed(2)}` : '–'}
        unit="mm"
        note="from aiming alone"
        working={
          map
            ? [
                ...place.sigmaWorking,
                worked(
                  'worst corner',
                  '√χ²(95 %, 2) × longest axis of σ² B (JᵀJ)⁻¹ Bᵀ, from the marks’ places',
                  `2.448 × ${fixed(worst / PLANE_95, 3)}`,
                  `${fixed(worst, 3)} mm`,
                  'statistics',
                ),
              ]
            : []
        }
      />
    </div>
  );
};
