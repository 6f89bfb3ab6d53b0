import type { Mm } from '../units';

/** How a beam is focused. Wavelength in µm, lengths mm. */
export interface Optics {
  readonly wavelength: number;
  readonly focal: Mm;
  /** Of the beam where it enters the lens, 1/e². */
  readonly beam: Mm;
  /** M²: 1 for the best that there can be. */
  readonly quality: number;
}

/** What a kind of source shines with, µm: carbon dioxide, blue diodes, ytterbium in glass. */
export const WAVELENGTHS: Readonly<Record<'gas tube' | 'diode' | 'fibre', number>> = {
  'gas tube': 10.6,
  diode: 0.45,
  fibre: 1.064,
};

/**
 * Diameter of the focused spot, 1/e²: 4λfM²/(πD) [any laser text; beam widths by ISO 11146].
 * @example spotOf({ wavelength: 10.6, focal: 63.5, beam: 6, quality: 1 }) // 0.1428 mm
 */
export const spotOf = ({ wavelength, focal, beam, quality }: Optics): Mm =>
  (4 * (wavelength / 1000) * focal * quality) / (Math.PI * beam);

/** How far from its waist a beam has twice its area, the Rayleigh range, mm: πw²/(M²λ), w half the spot. */
export const rayleighRange = (optics: Optics): Mm => {
  const w = spotOf(optics) / 2;
  return (Math.PI * w * w) / (optics.quality * (optics.wavelength / 1000));
};

/** Diameter of the spot so far above or below its waist, mm: 2w√(1 + (z/z_R)²). */
export const spotAt = (optics: Optics, off: Mm): Mm => spotOf(optics) * Math.hypot(1, off / rayleighRange(optics));

/**
 * How far off the waist a spot is at most so much wider, mm either way.
 * @param wider as a share: 0.41 doubles the area, which is the Rayleigh range itself
 */
export const depthOfFocus = (optics: Optics, wider: number): Mm =>
  rayleighRange(optics) * Math.sqrt((1 + wider) ** 2 - 1);
