import { distance, type Vec } from '../geometry';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';

/** What limits one reading of a mark. */
export interface Aiming {
  /** Last jog step, mm. */
  readonly step: Mm;
  /** Standard error of eye or loupe, mm. */
  readonly eye: Mm;
  /** Standard error from the size of the pointer's spot, mm. */
  readonly spot: Mm;
  /** ± at which the head stands where the machine says that it does, mm. */
  readonly back: Mm;
}

/** Aiming error of one reading per axis, mm: step / √12, eye, spot and the head's return ± / √3 added in squares. */
export const aimingError = (aiming: Aiming): { sigma: Mm; working: WorkedLine[] } => {
  const fromStep = aiming.step / Math.sqrt(12);
  const sigma = Math.hypot(fromStep, aiming.eye, aiming.spot, aiming.back / Math.sqrt(3));
  return {
    sigma,
    working: [
      worked(
        'aiming error',
        '√((step/√12)² + eye² + spot² + (return/√3)²)',
        `√((${fixed(aiming.step)}/√12)² + ${fixed(aiming.eye, 3)}² + ${fixed(aiming.spot, 3)}² + (${fixed(aiming.back, 3)}/√3)²)`,
        mm(sigma, 3),
        'statistics',
      ),
    ],
  };
};

/** A placement for the purpose of its uncertainty. */
export interface MarkSpread {
  readonly marks: number;
  /** Centre of the marks, in the frame of the points asked about. */
  readonly centre: Vec;
  /** Σ of squared distances from that centre, mm². */
  readonly spread: number;
}

/**
 * Standard uncertainty of a placed point across the line to the marks' centre, mm:
 * `√(σ²/n + d²·σ²/Σr²)`; for two marks L apart that is `√(σ²/2 + d²·2σ²/L²)`.
 * @example placedError({ marks: 2, centre: {x:0,y:0}, spread: 280**2/2 }, {x:0,y:200}, 0.05) // 0.062
 */
export const placedError = (marks: MarkSpread, point: Vec, sigma: Mm): Mm => {
  const d = distance(marks.centre, point);
  return Math.sqrt(sigma ** 2 / marks.marks + (d ** 2 * sigma ** 2) / marks.spread);
};

/** The spread of a set of mark positions. */
export const markSpread = (points: readonly Vec[]): MarkSpread => {
  const centre = {
    x: points.reduce((s, p) => s + p.x, 0) / points.length,
    y: points.reduce((s, p) => s + p.y, 0) / points.length,
  };
  return {
    marks: points.length,
    centre,
    spread: points.reduce((s, p) => s + (p.x - centre.x) ** 2 + (p.y - centre.y) ** 2, 0),
  };
};
