import { greatestDiameter, reckonCradle, roundLength } from '../../drive';
import { transformContour, translation } from '../../geometry';
import { fail, ok } from '../../result';
import { slotFit } from '../../slotted';
import type { Drawer } from '../way';

/** Saddles and rails in which pieces lie still, as they are cut. */
export const cradleDrawing: Drawer = (input, r) => {
  // As large as it was measured, not as it was drawn.
  const shape = r.own.round?.shape ?? input.blank.shape;
  if (shape.kind !== 'round') return fail('not-round', 'A cradle is for round blanks.');
  const { stock } = input.setup.beside;
  const fit = slotFit(stock, stock.thickness);
  if (!fit.ok) return fit;
  const made = reckonCradle({
    diameter: greatestDiameter(shape),
    length: roundLength(shape),
    fit: fit.value,
    crestHeight: null,
    pieces: Math.min(8, input.quantity),
    kerf: input.machine.kerf,
  });
  if (!made.ok) return made;
  const { width, height, contours } = made.value;
  return ok({
    title: 'Cradle',
    passes: [{ name: 'cradle', kind: 'cut', contours: contours.map((c) => transformContour(translation(1, 1), c)) }],
    sheet: { width: width + 2, height: height + 2 },
  });
};
