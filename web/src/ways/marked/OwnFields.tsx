import { useState } from 'react';
import {
  errorMap,
  fixed,
  MARK_KINDS,
  MARK_WORDS,
  markReach,
  MOST_MARKS,
  NEAR_MARKS,
  parseMarkTable,
  worked,
  heldAs,
  type MarkKind,
  type OwnMark,
  type OwnMarks,
  PLANE_95,
} from '@bistre/core';
import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import { MeasureField, Select, TextField, Tick } from '../../parts/fields';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { TableBox } from '../../parts/TableBox';

/** Marks that pieces carry already: where they are on the piece, typed or from a table. */
export const OwnFields = ({ handle }: BatchProps) => {
  const { choice, put: set } = heldIn(handle, 'marked');
  const { own } = choice;
  const [table, setTable] = useState(false);
  const put = (part: Partial<OwnMarks>): void => set({ own: { ...own, ...part } });
  const change = (i: number, part: Partial<OwnMark>): void =>
    put({ marks: own.marks.map((m, k) => (k === i ? { ...m, ...part } : m)) });
  return (
    <>
      <div className="col-span-2">
        <p className="mb-1 text-[13px] text-soft">
          Where the marks are on a piece, from its front left corner: holes, crosses, printed corners, anything with a
          middle.
        </p>
        {own.marks.length > 0 && (
          <div className="grid grid-cols-[1.2rem_1fr_1fr_9.6rem_1.2rem] items-start gap-2">
            {own.marks.map((m, i) => (
              <div key={i} className="contents">
                <b className="pt-2">{i + 1}</b>
                <MeasureField hideLabel label={`mark ${i + 1}, x`} value={m.x} onCommit={(x) => change(i, { x })} />
                <MeasureField hideLabel label={`mark ${i + 1}, y`} value={m.y} onCommit={(y) => change(i, { y })} />
                <Select
                  hideLabel
                  label={`mark ${i + 1} is a`}
                  value={m.look.kind}
                  options={MARK_KINDS.map((k) => [k, MARK_WORDS[k]] as const)}
                  onChange={(kind) => change(i, { look: { ...m.look, kind: kind as MarkKind } })}
                />
                <button
                  className="link pt-2"
                  aria-label={`take out mark ${i + 1}`}
                  onClick={() => put({ marks: own.marks.filter((_, k) => k !== i) })}
                >
                  ✕
                </button>
              </div>
            ))}
          </div>
        )}
        <p className="mt-1 flex gap-4">
          <button
            className="act"
            disabled={own.marks.length >= MOST_MARKS}
            onClick={() =>
              put({
                marks: [...own.marks, { x: 10 + 20 * own.marks.length, y: 10, look: { kind: 'ring', size: 6 } }],
              })
            }
          >
            One more mark
          </button>
          <button className="link" onClick={() => setTable(!table)}>
            from a table
          </button>
        </p>
        {table && (
          <TableBox
            draft={`own.${handle.batch.id}`}
            label="A line each: x, y, form, size"
            example={'12.5; 10; hole; 6\n87.5; 10; hole; 6\n50; 60; cross'}
            read={parseMarkTable}
            onRead={(marks) => {
              put({ marks: marks.slice(0, MOST_MARKS) });
              setTable(false);
            }}
          />
        )}
      </div>
      <Tick
        label="it may be stretched (print, cloth, leather)"
        checked={own.stretches}
        onChange={(stretches) => put({ stretches })}
      />
      <TextField label="Name of the work" value={choice.name} most={24} onCommit={(name) => set({ name })} />
    </>
  );
};

/** What follows from a piece's own marks: how far apart they lie, and how well they will place it. */
export const OwnReckon = ({ handle, shown }: BatchProps) => {
  const { own } = heldAs(handle.batch, 'marked').choice;
  const { board, place } = shown.reckoning;
  const marks = own.marks;
  const reach = markReach(marks);
  const model = own.stretches && marks.length > 2 ? 'two-scales' : 'rigid';
  const map = board && marks.length >= 2 ? errorMap(model, marks, place.sigma) : null;
  const corners = board ? [0, board.width].flatMap((x) => [0, board.height].map((y) => ({ x, y }))) : [];
  const worst = map ? Math.max(...corners.map(map.radius)) : 0;
  return (
    <div className="grid grid-cols-3 gap-x-2 gap-y-3">
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
