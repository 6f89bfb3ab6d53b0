import type { Result } from '../result';
import { readDxfArt } from './dxf-read';
import type { OutlineFile } from './outline';
import { outlineOfArt } from './outline-svg';

/** Reads the outline of a blank from a DXF. */
export const readDxfOutline = (text: string): Result<OutlineFile> => {
  const art = readDxfArt(text);
  return art.ok ? outlineOfArt(art.value, 'millimetres') : art;
};
