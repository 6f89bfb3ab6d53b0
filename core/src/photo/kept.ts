import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { invertHomography, project, toBed, toPicture, type CameraFit } from './camera';
import type { GreyPicture } from './grey';
import { findRound, type PhotoMark } from './marks';
import type { KeptCamera } from './settings';

/** A mark is looked for so far from where the kept camera would see it, mm. */
const REACH: Mm = 12;
/** A camera has moved when its marks lie further off than this, root mean square, mm. */
const MOVED: Mm = 0.5;

/** A kept camera, ready to measure with. */
export const keptFit = (kept: KeptCamera): CameraFit => {
  const inverse = invertHomography(kept.toPicture);
  const middle = { x: kept.width / 2, y: kept.height / 2 };
  const here = project(inverse, middle);
  const beside = project(inverse, { x: middle.x + 1, y: middle.y });
  return {
    width: kept.width,
    height: kept.height,
    toPicture: kept.toPicture,
    toBed: inverse,
    k1: kept.k1,
    k2: kept.k2,
    residuals: [],
    spread: kept.spread,
    dot: Math.hypot(beside.x - here.x, beside.y - here.y),
  };
};

/** What a fixed camera's picture keeps of its calibration. */
export const keep = (fit: CameraFit, at: string): KeptCamera => ({
  width: fit.width,
  height: fit.height,
  toPicture: fit.toPicture,
  k1: fit.k1,
  k2: fit.k2,
  spread: fit.spread,
  marks: fit.residuals.length,
  at,
});

/** A quick look whether a fixed camera still stands as it did. */
export interface Recheck {
  readonly fit: CameraFit;
  /** Marks that were seen again. */
  readonly marks: number;
  /** Root of their mean squared distance from where they should be, mm; null when fewer than two were seen. */
  readonly off: Mm | null;
  readonly verdict: 'holds' | 'moved' | 'not seen';
}

/**
 * Compares the marks in a picture with where a kept camera would see them. Two that are left on the
 * bed are enough to tell whether it moved.
 *
 * @returns the camera with its verdict, or a problem when the picture is not this camera's
 */
export const recheck = (picture: GreyPicture, kept: KeptCamera, marks: readonly PhotoMark[]): Result<Recheck> => {
  if (picture.width !== kept.width || picture.height !== kept.height)
    return fail(
      'other-camera',
      `This picture has ${picture.width} × ${picture.height} dots; the fixed camera was calibrated with ${kept.width} × ${kept.height}. Is it another camera's, or was its setting changed?`,
      'photo',
    );
  const bare = keptFit(kept);
  const found = findRound(picture);
  const residuals = marks.flatMap((m) => {
    const at = toPicture(bare, m);
    const near = found
      .filter((f) => f.ring === m.ring)
      .map((f) => ({ f, d: Math.hypot(f.x - at.x, f.y - at.y) }))
      .sort((a, b) => a.d - b.d)[0];
    if (!near || near.d * bare.dot > REACH) return [];
    const on = toBed(bare, near.f);
    return [{ id: m.id, distance: Math.hypot(on.x - m.x, on.y - m.y) }];
  });
  const off =
    residuals.length < 2 ? null : Math.sqrt(residuals.reduce((s, r) => s + r.distance ** 2, 0) / residuals.length);
  return ok({
    fit: { ...bare, residuals, spread: off === null ? kept.spread : Math.max(off / Math.SQRT2, kept.spread ?? 0) },
    marks: residuals.length,
    off,
    verdict: off === null ? 'not seen' : off <= MOVED ? 'holds' : 'moved',
  });
};
