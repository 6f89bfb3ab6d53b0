import { artOutline } from '../artwork';
import { edgeDistances, type EdgeDistance } from '../correct';
import { apply, boxOf, compose, flatten, invert, type Contour, type Vec } from '../geometry';
import { blankOutline, slotTransform, type Slot } from '../holding';
import { fail, ok, type Result } from '../result';
import type { Mm, Ordinal } from '../units';
import type { BatchInput } from './input';
import { placedPieces } from './placed';
import { walkAlong, type LoadWords } from './programs';
import type { BatchReckoning } from './reckoned';

/** Half the length of a stroke of the cross, mm: long enough to be followed by eye over a small field. */
const ARM: Mm = 10;

/** What a single piece is aimed at by: its outline, the middle of what is burned on it, and how far that is from its edges. */
export interface Target {
  readonly ordinal: Ordinal;
  readonly slot: Slot;
  /** In the piece’s own frame, mm. */
  readonly outline: readonly Contour[];
  /** Round what is burned, convex; in the piece’s own frame. */
  readonly art: readonly Vec[];
  /** Middle of the box round that. */
  readonly centre: Vec;
  readonly edges: readonly EdgeDistance[];
}

/** Two strokes that cross at a point. */
export const crossAt = ({ x, y }: Vec, arm: Mm = ARM): readonly (readonly Vec[])[] => [
  [{ x: x - arm, y }, { x: x + arm, y }],
  [{ x, y: y - arm }, { x, y: y + arm }],
]; // prettier-ignore

/**
 * The target of the first piece that lies on or is laid next. Where the field of a machine is small a piece is pushed
 * under it by hand: its middle is not its blank’s, and which edge it is measured from has to be seen.
 */
export const targetOf = (input: BatchInput, r: BatchReckoning): Result<Target> => {
  const [first] = r.onTheBoard;
  if (!first) return fail('no-piece', 'Every piece is done: there is none to aim at.', 'run');
  const art = artOutline(placedPieces(r, [first]), invert(slotTransform(first.slot)));
  if (art.length < 2) return fail('no-art', 'There is nothing on the piece yet whose middle could be aimed at.', 'run');
  const outline = blankOutline(input.blank, r.sizes);
  const box = boxOf(art);
  const rim = outline[0] ? flatten(outline[0], 0.05) : [];
  const { length, width } = r.sizes;
  return ok({
    ordinal: first.ordinal,
    slot: first.slot,
    outline,
    art,
    centre: { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 },
    edges: edgeDistances(rim, art, { length: length.spread, width: width.spread }),
  });
};

/** Walks round a piece where it lies, then over a cross through the middle of its art: no line switches the beam on. */
export const targetProgram = (input: BatchInput, r: BatchReckoning, words: LoadWords): Result<string> => {
  const target = targetOf(input, r);
  if (!target.ok) return target;
  const { slot, outline, centre } = target.value;
  const onBed = compose(r.boardToBed, slotTransform(slot));
  const rims = outline.map((c) => flatten(c, 0.05)).map((rim) => [...rim, ...rim.slice(0, 1)]);
  const paths = [...rims, ...crossAt(centre)].map((path) => path.map((p) => apply(onBed, p)));
  return walkAlong(input, r, words, 'outline of a piece and the middle of its art, beam off', paths);
};
