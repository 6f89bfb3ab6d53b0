import type { Contour } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { ArtFile, ArtShape } from './art-file';
import { finishOutline, joinOpen, OUTLINE_LIMITS, type OutlineFile } from './outline';
import { prepareSvg } from './svg-prepare';
import { readPlainSvg } from './svg-read';

/**
 * Makes a drawing plain: groups, references, texts, style sheets and basic shapes become paths with matrices, paints and clip
 * paths, what is not displayed is left out; it throws where it cannot. It runs where a library for it does.
 */
export type MakePlain = (svg: string) => string;

const countPaths = (svg: string): number => svg.split('<path').length;

/** How many shapes are not displayed: what more there is once they are. */
const notDisplayed = (text: string, plain: string, makePlain: MakePlain): number =>
  /display/.test(text)
    ? countPaths(makePlain(text.replace(/(display\s*[:=]\s*["']?\s*)none/gi, '$1inline'))) - countPaths(plain)
    : 0;

/** Most characters of a drawing that was made plain: what it uses again is in it as often as it is used. */
const MOST_PLAIN = 24_000_000;

/**
 * Reads a drawing of art: what is seen of it, in real millimetres by its size and viewBox, with its paints.
 *
 * @returns shapes, or a problem naming the line
 */
export const readSvgArt = (text: string, makePlain: MakePlain): Result<ArtFile> => {
  const prepared = prepareSvg(text);
  if (!prepared.ok) return prepared;
  let plain: string;
  let left = 0;
  try {
    plain = makePlain(prepared.value.text);
    left = notDisplayed(prepared.value.text, plain, makePlain);
  } catch (error) {
    return fail('unreadable-svg', `The drawing cannot be read: ${error instanceof Error ? error.message : String(error)}`, 'file'); // prettier-ignore
  }
  if (plain.length > MOST_PLAIN)
    return fail('too-large', 'The file comes to more shapes than are read once all that it uses again is written out. Keep only what is engraved in it.', 'file'); // prettier-ignore
  const read = readPlainSvg(plain, prepared.value);
  return read.ok ? ok({ ...read.value, hidden: read.value.hidden + left }) : read;
};

const contoursOf = (shapes: readonly ArtShape[]): Contour[] => shapes.flatMap((s) => s.contours);

/**
 * A file of art as a blank's outline, which may be drawn in any paint or none.
 *
 * @param taken what is taken for the unit of a file that states none, in words
 */
export const outlineOfArt = (file: ArtFile, taken: string): Result<OutlineFile> => {
  const { shapes, unpainted, hidden, unit } = file;
  const notes = [
    ...file.notes,
    ...(unit === 'unstated' || unit === 'px' ? [`The file does not state its unit; ${taken} were taken.`] : []),
    ...(hidden > 0 ? [`${hidden === 1 ? 'A shape is' : `${hidden} shapes are`} not seen in the file (hidden, or without fill and line) and left out.`] : []), // prettier-ignore
  ];
  const drawn = shapes.filter((s) => s.fill === null);
  const joined = joinOpen(contoursOf([...shapes.filter((s) => s.fill !== null), ...drawn, ...unpainted]));
  if (joined.length > OUTLINE_LIMITS.contours)
    return fail('too-many', `The file has more than ${OUTLINE_LIMITS.contours} shapes. Keep only what is needed in it.`, 'file'); // prettier-ignore
  return finishOutline(joined, unit, notes);
};

/** Reads the outline of a blank from an SVG. */
export const readSvgOutline = (text: string, makePlain: MakePlain): Result<OutlineFile> => {
  const art = readSvgArt(text, makePlain);
  return art.ok ? outlineOfArt(art.value, '96 dots to the inch') : art;
};
