import type { api, BodyOf } from '@bistre/contract';
import {
  drawnSheet,
  isDxf,
  outlineOfArt,
  readArt,
  readDxfOutline,
  readSvgOutline,
  type OutlineFile,
  type ReadArt,
  type Result,
} from '@bistre/core';
import { keptArt } from '../kept-art';
import { refused } from '../http/problem';
import { smallPhotograph } from '../photographs';
import { isPicture, plainPng } from '../plain-png';
import { readPdfArt } from './pdf-art';
import { readPictureArt } from './picture-art';
import { plainSvg } from './plain-svg';
import { threadNumber } from './thread';
import { outcomeOf, type Outcome } from './wire';

/** What a PDF draws, or a picture shows in black and white. */
const readBytes = (bytes: Buffer, name: string): Promise<Result<ReadArt>> =>
  isPicture(bytes) ? readPictureArt(bytes, name) : readPdfArt(bytes);

export const foreignJobs = {
  /** An outline out of a drawing, or of a picture in black and white. */
  outline: async ({ name, text, base64 }: BodyOf<typeof api.readOutline>) => {
    const ofBytes = async (): Promise<Result<OutlineFile>> => {
      const art = await readBytes(Buffer.from(text, 'base64'), name);
      if (!art.ok) return art;
      const { shapes, unit, notes } = art.value;
      return outlineOfArt({ shapes, unit, notes, unpainted: [], hidden: 0 }, '96 dots to the inch');
    };
    const result = base64 ? await ofBytes() : isDxf(name, text) ? readDxfOutline(text) : readSvgOutline(text, plainSvg);
    if (!result.ok) throw refused(result.problem);
    const { contours, width, height, unit, notes } = result.value;
    return {
      contours: contours.map((c) => ({ closed: c.closed, vertices: c.vertices.map((v) => ({ ...v })) })),
      width,
      height,
      unit,
      notes: [...notes],
    };
  },
  /** A file of art with the styles that it uses, as it is kept: in JSON, which crosses from the thread as it is. */
  art: async ({ name, bytes, ofBytes }: { name: string; bytes: Uint8Array; ofBytes: boolean }) => {
    const file = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const read = ofBytes ? await readBytes(file, name) : readArt(name, new TextDecoder().decode(file), plainSvg);
    if (!read.ok) throw refused(read.problem);
    return keptArt(read.value);
  },
  /** A printed sheet out of the drawing that it was printed from. */
  sheet: async ({ fileName, text, base64, choices }: BodyOf<typeof api.readSheet>) => {
    const read = base64 ? await readPdfArt(Buffer.from(text, 'base64')) : readArt(fileName, text, plainSvg);
    if (!read.ok) throw refused(read.problem);
    const found = drawnSheet(read.value, fileName.slice(-120), choices);
    if (!found.ok) throw refused(found.problem);
    const { unit } = read.value;
    const sized = unit === 'px' || unit === 'unstated' ? ['The file states no unit: see that the sheet is as large as it was printed.'] : []; // prettier-ignore
    return { ...found.value, notes: [...sized, ...found.value.notes] };
  },
  /** A picture made plain. */
  picture: ({ bytes, name }: { bytes: Uint8Array; name: string }) => plainPng(Buffer.from(bytes), name),
  /** A photograph, as it is kept. */
  photograph: ({ bytes, name }: { bytes: Uint8Array; name: string }) => smallPhotograph(Buffer.from(bytes), name),
};
export type ForeignJobs = typeof foreignJobs;

/** One job; `shared` tells the watcher which thread is at it, and that it is at it. */
export const run = async ({
  job,
  args,
  shared,
}: {
  job: keyof ForeignJobs;
  args: never;
  shared: Int32Array;
}): Promise<Outcome<unknown>> => {
  shared[0] = threadNumber();
  shared[1] = 1;
  const outcome = await outcomeOf<unknown>(() => foreignJobs[job](args));
  shared[0] = 0;
  shared[1] = 0;
  return outcome;
};
