import { FILES, type FileName } from './api';

/** A name that every system takes: Latin letters, digits and hyphens. */
const slug = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase()
    .slice(0, 40) || 'batch';

const two = (n: number): string => String(n).padStart(2, '0');

/**
 * What a file is called: its batch, what it is, and when it was written. Of several the newest stands last in any list.
 * @example fileNameOf('Boat tags', 'load.gcode', at) // 'boat-tags-load-20261130-1405.gcode'
 */
export const fileNameOf = (batch: string, file: FileName, at: Date): string => {
  const [stem, ending] = file.split('.');
  const day = `${at.getFullYear()}${two(at.getMonth() + 1)}${two(at.getDate())}`;
  return `${slug(batch)}-${stem}-${day}-${two(at.getHours())}${two(at.getMinutes())}.${ending}`;
};

/** Which file a name is of; null where it is none of a batch’s. The longest that fits: a load card is no card. */
export const fileOf = (name: string): FileName | null => {
  const [, whole, ending] = /^(.+)-\d{8}-\d{4}\.([a-z]+)$/.exec(name) ?? [];
  if (whole === undefined) return null;
  const fits = FILES.filter((f) => f.endsWith(`.${ending}`) && whole.endsWith(`-${f.slice(0, -(ending!.length + 1))}`));
  return [...fits].sort((a, b) => b.length - a.length)[0] ?? null;
};
