import type { Vec } from '../geometry';
import type { Mm, Rad } from '../units';
import { fixed } from '../working';

/** Less than this nobody sees of a rim, mm [common practice: a caliper reads to 0.05]. */
const SEEN: Mm = 0.05;

/**
 * Where art lies on its piece, as an offset of what was burned. Where that is the cut, and the art was printed before, it
 * is the other way round: art that lies too far right was cut too far left.
 */
export const burnedFromArt = (
  art: { readonly off: Vec; readonly turn: Rad },
  burned: 'art' | 'cut',
): { readonly off: Vec; readonly turn: Rad } =>
  burned === 'art' ? art : { off: { x: 0 - art.off.x, y: 0 - art.off.y }, turn: 0 - art.turn };

/** One axis of it: which rim is narrow, which wide, and what would move it. */
const along = (off: Mm, plus: string, minus: string): string[] => {
  if (Math.abs(off) < SEEN) return [];
  const [to, from] = off > 0 ? [plus, minus] : [minus, plus];
  return [`${fixed(Math.abs(off))} mm narrower ${from} than drawn and as much wider ${to}`];
};

/**
 * What a cut beside its print looks like: the rim is narrow where the cut comes nearer to the art.
 *
 * @param cut how far the cut lies off its print, mm: to the right and away from the operator
 * @returns nothing where no rim is seen to be one-sided
 * @example rimWords({ x: 0.45, y: 0 }) // 'As the sheet lies the rim is 0.45 mm narrower at the left than drawn and as much wider at the right. …'
 */
export const rimWords = (cut: Vec): string | null => {
  const sides = [
    ...along(cut.x, 'at the right', 'at the left'),
    ...along(cut.y, 'at the far side', 'at the near side'),
  ];
  if (sides.length === 0) return null;
  return `As the sheet lies the rim is ${sides.join(', and ')}. The same on every piece of a sheet, it is the print that lies beside its marks, or a mark that was aimed at beside its middle: moving the cut makes both sides alike. A rim that grows from one end of the sheet to the other is a print that came out larger or smaller: aim at more marks.`;
};
