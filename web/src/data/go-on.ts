import { nextStation, type StationId, type Step } from '@bistre/core';
import type { BatchDocument } from '@bistre/contract';
import type { AT_NEXT } from './at-next';
import type { Shown } from './shown';

const isAtNext = (state: unknown): boolean => (state as typeof AT_NEXT | null)?.next === true;

/** A field that nothing stands in and that is not refused: what is to be typed next. */
const isEmpty = (field: Element): boolean => field instanceof HTMLInputElement && field.type !== 'checkbox' && field.value === '' && !field.disabled; // prettier-ignore

/**
 * What a station waits for, among all that can be acted on there: what is marked as next, what is wrong, what is empty, the
 * main button, a step that is not ticked.
 */
export const nextIn = (sheet: ParentNode): HTMLElement | null => {
  const all = (selector: string): HTMLElement[] => [...sheet.querySelectorAll<HTMLElement>(selector)];
  return (
    all('[data-next]:not(:disabled)')[0] ??
    all('[aria-invalid="true"]')[0] ??
    all('input').find(isEmpty) ??
    all('.act-main:not(:disabled)')[0] ??
    all('input[type="checkbox"]').find((box) => !(box as HTMLInputElement).checked) ??
    all('button:not(:disabled), [role="combobox"]')[0] ??
    null
  );
};

/** How long a station may take to be fetched, ms. */
const FETCHED = 3_000;

/**
 * Puts the focus where the work goes on, once the station is there.
 *
 * @param state of the place in the history, which says whether it is asked for
 * @param parts what may hold it, the first first
 * @returns a function that gives it up
 */
export const focusNext = (state: unknown, parts: () => readonly (ParentNode | null)[]): (() => void) => {
  if (!isAtNext(state)) return () => undefined;
  const until = Date.now() + FETCHED;
  const timer = setInterval(() => {
    const found = parts().map((p) => p && nextIn(p)).find(Boolean); // prettier-ignore
    if (!found && Date.now() < until) return;
    clearInterval(timer);
    found?.focus();
    found?.scrollIntoView?.({ block: 'center' });
  }, 30);
  return () => clearInterval(timer);
};

/** The steps that are done: ticked, or by what was taken; a tick says nothing where what it stood for is open again. */
export const doneSteps = (steps: readonly Step[], { ticks }: Pick<BatchDocument, 'ticks'>): ReadonlySet<string> => {
  const ticked = new Set(ticks.map((t) => t.step));
  return new Set(steps.filter((s) => s.done || (ticked.has(s.id) && s.ticked !== false)).map((s) => s.id));
};

/** The step of the bench view that belongs to what the batch waits for; the first open one where its station has none. */
export const stepOfNext = ({ stations, steps }: Pick<Shown, 'stations' | 'steps'>, batch: Pick<BatchDocument, 'ticks'>): Step | undefined => {
  const done = doneSteps(steps, batch);
  const open = steps.filter((s) => !done.has(s.id));
  const at: StationId = nextStation(stations).id;
  return open.find((s) => s.station === at) ?? open[0];
}; // prettier-ignore

/** What a step is one of several of, by its name: the loads of a run. */
const kindOf = (id: string): string => id.replace(/-[^-]*$/, '-');

/**
 * Where the bench view goes on when the step that it showed is not there any more: a load was taken, or judged. At the next
 * of its kind; before that at whatever has come in and is open, the laying of what was just taken.
 *
 * @param gone name of the step
 * @param at where it stood
 * @returns the place of a step; nothing where none is of its kind
 */
export const stepAfter = (steps: readonly Step[], done: ReadonlySet<string>, gone: string, at: number): number | null => {
  const next = gone.includes('-') ? steps.findIndex((s) => s.id.startsWith(kindOf(gone))) : -1;
  if (next < 0) return null;
  for (let i = Math.min(at, next); i < next; i += 1) if (!done.has(steps[i]!.id)) return i;
  return next;
}; // prettier-ignore
