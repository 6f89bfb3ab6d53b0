import { encode } from 'uqr';
import { polyline, type Contour, type Vec } from '../geometry';
import type { Mm } from '../units';

/**
 * A scannable code (QR, ISO/IEC 18004) as filled strips, one for each run of dark modules.
 * @param origin lower left corner, mm
 */
export const scannableCode = (text: string, origin: Vec, size: Mm): Contour[] => {
  const { data, size: modules } = encode(text, { ecc: 'M', border: 0 });
  const unit = size / modules;
  const strips: Contour[] = [];
  data.forEach((row, r) => {
    const y1 = origin.y + size - r * unit;
    let start = -1;
    for (let c = 0; c <= modules; c += 1) {
      const dark = c < modules && row[c] === true;
      if (dark && start < 0) start = c;
      if (!dark && start >= 0) {
        const x0 = origin.x + start * unit;
        const x1 = origin.x + c * unit;
        strips.push(
          polyline(
            [
              { x: x0, y: y1 - unit },
              { x: x1, y: y1 - unit },
              { x: x1, y: y1 },
              { x: x0, y: y1 },
            ],
            true,
          ),
        );
        start = -1;
      }
    }
  });
  return strips;
};
