import { BinaryBitmap, DataMatrixReader, HybridBinarizer, QRCodeReader, RGBLuminanceSource } from '@zxing/library';
import { gateOf } from '../batch';
import { compose, rigid, apply, type Box } from '../geometry';
import { slotTransform } from '../holding';
import { readGcode } from '../output';
import { loadedPieces, testBatch } from '../test-batch';
import { programOf, readAt, reckon } from '../test-reckon';
import type { CodeContent } from './content';

/** What a reader of codes makes of what a G-code file burns in a box of the bed, light on dark or dark on light; dots of 0.05 mm. */
const readOff = (gcode: string, { minX, minY, maxX, maxY }: Box, { symbology, reversed }: CodeContent): string => {
  const program = readGcode(gcode, 1000);
  if (!program.ok) throw new Error(program.problem.message);
  const { moves } = program.value;
  const dot = 0.05;
  const side = Math.ceil(Math.max(maxX - minX, maxY - minY) / dot);
  const grey = new Uint8ClampedArray(side * side).fill(reversed ? 0 : 255);
  const spot = 0.06;
  for (let i = 1; i < moves.count; i += 1) {
    if (moves.power[i] === 0) continue;
    const [x0, y0, x1, y1] = [moves.x[i - 1]!, moves.y[i - 1]!, moves.x[i]!, moves.y[i]!];
    if (Math.max(x0, x1) < minX || Math.min(x0, x1) > maxX || y0 < minY || y0 > maxY) continue;
    const columns = [Math.min(x0, x1), Math.max(x0, x1)].map((x) => Math.round((x - minX) / dot)) as [number, number];
    for (let row = Math.ceil((maxY - y0 - spot) / dot); row < (maxY - y0 + spot) / dot; row += 1)
      if (row >= 0 && row < side)
        grey.fill(reversed ? 255 : 0, row * side + Math.max(0, columns[0]), row * side + Math.min(side, columns[1]));
    if (Math.abs(y1 - y0) > 1e-6) throw new Error('A line of a code is burned askew.');
  }
  const reader = symbology === 'qr' ? new QRCodeReader() : new DataMatrixReader();
  return reader.decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, side, side)))).getText();
};

describe('a code, once it is burned', () => {
  it.each([
    ['qr', false],
    ['qr', true],
    ['datamatrix', false],
    ['datamatrix', true],
  ] as const)('reads on each piece what its list says: %s, reversed %s', (symbology, reversed) => {
    const from = testBatch();
    const code: CodeContent = { kind: 'code', id: 'c', zoneId: 'face', symbology, text: 'SK/{boat}', reversed, size: { kind: 'width', width: 16 }, turn: 0, mirrored: false }; // prettier-ignore
    const roster = ['Gull', 'Tern', 'Puffin 3'].map((boat) => ({ boat }));
    const bare = { ...from, quantity: 3, roster, pieces: loadedPieces([1, 2, 3]), setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents: [code] } }; // prettier-ignore
    const input = readAt(bare, rigid(0, 60, 70));
    const r = reckon(input);
    expect(gateOf(input, r, 'load')).toEqual([]);
    const gcode = programOf(input);
    // The machine counts y from the back of its bed.
    const flipped = gcode.replace(/Y(-?[\d.]+)/g, (_, y: string) => `Y${input.machine.bed.height - Number(y)}`);
    const read = r.onTheBoard.map(({ slot }, i) => {
      const m = compose(r.boardToBed, slotTransform(slot));
      const { box } = r.art!.pieces[i]!;
      const [a, b] = [apply(m, { x: box.minX, y: box.minY }), apply(m, { x: box.maxX, y: box.maxY })];
      return readOff(flipped, { minX: Math.min(a.x, b.x), maxX: Math.max(a.x, b.x), minY: Math.min(a.y, b.y), maxY: Math.max(a.y, b.y) }, code); // prettier-ignore
    });
    expect(read).toEqual(['SK/Gull', 'SK/Tern', 'SK/Puffin 3']);
  });
});
