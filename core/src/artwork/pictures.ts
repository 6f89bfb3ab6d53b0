import { addRow, Moves, runUp, type BurnSetting } from '../burn';
import { compose, type Transform, type Vec } from '../geometry';
import { slotTransform } from '../holding';
import { pictureBox, pictureGrid, PictureRows, type Pictures } from '../picture';
import type { Mm } from '../units';
import type { PieceShapes, PlacedPiece } from './pieces';

/** Pictures of a load by what is swept at once: a row of pieces, or each by itself. */
const groupsOf = (placed: readonly PlacedPiece[], sweep: 'piece' | 'row'): readonly (readonly PlacedPiece[])[] => {
  const groups = new Map<number, PlacedPiece[]>();
  for (const p of placed)
    if (p.shapes.pictures?.length) {
      const key = sweep === 'row' ? p.slot.row : p.slot.slot;
      groups.set(key, [...(groups.get(key) ?? []), p]);
    }
  return [...groups.values()];
};

/** How many dots the pictures of a load come to. */
export const pictureDots = (placed: readonly PlacedPiece[], placement: Transform, interval: Mm): number =>
  placed.reduce((sum, { shapes, slot }) => {
    const m = compose(placement, slotTransform(slot));
    return (shapes.pictures ?? []).reduce((n, p) => {
      const { lines, dots } = pictureGrid(pictureBox(p, compose(m, p.place)), interval);
      return n + Math.max(0, lines[1] - lines[0] + 1) * Math.max(0, dots[1] - dots[0] + 1);
    }, sum);
  }, 0);

/** Moves in one piece of a file that is written as it goes. */
const MOVES_AT_ONCE = 16_000;

/**
 * Head moves that burn the pictures of a load, in pieces that are used again: lines along x there and back, each with its
 * run-up and run-out, a line across all pictures that are swept at once. Dots lie on the machine's own grid.
 *
 * @param pictures by id; a picture that is not there is left out
 */
export function* pictureMoves(
  placed: readonly PlacedPiece[],
  placement: Transform,
  setting: BurnSetting,
  acceleration: number,
  sweep: 'piece' | 'row',
  pictures: Pictures,
): Generator<Moves> {
  const { interval } = setting;
  const lead = runUp(setting, acceleration);
  const moves = new Moves();
  const several: number[] = [];
  for (const group of groupsOf(placed, sweep)) {
    const rows = group
      .flatMap(({ shapes, slot }) => {
        const m = compose(placement, slotTransform(slot));
        return (shapes.pictures ?? []).flatMap((p) => {
          const grey = pictures.get(p.pictureId);
          return grey ? [new PictureRows(grey, compose(m, p.place), p.treatment, interval)] : [];
        });
      })
      .sort((a, b) => a.grid.dots[0] - b.grid.dots[0]);
    const first = Math.min(...rows.map((r) => r.grid.lines[0]));
    const last = Math.max(...rows.map((r) => r.grid.lines[1]));
    const ends = rows.flatMap((r) => r.grid.dots);
    const grid = { pitch: interval, first: Math.min(...ends), last: Math.max(...ends) + 1 };
    let forward = true;
    for (let k = first; k <= last; k += 1) {
      const on = rows.filter((r) => k >= r.grid.lines[0] && k <= r.grid.lines[1]);
      let spans: ArrayLike<number> = on.length === 1 ? on[0]!.line(k) : several;
      if (on.length !== 1) {
        several.length = 0;
        for (const r of on) several.push(...r.line(k));
        spans = several;
      }
      if (spans.length === 0) continue;
      moves.standFor(setting);
      for (let pass = 0; pass < setting.passes; pass += 1) {
        addRow(moves, { spans, grid, y: k * interval, setting, lead, forward });
        forward = !forward;
      }
      if (moves.count < MOVES_AT_ONCE) continue;
      yield moves;
      moves.clear();
    }
  }
  if (moves.count > 0) yield moves;
}

/** A piece's shapes with its pictures as the stretches that are burned of them, for measuring what was burned. */
export const withDots = (shapes: PieceShapes, interval: Mm, pictures: Pictures): PieceShapes => ({
  ...shapes,
  drawn: [
    ...shapes.drawn,
    ...(shapes.pictures ?? []).flatMap((p) => {
      const grey = pictures.get(p.pictureId);
      if (!grey) return [];
      const rows = new PictureRows(grey, p.place, p.treatment, interval);
      const out: Vec[][] = [];
      for (let k = rows.grid.lines[0]; k <= rows.grid.lines[1]; k += 1) {
        const spans = rows.line(k);
        for (let i = 0; i < spans.length; i += 2)
          out.push([{ x: spans[i]! * interval, y: k * interval }, { x: spans[i + 1]! * interval, y: k * interval }]); // prettier-ignore
      }
      return out;
    }),
  ],
});
