import { MOST_ART_BYTES } from '@bistre/contract';

/** A file of art as it is sent: drawings as their text, PDFs and pictures as bytes. */
export interface ArtSent {
  readonly fileName: string;
  readonly text: string;
  readonly base64?: boolean;
}

export const isPictureName = (name: string): boolean => /\.(png|jpe?g|webp)$/i.test(name);
const isOfBytes = (name: string): boolean => /\.pdf$/i.test(name) || isPictureName(name);
/** Six bits a letter. */
const MOST_BYTES = 0.75 * MOST_ART_BYTES;

/** A file as it was chosen, as it is sent; why it cannot be. */
export const sentArt = async (file: File): Promise<ArtSent> => {
  const ofBytes = isOfBytes(file.name);
  const most = ofBytes ? MOST_BYTES : MOST_ART_BYTES;
  if (file.size > most)
    throw new Error(`${file.name} is ${(file.size / 1e6).toFixed(1)} MB; at most ${most / 1e6} MB are read. Keep only what is engraved in it.`); // prettier-ignore
  const fileName = file.name.slice(-200);
  if (!ofBytes) return { fileName, text: await file.text() };
  const bytes = new Uint8Array(await file.arrayBuffer());
  let letters = '';
  // In parts: a call takes only so many arguments.
  for (let i = 0; i < bytes.length; i += 0x8000) letters += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return { fileName, text: btoa(letters), base64: true };
};
