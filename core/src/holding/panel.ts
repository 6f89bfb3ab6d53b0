import {
  distanceToContour,
  flatten,
  reversedContour,
  rotation,
  compose,
  scaling,
  transformContour,
  apply,
  type Contour,
  type Transform,
  type Vec,
} from '../geometry';
import type { Mm, Rad } from '../units';
import { type Blank, type BlankSizes, blankOutline } from './blank';
import type { Board, Slot } from './places';

/** How something flat is turned to its other face: like a page (left over right), or over (front over back). */
export type Turn = 'page' | 'over';

/** A face of a piece or sheet. */
export type Side = 'front' | 'back';

/** A sheet of material whose pieces are engraved on both faces and cut out. Lengths mm. */
export interface PanelSettings {
  /** The sheet as it lies on its first side. */
  readonly width: Mm;
  readonly height: Mm;
  /** Left between neighbouring outlines [common practice: 1 mm]. */
  readonly gap: Mm;
  /** How the sheet is turned on the bed. */
  readonly turn: Turn;
  /** How a finished piece is turned in the hand to read its back. */
  readonly reads: Turn;
  /** What carries the placement across: marks cut through the sheet, or each piece's own hole. */
  readonly carry: 'marks' | 'holes';
}

export const freshPanel: PanelSettings = {
  width: 300,
  height: 200,
  gap: 1,
  turn: 'page',
  reads: 'page',
  carry: 'marks',
};

/** Mirrors a frame about its own middle axis: a page turn changes the sign of x, over that of y. */
export const mirrorOf = (turn: Turn): Transform => (turn === 'page' ? scaling(-1, 1) : scaling(1, -1));

/** Where a point of a sheet lies after the sheet was turned in its place; its own inverse. */
export const turnSheet = (turn: Turn, width: Mm, height: Mm): Transform => ({
  ...mirrorOf(turn),
  e: turn === 'page' ? width : 0,
  f: turn === 'page' ? 0 : height,
});

/** A mirrored contour that still runs the way it did, so that its inside stays inside. */
const mirrored = (turn: Turn, contour: Contour): Contour => reversedContour(transformContour(mirrorOf(turn), contour));

/** The blank as seen from its back: holes and outline mirrored; zones of the back are given as seen from there. */
export const turnedBlank = (blank: Blank, sizes: BlankSizes, reads: Turn): Blank => {
  const m = mirrorOf(reads);
  const lopsided = blank.shape.kind === 'outline' || blank.direction.kind === 'clipped-corner';
  return {
    ...blank,
    holes: blank.holes.map((h) => ({ ...h, ...apply(m, h) })),
    direction: blank.direction.kind === 'clipped-corner' ? { kind: 'none' } : blank.direction,
    shape: lopsided
      ? {
          kind: 'outline',
          source: 'seen from the back',
          contours: blankOutline(blank, sizes).map((c) => mirrored(reads, c)),
        }
      : blank.shape,
  };
};

/**
 * A slot on the turned sheet, for what is drawn in a piece's back frame: mirror of the sheet after
 * slot after mirror of the piece. Two mirrors make a turn, so text stays readable.
 */
export const turnedSlot = (slot: Slot, panel: PanelSettings): Slot => ({
  ...slot,
  centre: panel.carry === 'holes' ? slot.centre : apply(turnSheet(panel.turn, panel.width, panel.height), slot.centre),
  angle: (panel.turn === panel.reads ? 0 : Math.PI) - slot.angle,
});

/** The sheet as it lies on its second side: slots for the back frame, marks and cut lines where they are then. */
export const turnedBoard = (board: Board, panel: PanelSettings): Board => {
  const turn = turnSheet(panel.turn, panel.width, panel.height);
  const slots = board.slots.map((s) => turnedSlot(s, panel));
  if (panel.carry === 'holes') return { ...board, slots };
  return {
    ...board,
    slots,
    marks: board.marks.map((m) => ({ ...m, at: apply(turn, m.at) })),
    passes: board.passes.map((p) => ({ ...p, contours: p.contours.map((c) => transformContour(turn, c)) })),
  };
};

/**
 * How far an outline, turned in its own hole, stands over the hole's edge at most, mm; 0 for one
 * that is symmetric about that axis.
 * @param angle of the outline in the sheet, rad
 */
export const standsOver = (outline: readonly Contour[], angle: Rad, turn: Turn): Mm => {
  const hole = outline.map((c) => transformContour(rotation(angle), c));
  const turned = compose(mirrorOf(turn), rotation(angle));
  let most = 0;
  for (const c of outline)
    for (const p of flatten(c, 0.002))
      most = Math.max(most, Math.min(...hole.map((h) => distanceToContour(apply(turned, p), h))));
  return most;
};

const AXES: Readonly<Record<Turn, string>> = { page: 'like a page', over: 'over, front to back' };

/** Whether pieces drop back into their own holes after turning; null when they do, else why not and what does. */
export const asymmetryProblem = (
  outline: readonly Contour[],
  angle: Rad,
  turn: Turn,
  kerf: Mm,
): { readonly code: 'not-symmetric'; readonly message: string; readonly field: string } | null => {
  const over = standsOver(outline, angle, turn);
  // Half a kerf of air all round; a tenth is what a hand can press into plastic or wood.
  const room = kerf / 2 + 0.1;
  if (over <= room) return null;
  const other: Turn = turn === 'page' ? 'over' : 'page';
  const fits = standsOver(outline, angle, other) <= room;
  return {
    code: 'not-symmetric',
    field: 'hold.panel.turn',
    message: `Turned ${AXES[turn]}, a piece stands ${over.toFixed(1)} mm over the edge of its own hole: its outline is not symmetric about that axis. ${fits ? `Turn it ${AXES[other]}: then it fits.` : 'Let cut-through marks carry the placement instead.'}`,
  };
};

/** In words, from the operator's side, where a point of the sheet lies on it. */
export const cornerWords = (at: Vec, width: Mm, height: Mm): string =>
  `${at.y > height / 2 ? 'back' : 'front'} ${at.x > width / 2 ? 'right' : 'left'}`;
