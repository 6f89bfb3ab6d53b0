import { writeCode } from '../codes';
import { transformContour, type Contour, type Vec } from '../geometry';
import type { Mm } from '../units';

/**
 * A code that opens what a fixture is, as outlines round what is dark (QR, ISO/IEC 18004); nothing where its name is too
 * long for one.
 * @param origin lower left corner, mm
 */
export const scannableCode = (text: string, origin: Vec, size: Mm): readonly Contour[] => {
  const code = writeCode('qr', text);
  if (!code.ok) return [];
  const unit = size / code.value.modules;
  return code.value.dark.map((c) => transformContour({ a: unit, b: 0, c: 0, d: unit, e: origin.x, f: origin.y }, c));
};
