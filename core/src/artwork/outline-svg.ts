import type { Contour } from '../geometry';
import { fail, ok, type Problem, type Result } from '../result';
import type { ArtFile, ArtShape } from './art-file';
import { finishOutline, joinOpen, OUTLINE_LIMITS, type OutlineFile, type Wanted } from './outline';
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
 * A file of art as a blank's outline, or as lines and areas of long work. A blank's outline may be drawn in any paint or none;
 * art that is neither filled nor drawn is not seen.
 *
 * @param taken what is taken for the unit of a file that states none, in words
 */
export const outlineOfArt = (file: ArtFile, wanted: Wanted, taken: string): Result<OutlineFile> => {
  const unseen = file.hidden + (wanted === 'lines' ? file.unpainted.length : 0);
  const notes = [
    ...file.notes,
    ...(file.unit === 'unstated' || file.unit === 'px' ? [`The file does not state its unit; ${taken} were taken.`] : []), // prettier-ignore
    ...(unseen > 0 ? [`${unseen === 1 ? 'A shape is' : `${unseen} shapes are`} not seen in the file (hidden, or without fill and line) and left out.`] : []), // prettier-ignore
  ];
  const filled = contoursOf(file.shapes.filter((s) => s.fill !== null));
  const drawn = contoursOf(file.shapes.filter((s) => s.fill === null));
  const few = (joined: readonly Contour[]): Problem | null =>
    joined.length > OUTLINE_LIMITS.contours
      ? { code: 'too-many', message: `The file has more than ${OUTLINE_LIMITS.contours} shapes. Keep only what is needed in it.`, field: 'file' } // prettier-ignore
      : null;
  // Blanks' outlines may be in pieces of either kind; of art each keeps to its own.
  if (wanted === 'outline') {
    const joined = joinOpen([...filled, ...drawn, ...contoursOf(file.unpainted)]);
    const problem = few(joined);
    return problem ? { ok: false, problem } : finishOutline(joined, file.unit, notes);
  }
  // What is filled is filled as if it were closed [SVG 2, 13.3].
  const areas = joinOpen(filled).map((c) => ({ ...c, closed: c.closed || c.vertices.length > 2 }));
  const all = [...areas, ...joinOpen(drawn)];
  const problem = few(all);
  return problem ? { ok: false, problem } : finishOutline(all, file.unit, notes, wanted, new Set(areas));
};

/** Reads the outline of a blank, or the lines of long work, from an SVG. */
export const readSvgOutline = (text: string, makePlain: MakePlain, wanted: Wanted = 'outline'): Result<OutlineFile> => {
  const art = readSvgArt(text, makePlain);
  return art.ok ? outlineOfArt(art.value, wanted, '96 dots to the inch') : art;
};
