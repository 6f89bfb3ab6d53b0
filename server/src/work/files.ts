import type { MessagePort } from 'node:worker_threads';
import { batchInput, type FileName } from '@bistre/contract';
import { picturesOf } from '@bistre/core';
import { loadWhole } from '../batches';
import { reading, type Db } from '../db/connect';
import { makeFile, type Body } from '../files/make';
import { jobZip } from '../job/write';
import { loadPictures } from '../pictures';

export interface FileAsked {
  readonly batchId: string;
  readonly file: FileName;
  /** Where the pages are, as whoever asks knows them: codes on papers lead there. */
  readonly origin: string;
}

/** What is certain before the first byte. */
export interface FileHead {
  readonly name: string;
}

/** Files that have the dots of pictures in them. */
const WITH_PICTURES: ReadonlySet<FileName> = new Set<FileName>([
  'load.gcode',
  'load.png',
  'strip.gcode',
  'print.pdf',
  'piece.png',
  'proof.pdf',
  'proof-all.pdf',
]);

/** Bytes that are sent at once, and how many such pieces may be under way before the reader asks for more. */
const PIECE = 1 << 18;
const UNDER_WAY = 8;

/** The body in pieces of {@link PIECE}, few and large enough not to weigh on the reader's thread. */
function* piecesOf(body: Body): Generator<Uint8Array> {
  if (typeof body === 'string' || Buffer.isBuffer(body)) {
    const bytes = Buffer.from(body as string);
    for (let at = 0; at < bytes.length; at += PIECE) yield bytes.subarray(at, at + PIECE);
    return;
  }
  let text: string[] = [];
  let length = 0;
  for (const part of body) {
    text.push(part);
    length += part.length;
    if (length < PIECE) continue;
    yield Buffer.from(text.join(''));
    text = [];
    length = 0;
  }
  if (length > 0) yield Buffer.from(text.join(''));
}

/** Writes a file over a port: its head once nothing stands against it, then its bytes as the reader takes them. */
export const writeFile = async (db: Db, { batchId, file, origin }: FileAsked, port: MessagePort): Promise<null> => {
  const batch = await reading(db, (trx) => loadWhole(trx, batchId));
  const made = async (one: FileName): Promise<Body> => {
    const ids = WITH_PICTURES.has(one) ? picturesOf(batchInput(batch)) : [];
    return makeFile(batch, one, await loadPictures(db, ids), undefined, origin);
  };
  const whole = async (one: FileName): Promise<Uint8Array> => Buffer.concat([...piecesOf(await made(one))]);
  const body = file === 'job.zip' ? await jobZip(db, batch, whole) : await made(file);
  let room = UNDER_WAY;
  let wake: () => void = () => undefined;
  port.on('message', () => {
    room += 1;
    wake();
  });
  port.postMessage({ head: { name: batch.name } satisfies FileHead });
  for (const piece of piecesOf(body)) {
    if (room === 0) await new Promise<void>((resolve) => (wake = resolve));
    room -= 1;
    const bytes = new Uint8Array(piece);
    port.postMessage({ chunk: bytes }, [bytes.buffer]);
  }
  // The last piece is on its way before the port closes.
  while (room < UNDER_WAY) await new Promise<void>((resolve) => (wake = resolve));
  return null;
};
