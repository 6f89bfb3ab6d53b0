import { seeded } from '../budget';
import {
  angleOf,
  apply,
  compose,
  flatten,
  invert,
  rigid,
  transformContour,
  translation,
  type Box,
  type Vec,
} from '../geometry';
import type { PlacedPiece } from '../artwork';
import { marksOf } from '../long';
import { movedPicture } from '../picture';
import { segmentBurn, segmentNow, type BatchReckoning, type LongReckoning } from '../setup';
import type { Mm, Rad } from '../units';
import { truePose, type Hidden } from './machine';
import type { SimRun } from './run';

/** How far a segment was burned from where the work's first one says it belongs, about the work's middle. */
export interface Landed {
  readonly segment: number;
  readonly dx: Mm;
  readonly dy: Mm;
  readonly yaw: Rad;
}

/** What a long piece carries from segment to segment on the simulated bench. */
export interface SegmentState {
  /** Marks where they were really burned, work frame. */
  readonly marks?: readonly ({ readonly id: number } & Vec)[];
  readonly landed?: readonly Landed[];
}

/** Where a segment comes to lie when a hand lays it as it is meant: a few millimetres and a third of a degree off. */
export const laySegment = (seed: number, reckoning: BatchReckoning, long: LongReckoning): Hidden['pose'] => {
  const r = seeded(seed);
  const spread = (a: number): number => a * (2 * r.uniform() - 1);
  const segment = segmentNow(long)!;
  // The first file defines the work's frame; later segments lie where the hand left them.
  const [dx, dy, turn] = long.current === 1 ? [0, 0, 0] : [spread(4), spread(4), spread(0.006)];
  const centre = { x: (segment.from + segment.to) / 2, y: reckoning.board!.height / 2 };
  const meant = apply(segment.square, centre);
  const angle = segment.angle + turn;
  const at = apply(rigid(angle, 0, 0), centre);
  return { angle, x: meant.x + dx - at.x, y: meant.y + dy - at.y };
};

/** Box of what the current segment carries, from the middle of the work. */
export const segmentBox = ({ board }: BatchReckoning, long: LongReckoning): Box => {
  const { box } = segmentNow(long)!;
  const [x, y] = [board!.width / 2, board!.height / 2];
  return { minX: box.minX - x, maxX: box.maxX - x, minY: box.minY - y, maxY: box.maxY - y };
};

/** What the current segment's file is meant to burn, as the one piece on the bed. */
export const segmentPiece = (reckoning: BatchReckoning, long: LongReckoning): PlacedPiece[] => {
  const middle = translation(-reckoning.board!.width / 2, -reckoning.board!.height / 2);
  const lines = (fill: boolean): Vec[][] =>
    segmentBurn(long)
      .filter((s) => (s.kind === 'fill') === fill && !s.picture)
      .map(({ contour }) => {
        const points = flatten(transformContour(middle, contour), 0.01);
        return contour.closed && !fill ? [...points, points[0]!] : points;
      });
  const pictures = segmentBurn(long).flatMap((s) => (s.picture ? movedPicture(s.picture, { x: middle.e, y: middle.f }) : [])); // prettier-ignore
  return reckoning.onTheBoard.map(({ slot }) => ({
    slot,
    label: '',
    shapes: { filled: lines(true), drawn: lines(false), pictures },
  }));
};

/** What a segment's run leaves behind: its own place on the work, and marks for the next where they really are. */
export const afterSegment = (
  state: SegmentState & { readonly hidden: Hidden },
  reckoning: BatchReckoning,
  long: LongReckoning,
  run: SimRun,
): Required<SegmentState> => {
  const index = long.current;
  const onWork = compose(invert(truePose(state.hidden)), reckoning.boardToBed);
  const seam = long.plan?.marks[index - 1];
  const burned = (seam ? marksOf(index, seam) : []).map((m) => ({ id: m.id, ...apply(onWork, m.at) }));
  // Where the file lies on the work is known here; the spread of its strokes would tell a turn less well.
  const middle = { x: reckoning.board!.width / 2, y: reckoning.board!.height / 2 };
  const lies = apply(onWork, middle);
  const back = run.pieces[0]?.back ?? { x: 0, y: 0 };
  return {
    marks: [...(state.marks ?? []).filter((m) => !burned.some((b) => b.id === m.id)), ...burned],
    landed: [
      ...(state.landed ?? []).filter((l) => l.segment < index),
      { segment: index, dx: lies.x - middle.x + back.x, dy: lies.y - middle.y + back.y, yaw: angleOf(onWork) },
    ],
  };
};
