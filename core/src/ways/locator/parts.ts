import { roundedRectangle, type Box, type Contour } from '../../geometry';
import { ok, type Result } from '../../result';
import { cutOf, missing, onItsOwn, problemOr, type BatchInput, type BatchReckoning, type Part } from '../../setup';

/** The grid on its bed, as the machine burns it. */
export const gridPart = (input: BatchInput, r: BatchReckoning): Result<Part> => {
  const { locator } = r.own;
  if (!locator) return problemOr(r, missing('Choose a locator board', 'hold.method'));
  const { width, height } = input.machine.bed;
  return ok({ width, height, passes: locator.passes });
};

const rectangle = (b: Box): Contour =>
  roundedRectangle({ x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 }, b.maxX - b.minX, b.maxY - b.minY);

/** The board with feet, stops and grid, to build by. */
export const locatorPart = (_: BatchInput, r: BatchReckoning): Result<Part> => {
  const { locator } = r.own;
  if (!locator) return problemOr(r, missing('Choose a locator board', 'hold.method'));
  return ok(
    onItsOwn([
      ...cutOf('board', [rectangle(locator.board)]),
      { name: 'feet', kind: 'line', contours: locator.feet.map(rectangle) },
      { name: 'stops', kind: 'line', contours: locator.stops.map((s) => rectangle(s.block)) },
      ...locator.passes,
    ]),
  );
};

/** What is sawn and glued for a locator board, a row each. */
export const cutList = (r: BatchReckoning): Result<readonly (readonly string[])[]> => {
  const { locator } = r.own;
  if (!locator) return problemOr(r, missing('Choose a locator board', 'hold.method'));
  return ok([
    ['part', 'count', 'length mm', 'width mm', 'thickness mm', 'note'],
    ...locator.parts.map((p) => [
      p.name,
      String(p.count),
      p.length.toFixed(1),
      p.width.toFixed(1),
      p.thickness.toFixed(1),
      p.note,
    ]),
    ...locator.stops.map((s, i) => [
      `stop ${i + 1} is glued`,
      '1',
      (s.block.maxX - s.block.minX).toFixed(1),
      (s.block.maxY - s.block.minY).toFixed(1),
      '',
      `at the ${s.face} of the ${s.foot} foot; its front left corner ${(s.block.minX - locator.board.minX).toFixed(1)} mm from the board's left, ${(s.block.minY - locator.board.minY).toFixed(1)} mm from its front`,
    ]),
  ]);
};
