import { api, isOfBytes, MOST_ART_BYTES } from '@bistre/contract';
import { newId } from './api';
import { write } from './write';

/** A file of art as it is sent: drawings as their text, PDFs and pictures as bytes. */
export interface ArtSent {
  readonly fileName: string;
  readonly text: string;
  readonly base64?: boolean;
}

/** Six bits a letter. */
const MOST_BYTES = 0.75 * MOST_ART_BYTES;

/** @throws where a file is larger than is read */
export const mustFit = ({ name, size }: Pick<File, 'name' | 'size'>): void => {
  const most = isOfBytes(name) ? MOST_BYTES : MOST_ART_BYTES;
  if (size > most)
    throw new Error(`${name} is ${(size / 1e6).toFixed(1)} MB; at most ${most / 1e6} MB are read. Keep only what is engraved in it.`); // prettier-ignore
};

/** A file as it was chosen, as it is sent; why it cannot be. */
export const sentArt = async (file: File): Promise<ArtSent> => {
  mustFit(file);
  const ofBytes = isOfBytes(file.name);
  const fileName = file.name.slice(-200);
  if (!ofBytes) return { fileName, text: await file.text() };
  const bytes = new Uint8Array(await file.arrayBuffer());
  let letters = '';
  // In parts: a call takes only so many arguments.
  for (let i = 0; i < bytes.length; i += 0x8000) letters += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return { fileName, text: btoa(letters), base64: true };
};

/** Puts a file on the Shelf as an artwork of its own; kept here until the server is back where it does not answer. */
export const shelve = async (
  file: File,
  { name, customer }: { readonly name: string; readonly customer: string },
): Promise<{ readonly id: string; readonly kept: boolean }> => {
  const id = newId();
  const body = { id, name, customer, ...(await sentArt(file)) };
  return { id, kept: (await write({ endpoint: api.createArtwork, body, scope: id, whole: true })).kept };
};

/** A file's name as that of an artwork. */
export const artName = (fileName: string): string => fileName.replace(/\.[^.]*$/, '').slice(0, 80) || 'Art';

/**
 * Puts a file on the Shelf for who wants to use it at once.
 * @returns its id
 * @throws where it cannot be sent or read, or waits for a server that is away
 */
export const shelveNow = async (file: File, as: Parameters<typeof shelve>[1]): Promise<string> => {
  const { id, kept } = await shelve(file, as);
  if (kept) throw new Error('The server is away: the file is kept here, and lies on the Shelf once it is back.');
  return id;
};
