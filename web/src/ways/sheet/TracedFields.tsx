import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import { useEffect, useRef, useState } from 'react';
import {
  freshTrace,
  MARK_WORDS,
  PAPERS,
  TRACED_ROLES,
  tracedMarks,
  tracedPieces,
  type PngHead,
  type TraceChoices,
  type Traced,
  type TracedRole,
  type TracedSheet,
  type TracedShape,
} from '@bistre/core';
import { inRange, SAMPLE_SHEET, yesNo } from '@bistre/contract';
import { z } from 'zod';
import { messageOf } from '../../data/api';
import { Tracer } from './trace';
import { Field, Fields, LiveFields, Measure, Select } from '../../parts/fields';
import { Finding } from '../../parts/Part';

/** How outlines are made of a picture: asked here alone, nothing of it is kept. */
const TRACE_CHOICES = z.object({
  smallest: inRange('Smallest piece', 0.5, 500, 'mm'),
  smooth: inRange('Smoothed over', 0, 3, 'mm'),
  neck: inRange('A neck is narrower than', 0.1, 20, 'mm'),
  apart: yesNo('Cut touching pieces apart at their necks'),
});
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

/** A sheet that somebody else printed: its picture, how outlines are made of it, and what each form is. */
export const TracedFields = ({ handle }: Pick<BatchProps, 'handle'>) => {
  const { choice: sheet, put: set } = heldIn(handle, 'sheet');
  const { traced } = sheet;
  const tracer = useRef<Tracer | null>(null);
  const [head, setHead] = useState<(PngHead & { readonly name: string }) | null>(null);
  const [dpi, setDpi] = useState<number | null>(null);
  const [choices, setChoices] = useState<TraceChoices>(freshTrace);
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [seconds, setSeconds] = useState<number | null>(null);
  const [notes, setNotes] = useState<readonly string[]>([]);
  useEffect(() => () => tracer.current?.end(), []);
  const put = (next: TracedSheet): void => set({ traced: next });
  const find = async (perInch: number, how: TraceChoices, before = 0): Promise<void> => {
    setShare(0);
    setProblem(null);
    try {
      const made = await tracer.current?.trace(25.4 / perInch, how, setShare);
      if (!made) return;
      setSeconds(before + made.seconds);
      if (!made.ok) {
        setProblem(`${made.problem.message}${traced ? ' The outlines found before are kept.' : ''}`);
        return;
      }
      const { value }: { value: Traced } = made;
      setNotes(value.notes);
      put(value.sheet);
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setShare(null);
    }
  };
  const take = async (file: File): Promise<void> => {
    tracer.current?.end();
    tracer.current = new Tracer();
    setShare(0);
    setProblem(null);
    setNotes([]);
    setHead(null);
    try {
      const opened = await tracer.current.open(file, setShare);
      if (!opened) return;
      if (!opened.ok) {
        setProblem(`${opened.problem.message}${traced ? ' The outlines found before are kept.' : ''}`);
        return;
      }
      setHead({ ...opened.value, name: file.name });
      setDpi(opened.value.dotsPerInch);
      if (opened.value.dotsPerInch) await find(opened.value.dotsPerInch, choices, opened.seconds);
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setShare(null);
    }
  };
  const takeSample = async (): Promise<void> => {
    const response = await fetch(SAMPLE_SHEET);
    if (response.ok) await take(new File([await response.blob()], 'crew-badges.png', { type: 'image/png' }));
  };
  const change = (next: TraceChoices): void => {
    setChoices(next);
    if (head && dpi) void find(dpi, next);
  };
  const assign = (shapes: readonly TracedShape[], role: TracedRole): void => {
    if (!traced) return;
    put({ ...traced, shapes: traced.shapes.map((s) => (shapes.includes(s) ? { ...s, role } : s)) });
  };
  return (
    <>
      <div className="col-span-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <label className="act cursor-pointer">
          {traced ? 'Another picture' : 'Picture of the sheet, PNG'}
          <input
            type="file"
            accept="image/png,.png"
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
            {paperOfSize(traced.width, traced.height)}, {(25.4 / traced.dot).toFixed(0)} dots to the inch
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
          <progress
            className="h-2 flex-1 accent-[var(--blue)]"
            aria-label="picture looked through"
            value={Math.max(0.01, share)}
            max={1}
          />
          <button
            className="act !min-h-8 !px-2.5"
            onClick={() => {
              tracer.current?.end();
              tracer.current = null;
              setHead(null);
              setShare(null);
            }}
          >
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
          <Measure
            of={TRACE}
            at="dotsPerInch"
            value={dpi}
            hint={
              dpi
                ? `${((head.width * 25.4) / dpi).toFixed(1)} × ${((head.height * 25.4) / dpi).toFixed(1)} mm`
                : 'The picture does not say. How was it scanned?'
            }
            onCommit={(value) => {
              setDpi(value);
              void find(value, choices);
            }}
          />
          <LiveFields schema={TRACE_CHOICES} value={choices} onChange={change}>
            <Fields at="smallest smooth neck" />
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
