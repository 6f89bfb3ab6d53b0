import { greatestDiameter, roundLength, type RoundShape } from '../drive';
import { boxHeight, boxWidth, contoursBox, type Contour } from '../geometry';
import type { Mm } from '../units';

/** Outline of a blank. Its frame has its origin at the middle of its bounding box, x along the length. */
export type BlankShape =
  | { readonly kind: 'rectangle'; readonly length: Mm; readonly width: Mm; readonly cornerRadius: Mm }
  | { readonly kind: 'disc'; readonly diameter: Mm }
  | { readonly kind: 'outline'; readonly contours: readonly Contour[]; readonly source: string }
  | RoundShape;

/** Nominal length and width (bounding box) of a shape, mm. */
export const nominalSize = (shape: BlankShape): { length: Mm; width: Mm } => {
  switch (shape.kind) {
    case 'rectangle':
      return { length: shape.length, width: shape.width };
    case 'disc':
      return { length: shape.diameter, width: shape.diameter };
    case 'outline': {
      const box = contoursBox(shape.contours);
      return { length: boxWidth(box), width: boxHeight(box) };
    }
    case 'round':
      return { length: roundLength(shape), width: greatestDiameter(shape) };
  }
};
