import { createHash } from 'node:crypto';
import { unzipSync } from 'fflate';
import { SCHEMAS } from '../db/connect';
import { refused } from '../http/problem';
import { lifted } from './lift';
import { FORMAT, TABLES, type Job } from './tables';

/** Larger than this no job is, unpacked, bytes. */
const MOST = 400e6;
const MOST_FILES = 5_000;

/** A job out of its file. */
export interface ReadJob {
  readonly job: Job;
  readonly files: ReadonlyMap<string, Uint8Array>;
}

const bad = (name: string, why: string): never => {
  throw refused({ code: 'bad-job', message: `${name} ${why} Nothing was changed.`, field: 'file' });
};

const unpacked = (name: string, bytes: Uint8Array): Map<string, Uint8Array> => {
  let size = 0;
  let count = 0;
  try {
    const all = unzipSync(bytes, {
      filter: ({ originalSize }) => {
        size += originalSize;
        count += 1;
        if (size > MOST || count > MOST_FILES) throw new Error('too large');
        return true;
      },
    });
    return new Map(Object.entries(all));
  } catch (error) {
    return (error as Error).message === 'too large'
      ? bad(name, 'would unpack to more than 400 MB.')
      : bad(name, 'is no ZIP, or is cut off. Fetch or copy it again.');
  }
};

/**
 * Reads a job's file: whole, unaltered, and of a Bistre that is not newer than this one.
 *
 * @param name of the file, as people call it: every refusal begins with it
 * @throws HttpProblem 422 naming what of it is damaged or missing
 */
export const readJob = (name: string, bytes: Uint8Array): ReadJob => {
  const files = unpacked(name, bytes);
  const text = (path: string): string => {
    const found = files.get(path);
    return found ? new TextDecoder().decode(found) : bad(name, `has no ${path}: it is no job of a Bistre.`);
  };
  const listed = new Map(text('SHA256SUMS').split('\n').filter(Boolean).map((line) => [line.slice(66), line.slice(0, 64)])); // prettier-ignore
  for (const [path, sum] of listed) {
    const found = files.get(path);
    if (!found) bad(name, `lacks ${path}, which it should have.`);
    if (createHash('sha256').update(found!).digest('hex') !== sum) bad(name, `is damaged: ${path} in it is not as it was written.`); // prettier-ignore
  }
  const strange = [...files.keys()].find((path) => path !== 'SHA256SUMS' && !listed.has(path));
  if (strange) bad(name, `has ${strange}, which was put in afterwards.`);
  let job: Job;
  try {
    job = JSON.parse(text('job.json')) as Job;
  } catch {
    return bad(name, 'is damaged: job.json in it cannot be read.');
  }
  if (job.bistre !== 'job' || typeof job.format !== 'number') bad(name, 'is no job of a Bistre.');
  if (job.format > FORMAT || !SCHEMAS.includes(job.schema))
    bad(name, `was written by a newer Bistre (${job.schema}, this one knows up to ${SCHEMAS.at(-1)}). Bring this one up to date first.`); // prettier-ignore
  const older = job.schema;
  job = lifted(job) ?? bad(name, `was written by an older Bistre (${older}). Read it into that release, bring it up to date and write the job again.`); // prettier-ignore
  if (TABLES.some((t) => !Array.isArray(job.rows?.[t])) || job.rows.batches.length !== 1)
    bad(name, 'is damaged: job.json in it lacks rows.');
  return { job, files };
};
