import { apply, compose, scaling, rotation, type Transform, type Vec } from '../geometry';
import type { Drive } from './drives';

/**
 * One of the eight ways in which art can come out: turned by quarter turns anticlockwise, mirrored
 * (left for right, before the turn) or not.
 */
export interface Orientation {
  readonly quarters: 0 | 1 | 2 | 3;
  readonly mirrored: boolean;
}

export const UPRIGHT: Orientation = { quarters: 0, mirrored: false };

export const ORIENTATIONS: readonly Orientation[] = [false, true].flatMap((mirrored) =>
  ([0, 1, 2, 3] as const).map((quarters) => ({ quarters, mirrored })),
);

const quarters = (n: number): Orientation['quarters'] => (((n % 4) + 4) % 4) as Orientation['quarters'];

/** First `b`, then `a`. A mirror turns the sense of the quarter turns after it. */
export const composeOrientations = (a: Orientation, b: Orientation): Orientation => ({
  quarters: quarters(a.quarters + (a.mirrored ? -b.quarters : b.quarters)),
  mirrored: a.mirrored !== b.mirrored,
});

/** What undoes an orientation. */
export const inverseOrientation = (o: Orientation): Orientation =>
  o.mirrored ? o : { quarters: quarters(-o.quarters), mirrored: false };

/** The orientation as a map of the plane. */
export const orientationMap = (o: Orientation): Transform => {
  // Whole quarter turns stay whole numbers.
  const turn = rotation((o.quarters * Math.PI) / 2);
  const whole: Transform = {
    a: Math.round(turn.a),
    b: Math.round(turn.b),
    c: Math.round(turn.c),
    d: Math.round(turn.d),
    e: 0,
    f: 0,
  };
  return o.mirrored ? compose(whole, scaling(-1, 1)) : whole;
};

/** In words, for the picture that was picked. */
export const orientationWords = (o: Orientation): string => {
  const turn = ['upright', 'turned a quarter to the left', 'on its head', 'turned a quarter to the right'][o.quarters]!;
  return o.mirrored ? `mirrored, ${turn}` : turn;
};

/** What to change on the machine, or let Bistre do in the file. */
export const correctionWords = (seen: Orientation): string => {
  if (seen.quarters === 0 && !seen.mirrored) return 'Right the first time: nothing is changed.';
  if (seen.mirrored && seen.quarters === 0)
    return 'The turning axis runs the other way. Bistre turns it over in the file; the drive’s entry on the Shelf can be corrected.';
  if (!seen.mirrored && seen.quarters === 2)
    return 'The blank lies the other way round than was said, or both axes run backwards. Bistre turns the art half round.';
  if (seen.mirrored && seen.quarters === 2)
    return 'The head’s axis runs the other way, or the rim faces the other side. Bistre turns it over in the file.';
  return 'The two axes are exchanged. Bistre turns the art in the file; check which motor cable went where.';
};

/**
 * From the picture on the standing blank (x to the right round it from the feature, y up to the
 * rim, which is y = 0) to the file's axes of the lying blank (x to the right, second axis as the
 * drive is commanded), both in mm of surface.
 *
 * @param rimFaces where the rim points when the blank lies on the drive
 * @param found what the F on tape showed; upright while none was burned
 */
export const pictureToFile = (
  rimFaces: 'left' | 'right',
  topMoves: Drive['topMoves'],
  found: Orientation,
): Transform => {
  const lying = orientationMap({ quarters: rimFaces === 'left' ? 1 : 3, mirrored: false });
  // Burning farther away on the bed means that the top comes towards the operator.
  const commanded = scaling(1, topMoves === 'toward' ? 1 : -1);
  return compose(commanded, lying, orientationMap(inverseOrientation(found)));
};

/** What is known after an F was burned with `before` already taken into account and `seen` came out. */
export const afterLetter = (before: Orientation | null, seen: Orientation): Orientation =>
  before ? composeOrientations(seen, before) : seen;

/** The letter F as strokes in a box of 10 × 14 mm, foot at the lower left: it shows all eight apart. */
export const LETTER_F: readonly (readonly Vec[])[] = [
  [
    { x: 0, y: 0 },
    { x: 0, y: 14 },
    { x: 10, y: 14 },
  ],
  [
    { x: 0, y: 8 },
    { x: 7, y: 8 },
  ],
];

/** The F as it looks in an orientation, about its middle; for the eight pictures. */
export const letterFAs = (o: Orientation): Vec[][] =>
  LETTER_F.map((line) => line.map((p) => apply(orientationMap(o), { x: p.x - 5, y: p.y - 7 })));
