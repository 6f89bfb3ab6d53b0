import { polyline, segment, type Contour, type Vec } from '../geometry';
import { setText, type Alphabet } from '../lettering';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import type { Pass } from './places';

/** A comb of slots and one tongue, all cut without kerf correction. */
export interface GaugeStrip {
  readonly tongue: Mm;
  /** Drawn widths, widest first, mm. */
  readonly slots: readonly Mm[];
  readonly width: Mm;
  readonly height: Mm;
  readonly passes: readonly Pass[];
}

/** Range of kerf the strip can measure, mm. */
const GREATEST_KERF: Mm = 0.5;
/** Its step, mm. */
export const KERF_STEP: Mm = 0.05;

/**
 * A gauge strip for the kerf. The tongue comes out a kerf narrower than drawn, each slot a kerf
 * wider, so the narrowest slot that takes the tongue gives `kerf = (tongue − slot) / 2`.
 */
export const gaugeStrip = (thickness: Mm, labels: Alphabet): GaugeStrip => {
  const tongue = 10;
  const count = Math.round(GREATEST_KERF / KERF_STEP) + 1;
  const slots = Array.from({ length: count }, (_, i) => tongue - 2 * i * KERF_STEP);
  const pitch = tongue + Math.max(4, thickness);
  const width = count * pitch + 6;
  const height = 26;
  const depth = 14;
  const comb: Vec[] = [
    { x: 0, y: 0 },
    { x: width, y: 0 },
    { x: width, y: height },
  ];
  const text: Contour[] = [];
  for (let i = count - 1; i >= 0; i -= 1) {
    const centre = 3 + pitch * (i + 0.5);
    const half = slots[i]! / 2;
    comb.push(
      { x: centre + half, y: height },
      { x: centre + half, y: height - depth },
      { x: centre - half, y: height - depth },
      { x: centre - half, y: height },
    );
    text.push(...setText(labels, String(i + 1), { x: centre - 1.5, y: 4 }, 4).map((p) => polyline(p)));
  }
  comb.push({ x: 0, y: height });
  const tongueAt = height + 8;
  const tongueOutline = polyline(
    [
      { x: 0, y: tongueAt },
      { x: 40, y: tongueAt },
      { x: 40, y: tongueAt + tongue },
      { x: 0, y: tongueAt + tongue },
    ],
    true,
  );
  return {
    tongue,
    slots,
    width,
    height: tongueAt + tongue,
    passes: [
      {
        name: 'labels',
        kind: 'line',
        contours: [...text, segment({ x: 4, y: tongueAt + tongue / 2 }, { x: 12, y: tongueAt + tongue / 2 })],
      },
      { name: 'cut', kind: 'cut', contours: [polyline(comb, true), tongueOutline] },
    ],
  };
};

/**
 * Kerf from the narrowest slot that took the tongue.
 * @param slot number engraved under that slot, from 1
 * @returns the kerf with its standard uncertainty (half a step either way, uniform), mm
 */
export const kerfFromGauge = (
  strip: GaugeStrip,
  slot: number,
): { kerf: Mm; uncertainty: Mm; working: WorkedLine[] } | null => {
  const drawn = strip.slots[slot - 1];
  if (drawn === undefined) return null;
  const kerf = (strip.tongue - drawn) / 2;
  return {
    kerf,
    uncertainty: KERF_STEP / 2 / Math.sqrt(3),
    working: [
      worked(
        'kerf',
        '(tongue − narrowest slot it enters) / 2',
        `(${fixed(strip.tongue)} − ${fixed(drawn)}) / 2`,
        mm(kerf),
        'measured with the gauge strip',
      ),
    ],
  };
};
