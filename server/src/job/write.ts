import { createHash } from 'node:crypto';
import { zipSync, type Zippable } from 'fflate';
import { safeCell } from '@bistre/core';
import type { BatchDocument, FileName } from '@bistre/contract';
import { reading, type Db } from '../db/connect';
import { HttpProblem } from '../http/problem';
import { bytesOf, gatherJob } from './gather';
import type { Job, Row } from './tables';

/** Files of a batch that stand beside its rows, for whoever has no Bistre; what cannot be made is left out. */
const BESIDE: readonly FileName[] = ['setup.pdf', 'roster.csv', 'board.svg', 'load.svg', 'proof.pdf'];

const csvOf = (columns: readonly string[], rows: readonly Row[]): string => {
  const text = (value: unknown): string => (value === null || value === undefined ? '' : typeof value === 'object' ? JSON.stringify(value) : String(value as string)); // prettier-ignore
  const lines = [columns, ...rows.map((row) => columns.map((c) => text(row[c])))];
  return `\uFEFF${lines.map((cells) => cells.map(safeCell).join(',')).join('\r\n')}\r\n`;
};

/** What was read and what happened, as tables that a spreadsheet opens. */
const tablesOf = ({ rows }: Job): Record<string, string> => ({
  'readings.csv': csvOf(['mark', 'x_mm', 'y_mm', 'source', 'purpose', 'at', 'by', 'removed_at'], rows.mark_readings),
  'pieces.csv': csvOf(['ordinal', 'load', 'slot', 'state', 'cause', 'dx_mm', 'dy_mm', 'yaw_rad', 'at', 'by'], rows.pieces), // prettier-ignore
  'samples.csv': csvOf(['blank_id', 'dimension', 'value_mm', 'at', 'by', 'removed_at'], rows.blank_samples),
  'log.csv': csvOf(['at', 'by', 'kind', 'summary', 'undone_at'], rows.events),
});

/** SHA-256 of files as `sha256sum` writes and checks them. */
export const sumsOf = (files: ReadonlyMap<string, Uint8Array>): string =>
  [...files].map(([path, bytes]) => `${createHash('sha256').update(bytes).digest('hex')}  ${path}\n`).join('');

/** What is packed already is stored as it is. */
const PACKED = /\.(png|jpe?g|gz|pdf)$/;

/** A ZIP of files, with their checksums. */
export const zipOf = (files: ReadonlyMap<string, Uint8Array>): Buffer => {
  const all = new Map([...files, ['SHA256SUMS', Buffer.from(sumsOf(files))]]);
  const entries: Zippable = {};
  for (const [path, bytes] of all) entries[path] = [bytes, { level: PACKED.test(path) ? 0 : 6 }];
  return Buffer.from(zipSync(entries));
};

/**
 * One job as one file: a ZIP with everything that a batch is made of as JSON, its readings, pieces, samples and log as
 * CSV, its papers and drawings, its art and pictures as they came, and their checksums.
 * @param make a file of the batch
 */
export const jobZip = async (
  db: Db,
  batch: BatchDocument,
  make: (file: FileName) => Promise<Uint8Array>,
): Promise<Buffer> => {
  const { job, bytes } = await reading(db, async (trx) => {
    const gathered = await gatherJob(trx, batch.id, batch.shopSteps.map((s) => s.id)); // prettier-ignore
    return { job: gathered, bytes: await bytesOf(trx, gathered) };
  });
  const files = new Map<string, Uint8Array>([['job.json', Buffer.from(JSON.stringify(job, null, 1))], ...bytes]);
  for (const [path, text] of Object.entries(tablesOf(job))) files.set(path, Buffer.from(text));
  for (const file of BESIDE)
    try {
      files.set(file, await make(file));
    } catch (error) {
      // A board that is not planned yet, a proof of work that has none: the rows say all the same.
      if (!(error instanceof HttpProblem)) throw error;
    }
  return zipOf(files);
};
