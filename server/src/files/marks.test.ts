import { inWay } from '../../../core/src/test-held';
import { execFileSync } from 'node:child_process';
import sharp from 'sharp';
import { heldAs, calibrate, MARK_SHEETS, photoMarks, reckonBatch, toBed } from '@bistre/core';
import { testBatch } from '../../../core/src/test-batch';
import { alphabetsFor, LABELS } from '../alphabets';
import { markSheet } from './marks';

const base = testBatch();
const input = inWay(base, 'photo', { marksOn: 'sheet', sheet: 'A3' });
const reckoning = reckonBatch(input, {
  now: new Date('2026-11-23T08:00:00Z'),
  alphabets: alphabetsFor(['b612-bold']),
  labels: LABELS,
  simulatedPieces: 200,
});
const { width } = MARK_SHEETS.A3;

describe('the printed sheet of marks, rendered by poppler', () => {
  it.each([72, 150, 250])('is found and measured true to size at %d dots to the inch', async (dpi) => {
    const pdf = await markSheet(input, reckoning, 'marks');
    const page = execFileSync('pdftoppm', ['-r', String(dpi), '-gray', '-png', '-'], {
      input: pdf,
      maxBuffer: 200e6,
    });
    // As it lies on a bed: a rim of something darker round the paper.
    const { data, info } = await sharp(page)
      .flatten({ background: '#fff' })
      .extend({ top: 40, bottom: 40, left: 40, right: 40, background: '#8a8a8a' })
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const picture = { width: info.width, height: info.height, data: new Uint8Array(data) };
    const made = calibrate(picture, photoMarks(heldAs(input, 'photo').choice, input.machine.bed));
    if (!made.ok) throw new Error(made.problem.message);
    expect(made.value.pairs).toHaveLength(10);
    expect(made.value.fit.spread!).toBeLessThan(0.1);
    // The page's own corners, known to the dot: true size.
    const left = toBed(made.value.fit, { x: 40, y: 40 });
    const right = toBed(made.value.fit, { x: info.width - 40, y: 40 });
    expect(Math.hypot(right.x - left.x, right.y - left.y)).toBeCloseTo(width, 0);
    expect(made.value.fit.dot).toBeCloseTo(25.4 / dpi, 3);
  });

  it('is refused where nothing is printed', () => {
    expect(() =>
      markSheet(base, reckonBatch(base, { now: new Date(), alphabets: {}, labels: LABELS, simulatedPieces: 200 }), 'x'),
    ).toThrow('does not use a printed sheet');
  });
});
