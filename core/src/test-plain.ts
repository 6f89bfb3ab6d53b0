import { Resvg } from '@resvg/resvg-js';
import { readSvgOutline } from './artwork/outline-svg';
import type { OutlineFile } from './artwork/outline';
import type { Result } from './result';

/** Makes a drawing plain as the server does. */
export const plain = (svg: string): string => new Resvg(svg, { font: { loadSystemFonts: false } }).toString();

/** A drawing read as the server reads it. */
export const readSvg = (text: string): Result<OutlineFile> => readSvgOutline(text, plain);
