import { columnsOf } from '@bistre/core';
import { z } from 'zod';
import { differences, type Difference } from './differ';
import type { BatchDocument } from './documents';
import { setupSections, blankSpec } from './things';

/** All of a batch that a customer sees on its proof, as it is kept with an approval. */
export interface ShownToCustomer {
  readonly quantity: number;
  readonly blank: { readonly name: string; readonly spec: unknown };
  /** Art by its identifier, at its revision. */
  readonly art: Readonly<Record<string, { readonly name: string; readonly revision: number }>>;
  readonly setup: Readonly<Record<string, unknown>>;
  /** The columns that are lettered or coded, and what stands in them, piece by piece. */
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** Parts of a setup that are drawn on a proof. */
const DRAWN = ['lettering', 'back', 'faces', 'contents'] as const;

/** What the form of each of them calls itself, before its own words. */
const OF: Readonly<Record<(typeof DRAWN)[number], string>> = {
  lettering: 'Lettering',
  back: 'Lettering of the back',
  faces: 'What goes where',
  contents: 'What lies in the zones',
};

/** What of a batch a customer sees: what it is made of, what is drawn and lettered, and every name. */
export const shownToCustomer = (batch: Pick<BatchDocument, 'quantity' | 'blank' | 'artworks' | 'setup' | 'columns' | 'roster'>): ShownToCustomer => {
  const { setup } = batch;
  const lettered = [...setup.lettering.lines, ...setup.back.lines].map((l) => l.column);
  const wanted = new Set([...lettered, ...columnsOf(setup.contents ?? [])]);
  const columns = batch.columns.filter((c) => wanted.has(c));
  const { shape, zones, holes } = batch.blank.spec;
  return {
    quantity: batch.quantity,
    blank: { name: batch.blank.name, spec: { shape, zones, holes } },
    art: Object.fromEntries(batch.artworks.map((a) => [a.id, { name: a.name, revision: a.revision }])),
    setup: Object.fromEntries(DRAWN.map((section) => [section, setup[section] ?? null])),
    columns,
    rows: batch.roster.map((row) => columns.map((c) => row[c] ?? '')),
  };
}; // prettier-ignore

/** A line of a list is told by its number. */
const sentence = (of: string, { path, label, theirs, mine }: Difference): string => {
  const at = path.split('.').find((step) => /^\d+$/.test(step));
  return `${of}${at === undefined ? '' : ` ${Number(at) + 1}`}, ${label}: ${theirs} → ${mine}.`;
};

const namesChanged = (before: ShownToCustomer, now: ShownToCustomer): string[] => {
  const cells = (shown: ShownToCustomer, i: number, column: string): string | undefined => {
    const row = shown.rows[i];
    return row && (row[shown.columns.indexOf(column)] ?? '');
  };
  const columns = [...new Set([...before.columns, ...now.columns])];
  const out: string[] = [];
  for (let i = 0; i < Math.max(before.rows.length, now.rows.length); i += 1) {
    const [old, row] = [before.rows[i], now.rows[i]];
    if (!row) out.push(`Piece ${i + 1} is not in the list any more: ${old!.join(' · ')}.`);
    else if (!old) out.push(`Piece ${i + 1} is new in the list: ${row.join(' · ')}.`);
    else
      for (const column of columns) {
        const [was, is] = [cells(before, i, column), cells(now, i, column)];
        if (was !== is) out.push(`Piece ${i + 1}, ${column}: “${was}” → “${is}”.`);
      }
  }
  return out;
};

/**
 * What a customer would see otherwise than what was approved, in sentences: pieces by their number, everything else by
 * the words of its form.
 * @returns nothing where the proof would look the same
 */
export const shownOtherwise = (before: ShownToCustomer, now: ShownToCustomer): string[] => {
  const art = (shown: ShownToCustomer, id: string): string => {
    const one = shown.art[id];
    return one ? `${one.name} r${one.revision}` : '';
  };
  const ids = [...new Set([...Object.keys(before.art), ...Object.keys(now.art)])];
  return [
    ...(before.quantity === now.quantity ? [] : [`Pieces: ${before.quantity} → ${now.quantity}.`]),
    ...(before.blank.name === now.blank.name ? [] : [`Blank: ${before.blank.name} → ${now.blank.name}.`]),
    ...differences(blankSpec, before.blank.spec, now.blank.spec).map((d) => sentence(now.blank.name, d)),
    ...ids.flatMap((id) => {
      const [was, is] = [art(before, id), art(now, id)];
      if (was === is) return [];
      return [was === '' ? `Art: ${is} is new.` : is === '' ? `Art: ${was} is gone.` : `Art: ${was} → ${is}.`];
    }),
    ...DRAWN.flatMap(
      (section) =>
      differences(z.object({ [section]: setupSections[section] }), { [section]: before.setup[section] }, { [section]: now.setup[section] }).map((d) => sentence(OF[section], d)), // prettier-ignore
    ),
    ...namesChanged(before, now),
  ];
};
