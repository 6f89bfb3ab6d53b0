import { carriedOn, isWithin, movedArt, overEdge, wholeArt, type LaidArt } from '../artwork';
import { apply, boxCorners, boxesMeet, boxOf, compose, contoursBox, invert, type Box, type Contour, type Transform } from '../geometry'; // prettier-ignore
import { blankOutline, slotTransform } from '../holding';
import { counted, fixed, listed } from '../working';
import { CAUTIONS } from './cautions';
import type { BatchReckoning } from './reckoned';
import type { Step } from './step';

type Reckoned = Pick<BatchReckoning, 'art' | 'board' | 'face' | 'sizes' | 'onTheBoard'>;

/** Before a load: what is burned over the edge burns what lies there. */
export const backingStep = (r: Pick<BatchReckoning, 'art'>): Step[] => {
  const over = overEdge(r.art);
  if (over.length === 0) return [];
  const most = Math.max(...over.map((o) => o.by));
  return [
    {
      id: 'run.backing',
      station: 'run',
      part: 'do',
      title: 'Lay a backing sheet under the pieces',
      detail: `${listed(over.slice(0, 4).map((o) => o.name))} ${over.length === 1 ? 'is' : 'are'} burned over the edge on purpose. The sheet takes what goes past it, instead of the fixture and the bed.`,
      figure: { value: fixed(most, 1), unit: 'mm', label: 'past the edge' },
      caution: CAUTIONS.material,
    },
  ];
};

/** Whether some art, moved so, burns on a blank. */
const burnsOn = (l: LaidArt, m: Transform, outline: readonly Contour[], blank: Box): boolean =>
  boxesMeet(boxOf(boxCorners(l.box).map((p) => apply(m, p))), blank) &&
  (l.picture !== undefined || isWithin(movedArt(wholeArt(l), m), outline));

/**
 * What reaches over the edge of its piece and onto one that lies beside it, in sentences.
 *
 * @example reachesOthers(reckoning) // ['Crest reaches over the edge of its piece and onto the one beside it …']
 */
export const reachesOthers = ({ art, board, face, sizes, onTheBoard }: Reckoned): readonly string[] => {
  if (!art || !board) return [];
  const outline = blankOutline(face.blank, sizes);
  const blank = contoursBox(outline);
  const seen = new Map<string, boolean>();
  const known = new Map<LaidArt, number>();
  const on = (l: LaidArt, m: Transform): boolean => {
    const id = known.get(l) ?? known.size;
    known.set(l, id);
    // Places of a board lie alike about each other again and again.
    const key = `${id} ${[m.a, m.b, m.e, m.f].map((v) => v.toFixed(3)).join(' ')}`;
    const found = seen.get(key) ?? burnsOn(l, m, outline, blank);
    seen.set(key, found);
    return found;
  };
  const reached = new Map<string, Set<number>>();
  for (const { slot, ordinal } of onTheBoard) {
    const piece = art.pieces[ordinal - 1];
    const reaching = piece ? carriedOn(art, piece).filter((l) => l.beyond !== undefined) : [];
    for (const l of reaching)
      for (const other of board.slots) {
        if (other.slot === slot.slot) continue;
        const m = compose(invert(slotTransform(other)), slotTransform(slot));
        if (on(l, m)) reached.set(l.name, (reached.get(l.name) ?? new Set()).add(slot.slot));
      }
  }
  return [...reached].map(([name, slots]) => `${name} reaches over the edge of its piece and onto the one beside it, at ${counted(slots.size, 'place')}. Leave more room between the pieces, or make it smaller.`); // prettier-ignore
};
