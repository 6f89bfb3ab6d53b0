import { apply, centroid, sub, type Transform, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import { chiSquareQuantile, chiSquareTail } from '../samples';
import type { Mm, Share } from '../units';
import { fixed, worked, type WorkedLine } from '../working';
import { MODEL_WORDS, MODELS, PARAMETERS } from './model-names';
import { solvePlacement, type MarkPair, type Placement, type WorkModel } from './solve';

/** A transform from drawing to machine with what it says about the sheet. */
export interface Fit {
  readonly model: WorkModel;
  readonly transform: Transform;
  readonly residuals: readonly { readonly id: number; readonly offset: Vec; readonly distance: Mm }[];
  /** Sum of squared residuals, mm². */
  readonly squares: number;
  /** Scales along the drawing's x and y, and how far its right angle is off, radians. */
  readonly scaleX: number;
  readonly scaleY: number;
  readonly skew: number;
}

const linearOf = (pairs: readonly MarkPair[], model: WorkModel): Pick<Transform, 'a' | 'b' | 'c' | 'd'> | null => {
  const [drawnCentre, readCentre] = [centroid(pairs.map((p) => p.drawn)), centroid(pairs.map((p) => p.read))];
  // Sums over the marks about their centres: drawn × drawn, and read × drawn.
  let [xx, xy, yy] = [0, 0, 0];
  let [m1x, m1y, m2x, m2y] = [0, 0, 0, 0];
  for (const pair of pairs) {
    const u = sub(pair.drawn, drawnCentre);
    const v = sub(pair.read, readCentre);
    xx += u.x * u.x;
    xy += u.x * u.y;
    yy += u.y * u.y;
    m1x += v.x * u.x;
    m1y += v.y * u.x;
    m2x += v.x * u.y;
    m2y += v.y * u.y;
  }
  if (model === 'two-scales') {
    if (xx < 1e-9 || yy < 1e-9) return null;
    // The angle makes (r₁·m₁)²/Σx² + (r₂·m₂)²/Σy² greatest, a quadratic form of its cosine and sine.
    const q11 = m1x ** 2 / xx + m2y ** 2 / yy;
    const q22 = m1y ** 2 / xx + m2x ** 2 / yy;
    const q12 = (m1x * m1y) / xx - (m2x * m2y) / yy;
    const half = Math.atan2(2 * q12, q11 - q22) / 2;
    // The form has the same value half a turn on; a sheet has positive scales.
    const along = (t: number): number => (Math.cos(t) * m1x + Math.sin(t) * m1y) / xx;
    const angle = along(half) < 0 ? half + Math.PI : half;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const sx = along(angle);
    const sy = (-s * m2x + c * m2y) / yy;
    return { a: c * sx, b: s * sx, c: -s * sy, d: c * sy };
  }
  const det = xx * yy - xy * xy;
  // All marks on a line: nothing is known across it.
  if (det < 1e-6 * (xx + yy) ** 2) return null;
  return {
    a: (m1x * yy - m2x * xy) / det,
    b: (m1y * yy - m2y * xy) / det,
    c: (m2x * xx - m1x * xy) / det,
    d: (m2y * xx - m1y * xy) / det,
  };
};

/**
 * Least squares from drawing to machine by one of the four models, in closed form.
 *
 * Rigid and similarity: Kabsch 1976, Umeyama 1991. Two scales: the best angle is half the angle of a
 * quadratic form's axis. Affine: normal equations about the centre.
 *
 * @returns the fit, or a problem: too few marks for the model, marks on one line, two readings alike, a reflection (a
 *   determinant of zero or less is never a fit)
 */
export const fitModel = (pairs: readonly MarkPair[], model: WorkModel): Result<Fit> => {
  if (2 * pairs.length < PARAMETERS[model])
    return fail(
      'too-few-marks',
      `${Math.ceil(PARAMETERS[model] / 2)} marks are needed to tell whether the work is ${MODEL_WORDS[model]}; ${pairs.length} are read.`,
      'place.readings',
    );
  let transform: Transform;
  if (model === 'rigid' || model === 'similarity') {
    const solved = solvePlacement(pairs, model);
    if (!solved.ok) return solved;
    transform = solved.value.transform;
  } else {
    const checked = solvePlacement(pairs, 'rigid');
    if (!checked.ok) return checked;
    const linear = linearOf(pairs, model);
    if (!linear)
      return fail(
        'marks-on-a-line',
        'The marks lie on one line, so they say nothing about the scale across it. Read a mark beside the line.',
        'place.readings',
      );
    if (linear.a * linear.d - linear.b * linear.c <= 0)
      return fail(
        'reflection',
        'The readings fit the drawing only as seen from its back: the work lies face down, or marks were read in each other’s place.',
        'place.readings',
      );
    const c = centroid(pairs.map((p) => p.drawn));
    const at = centroid(pairs.map((p) => p.read));
    transform = { ...linear, e: at.x - linear.a * c.x - linear.c * c.y, f: at.y - linear.b * c.x - linear.d * c.y };
  }
  const residuals = pairs.map((pair) => {
    const offset = sub(pair.read, apply(transform, pair.drawn));
    return { id: pair.id, offset, distance: Math.hypot(offset.x, offset.y) };
  });
  const { a, b, c, d } = transform;
  const scaleX = Math.hypot(a, b);
  const scaleY = Math.hypot(c, d);
  return ok({
    model,
    transform,
    residuals,
    squares: residuals.reduce((sum, r) => sum + r.distance ** 2, 0),
    scaleX,
    scaleY,
    skew: Math.asin(Math.min(1, Math.max(-1, (a * c + b * d) / (scaleX * scaleY)))),
  });
};

/** How far a fit is off the drawn size, in the direction where it is off most. */
export const stretchOf = ({ scaleX, scaleY }: Pick<Fit, 'scaleX' | 'scaleY'>): Share =>
  Math.max(Math.abs(scaleX - 1), Math.abs(scaleY - 1));

/** A fit as a placement. */
export const placementOf = (fit: Fit, pairs: readonly MarkPair[]): Placement => {
  const c = centroid(pairs.map((p) => p.drawn));
  return {
    model: fit.model,
    transform: fit.transform,
    angle: Math.atan2(fit.transform.b, fit.transform.a),
    scale: fit.scaleX,
    centre: centroid(pairs.map((p) => p.read)),
    spread: pairs.reduce((s, p) => s + (p.drawn.x - c.x) ** 2 + (p.drawn.y - c.y) ** 2, 0),
    marks: pairs.length,
    residuals: fit.residuals,
  };
};

/** A model put to the test against the aiming error. */
export interface Tested {
  readonly fit: Fit;
  readonly chiSquare: number;
  readonly freedom: number;
  readonly limit: number;
  readonly agrees: boolean;
  /** Chance of residuals at least this large when the model is true; 1 when there is nothing left to test. */
  readonly chance: Share;
}

export interface ModelChoice {
  /** Every model that the marks can carry, smallest first. */
  readonly tested: readonly Tested[];
  readonly proposed: Tested;
  readonly reason: string;
  readonly working: readonly WorkedLine[];
}

/** Level of every test of readings. */
export const LEVEL = 0.95;

const testFit = (fit: Fit, marks: number, sigma: Mm): Tested => {
  const chiSquare = fit.squares / sigma ** 2;
  const freedom = 2 * marks - PARAMETERS[fit.model];
  const limit = freedom > 0 ? chiSquareQuantile(LEVEL, freedom) : 0;
  return {
    fit,
    chiSquare,
    freedom,
    limit,
    agrees: freedom === 0 || chiSquare <= limit,
    chance: freedom > 0 ? chiSquareTail(chiSquare, freedom) : 1,
  };
};

const percentOff = (scale: number): string => `${scale < 1 ? '−' : '+'}${(100 * Math.abs(scale - 1)).toFixed(2)} %`;

const reasonFor = (chosen: Tested, smaller: Tested | undefined): string => {
  const { fit } = chosen;
  if (!smaller) return 'The marks agree without any scale: the work is as large as drawn.';
  const unproved = chosen.freedom === 0 ? ' No mark is left over to prove it: read one more.' : '';
  switch (fit.model) {
    case 'rigid':
      return 'The work is as large as drawn.';
    case 'similarity':
      return `The marks are ${percentOff(fit.scaleX)} from the drawing, the same in both directions: more than aiming explains, so the file is scaled.${unproved}`;
    case 'two-scales':
      return `The work is ${percentOff(fit.scaleX)} along and ${percentOff(fit.scaleY)} across: one scale does not explain the marks, two do.${unproved}`;
    case 'affine':
      return `The work is stretched and its right angle is off by ${((fit.skew * 180) / Math.PI).toFixed(3)}°: no smaller change explains the marks.${unproved}`;
  }
};

/**
 * Which model explains the readings: the smallest whose residuals agree with the aiming error (χ² at
 * 95 %). A larger one is only proposed when it explains significantly more than the one before it
 * (difference of χ² at 95 %), so that an unlucky or misread mark does not pass for a stretched sheet.
 *
 * @param models that may be proposed: a cut board is rigid, a print may be anything
 * @returns null when not even the smallest can be solved
 */
export const chooseModel = (
  pairs: readonly MarkPair[],
  sigma: Mm,
  models: readonly WorkModel[] = MODELS,
): ModelChoice | null => {
  const tested: Tested[] = [];
  for (const model of models) {
    const fit = fitModel(pairs, model);
    if (fit.ok) tested.push(testFit(fit.value, pairs.length, sigma));
  }
  const [first] = tested;
  if (!first) return null;
  let proposed = first;
  for (const larger of tested.slice(1)) {
    if (proposed.agrees) break;
    const gain = proposed.chiSquare - larger.chiSquare;
    const added = PARAMETERS[larger.fit.model] - PARAMETERS[proposed.fit.model];
    if (gain > chiSquareQuantile(LEVEL, added)) proposed = larger;
  }
  const index = tested.indexOf(proposed);
  const reason =
    proposed.agrees || proposed.freedom === 0
      ? reasonFor(proposed, tested[index - 1])
      : 'No change of the whole work explains the marks: one of them is misread.';
  return {
    tested,
    proposed,
    reason,
    working: tested.map((t) =>
      worked(
        MODEL_WORDS[t.fit.model],
        'χ² = Σ r² / σ²',
        `σ = ${fixed(sigma, 3)} mm, ${t.freedom} degrees of freedom`,
        t.freedom === 0 ? 'nothing left to test' : `${fixed(t.chiSquare, 2)}, limit ${fixed(t.limit, 2)}`,
        'statistics',
      ),
    ),
  };
};
