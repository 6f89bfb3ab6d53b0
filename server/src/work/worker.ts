import { workerData, type MessagePort } from 'node:worker_threads';
import { connectToRead } from '../db/connect';
import { writeFile, type FileAsked } from './files';
import { jobs, type Jobs } from './jobs';
import { stepBack } from './thread';
import { outcomeOf, type Outcome } from './wire';

stepBack();
const db = connectToRead((workerData as { url: string }).url);

/** One job of a page that waits. */
export const run = ({ job, args }: { job: keyof Jobs; args: never }): Promise<Outcome<unknown>> =>
  outcomeOf(() => (jobs[job] as (d: typeof db, a: never) => unknown)(db, args));

/** One file, sent piece by piece over the port. */
export const file = ({ asked, port }: { asked: FileAsked; port: MessagePort }): Promise<Outcome<null>> =>
  outcomeOf(() => writeFile(db, asked, port)).finally(() => port.close());
