import { execFileSync } from 'node:child_process';
import { benchSteps, CAUTIONS, reckonBatch, WAY_IDS, type BatchInput, type WayId } from '@bistre/core';
import { EXAMPLES } from '../../../core/src/test-ways';
import { alphabetsFor, LABELS } from '../alphabets';
import { setupSheet } from './pdf';

const reckoned = (input: BatchInput) =>
  reckonBatch(input, { now: new Date('2026-11-23T08:00:00Z'), alphabets: alphabetsFor(['b612-bold', 'readability']), labels: LABELS, simulatedPieces: 200 }); // prettier-ignore
/** A sheet as poppler reads it, on one line. */
const read = async (input: BatchInput): Promise<string> =>
  execFileSync('pdftotext', ['-layout', '-', '-'], { input: await setupSheet(input, reckoned(input), 'Job') }).toString().replace(/\s+/g, ' '); // prettier-ignore
const MOUNTED: { readonly [K in WayId]: RegExp } = {
  pockets: /Board \S+ r1, [\d.]+ × [\d.]+ mm, 3 mm thick, \d+ pockets of/,
  fence: /Board \S+ r1, .* mm thick, \d+ pockets of/,
  pegs: /Board \S+ r1, .* mm thick, \d+ places with two pegs each/,
  locator: /Board \S+ r1, .* mm thick, a grid of/,
  sheet: /Sheet \S+ r1, [\d.]+ × [\d.]+ mm, \d+ places\./,
  panel: /Sheet \S+ r1, [\d.]+ × [\d.]+ mm, \d+ places\./,
  marked: /The piece itself, 60 × 25 mm, by 2 marks of its own\./,
  long: /One piece, 2000 × 300 mm, in \d segments\./,
  feed: /A strip, 1900 × 60 mm, through Feeder: 24 places, 3 stops\./,
  photo: /Blanks anywhere on the bed, by photograph: 3 places found, 3 of them without a burn\./,
  drive: /Rollers, on the bed, motor to the left/,
  cradle: /lies still in a cradle/,
};

describe('a setup sheet speaks of its own way only', () => {
  it.each(WAY_IDS)('%s', async (id) => {
    const text = await read(EXAMPLES[id]);
    expect(text).toMatch(MOUNTED[id]);
    // Work that is no board is called none, has no thickness of nothing, and no bed is moved for it.
    if (!['pockets', 'fence', 'pegs', 'locator'].includes(id)) expect(text).not.toMatch(/Board \S+ r1|0\.0 mm thick|focusing on the board/); // prettier-ignore
    const steps = benchSteps(EXAMPLES[id], reckoned(EXAMPLES[id]));
    // A step may say what its material asks for before it.
    const own = steps.map((s) => s.caution ?? '');
    for (const caution of Object.values(CAUTIONS)) {
      // Typographic signs that its typeface lacks are written plainly: a caution is told by its first words.
      const words = caution.slice(0, 24).replace(/[’].*/, '');
      expect([id, words, text.includes(words)]).toEqual([id, words, own.some((c) => c.includes(caution))]);
    }
  });
  it('counts one as one', async () => {
    expect(await read({ ...EXAMPLES.marked, quantity: 1, spares: 1 })).toContain('1 piece and 1 spare of');
  });
});
