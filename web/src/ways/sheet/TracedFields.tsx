import {
  MARK_WORDS,
  PAPERS,
  TRACED_ROLES,
  tracedMarks,
  tracedPieces,
  type TracedRole,
  type TracedSheet,
  type TracedShape,
} from '@bistre/core';
import { inRange, SAMPLE_SHEET, traceChoices } from '@bistre/contract';
import { z } from 'zod';
import { Field, Fields, LiveFields, Measure, Select } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import { useFinding } from './finding';

const TRACE = z.object({ dotsPerInch: inRange('Dots to the inch', 30, 4_800, '', { digits: 1 }) });

/** The paper a sheet of this size was, when it is one. */
const paperOfSize = (width: number, height: number): string => {
  const found = Object.entries(PAPERS).find(
    ([, p]) => Math.abs(Math.min(width, height) - p.width) < 4 && Math.abs(Math.max(width, height) - p.height) < 4,
  );
  return found ? `, ${found[0]}` : '';
};

/** Shapes of one form together, so that a hundred are told in a word. */
const groupsOf = (sheet: TracedSheet): { name: string; shapes: TracedShape[] }[] => {
  const groups = new Map<string, TracedShape[]>();
  for (const s of sheet.shapes) {
    const name = s.look ? MARK_WORDS[s.look.kind] : 'other outline';
    groups.set(name, [...(groups.get(name) ?? []), s]);
  }
  return [...groups].map(([name, shapes]) => ({ name, shapes }));
};

/** A sheet that somebody else printed: its picture or its drawing, how outlines are made of it, and what each form is. */
export const TracedFields = ({ handle }: Pick<BatchProps, 'handle'>) => {
  const { choice: sheet, put: set } = heldIn(handle, 'sheet');
  const { traced } = sheet;
  const put = (next: TracedSheet): void => set({ traced: next });
  const { head, dpi, choices, share, problem, seconds, notes, take, stop, sayDots, change } = useFinding(traced, put);
  const takeSample = async (): Promise<void> => {
    const response = await fetch(SAMPLE_SHEET);
    if (response.ok) await take(new File([await response.blob()], 'crew-badges.png', { type: 'image/png' }));
  };
  const assign = (shapes: readonly TracedShape[], role: TracedRole): void => {
    if (!traced) return;
    put({ ...traced, shapes: traced.shapes.map((s) => (shapes.includes(s) ? { ...s, role } : s)) });
  };
  return (
    <>
      <div className="col-span-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <label className="act cursor-pointer">
          {traced ? 'Another file' : 'The sheet: PDF, SVG, or a picture'}
          <input
            type="file"
            accept=".pdf,.svg,.dxf,.png,.jpg,.jpeg,.webp"
            className="sr-only"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) void take(file);
              e.target.value = '';
            }}
          />
        </label>
        {traced ? (
          <span className="text-soft">
            {traced.name}: {traced.width.toFixed(1)} × {traced.height.toFixed(1)} mm
            {paperOfSize(traced.width, traced.height)}
            {traced.edge > 0 && `, ${(25.4 / traced.dot).toFixed(0)} dots to the inch`}
            {seconds !== null && `; looked through in ${seconds.toFixed(1)} s`}
          </span>
        ) : (
          <button className="link" onClick={() => void takeSample()}>
            take the sample sheet
          </button>
        )}
      </div>
      {share !== null && (
        <div className="col-span-2 flex items-center gap-3" aria-live="polite">
          {head?.drawn ? (
            <p role="status">Reading {head.name} …</p>
          ) : (
            <progress
              className="h-2 flex-1 accent-[var(--blue)]"
              aria-label="sheet looked through"
              value={Math.max(0.01, share)}
              max={1}
            />
          )}
          <button className="act !px-2.5" onClick={stop}>
            Stop
          </button>
        </div>
      )}
      {problem && (
        <div className="col-span-2">
          <Finding tone="out">{problem}</Finding>
        </div>
      )}
      {head && (
        <>
          {!head.drawn && (
            <Measure
              of={TRACE}
              at="dotsPerInch"
              value={dpi}
              hint={
                dpi
                  ? `${((head.width * 25.4) / dpi).toFixed(1)} × ${((head.height * 25.4) / dpi).toFixed(1)} mm`
                  : 'The picture does not say. How was it scanned?'
              }
              onCommit={sayDots}
            />
          )}
          <LiveFields schema={traceChoices} value={choices} onChange={change}>
            <Fields at={head.drawn ? 'smallest neck' : 'smallest smooth neck'} />
            <div className="col-span-2">
              <Field at="apart" />
            </div>
          </LiveFields>
        </>
      )}
      {notes.map((n) => (
        <div key={n} className="col-span-2">
          <Finding tone="attention">{n}</Finding>
        </div>
      ))}
      {traced && (
        <div className="col-span-2">
          <p className="mb-1">
            <b>{tracedPieces(traced).length}</b> pieces, <b>{tracedMarks(traced).length}</b> marks. Click a shape in the
            drawing to change what it is.
          </p>
          <table className="w-full text-[14px]">
            <tbody>
              {groupsOf(traced).map(({ name, shapes }) => {
                const roles = new Set(shapes.map((s) => s.role));
                return (
                  <tr key={name} className="border-t border-hairline">
                    <td className="py-1">
                      {shapes.length} × {name}
                    </td>
                    <td className="w-44">
                      <Select
                        label={`${name} is`}
                        hideLabel
                        value={roles.size === 1 ? [...roles][0]! : 'mixed'}
                        options={[
                          ...TRACED_ROLES.map((r) => [r, r === 'piece' ? 'cut out' : r] as const),
                          ...(roles.size > 1 ? [['mixed', 'several'] as const] : []),
                        ]}
                        onChange={(role) => role !== 'mixed' && assign(shapes, role as TracedRole)}
                      />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <Field at="inner" />
        </div>
      )}
      <Field at="inset" />
      <Field at="name" label="Name of the sheet" />
    </>
  );
};
