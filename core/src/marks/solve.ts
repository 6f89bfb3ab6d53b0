import { apply, centroid, cross, distance, dot, rigid, sub, type Transform, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm, Rad } from '../units';

/** A mark where it is drawn and where the machine found it, mm. */
export interface MarkPair {
  readonly id: number;
  readonly drawn: Vec;
  readonly read: Vec;
}

/** What may have happened between a drawing and the work, smallest first. */
export type WorkModel = 'rigid' | 'similarity' | 'two-scales' | 'affine';
type Model = 'rigid' | 'similarity';

/** The solved transform from drawing to machine. */
export interface Placement {
  readonly model: WorkModel;
  readonly transform: Transform;
  readonly angle: Rad;
  readonly scale: number;
  /** Centre of the marks used, machine frame. */
  readonly centre: Vec;
  /** Sum of squared distances of the drawn marks from their centre, mm². */
  readonly spread: number;
  readonly residuals: readonly { readonly id: number; readonly offset: Vec; readonly distance: Mm }[];
  readonly marks: number;
}

/** Marks nearer to each other than this say nothing about an angle, mm. */
const LEAST_DISTANCE: Mm = 1;

/**
 * Least-squares placement in closed form: turn and shift, with one common scale for `similarity`
 * [Umeyama 1991; Kabsch 1976, in the plane]. Never a reflection.
 *
 * @param pairs two marks or more
 * @returns the placement, or a problem naming the marks that spoil it
 * @example solvePlacement([{ id: 1, drawn: {x:0,y:0}, read: {x:5,y:5} }, …], 'rigid')
 */
export const solvePlacement = (pairs: readonly MarkPair[], model: Model = 'rigid'): Result<Placement> => {
  if (pairs.length < 2)
    return fail(
      'too-few-marks',
      'Two marks are needed to know where the board lies and how it is turned.',
      'place.readings',
    );
  for (let i = 0; i < pairs.length; i += 1) {
    for (let j = i + 1; j < pairs.length; j += 1) {
      const a = pairs[i]!;
      const b = pairs[j]!;
      if (distance(a.drawn, b.drawn) < LEAST_DISTANCE)
        return fail(
          'marks-on-one-point',
          `Marks ${a.id} and ${b.id} are drawn at one point. Marks must lie apart.`,
          `place.mark.${b.id}`,
        );
      if (distance(a.read, b.read) < LEAST_DISTANCE)
        return fail(
          'read-twice',
          `Marks ${a.id} and ${b.id} were read at the same place. One of them is a repeat: aim at mark ${b.id} again.`,
          `place.reading.${b.id}`,
        );
    }
  }
  const drawnCentre = centroid(pairs.map((p) => p.drawn));
  const readCentre = centroid(pairs.map((p) => p.read));
  let along = 0;
  let across = 0;
  let spread = 0;
  for (const pair of pairs) {
    const u = sub(pair.drawn, drawnCentre);
    const v = sub(pair.read, readCentre);
    along += dot(u, v);
    across += cross(u, v);
    spread += dot(u, u);
  }
  const angle = Math.atan2(across, along);
  const scale = model === 'similarity' ? Math.hypot(along, across) / spread : 1;
  const turn = rigid(angle, 0, 0);
  const linear: Transform = { a: turn.a * scale, b: turn.b * scale, c: turn.c * scale, d: turn.d * scale, e: 0, f: 0 };
  const moved = apply(linear, drawnCentre);
  const transform: Transform = { ...linear, e: readCentre.x - moved.x, f: readCentre.y - moved.y };
  return ok({
    model,
    transform,
    angle,
    scale,
    centre: readCentre,
    spread,
    marks: pairs.length,
    residuals: pairs.map((pair) => {
      const offset = sub(pair.read, apply(transform, pair.drawn));
      return { id: pair.id, offset, distance: Math.hypot(offset.x, offset.y) };
    }),
  });
};

/** Sum of squared residuals, mm². */
export const residualSquares = (placement: Placement): number =>
  placement.residuals.reduce((sum, r) => sum + r.distance ** 2, 0);
