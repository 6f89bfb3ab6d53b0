import { ok, type Result } from '../result';
import { readDxfArt } from './dxf-read';
import type { OutlineFile, Wanted } from './outline';
import { outlineOfArt } from './outline-svg';

/** Reads the outline of a blank, or the lines of long work, from a DXF. */
export const readDxfOutline = (text: string, wanted: Wanted = 'outline'): Result<OutlineFile> => {
  const art = readDxfArt(text);
  if (!art.ok) return art;
  const notes = wanted === 'lines' ? ['A DXF file draws lines: say below if its closed shapes are filled.'] : [];
  const read = outlineOfArt(art.value, wanted, 'millimetres');
  return read.ok ? ok({ ...read.value, notes: [...read.value.notes, ...notes] }) : read;
};
