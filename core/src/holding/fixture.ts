import type { Mm } from '../units';
import type { Blank, BlankSizes } from './blank';
import { nominalSize } from './nominal';
import type { Pocket } from './pocket';

/** What a board was cut for; kept with its revision. */
export interface FixtureBasis {
  readonly shape: string;
  readonly length: Mm;
  readonly width: Mm;
  readonly pocketLength: Mm;
  readonly pocketWidth: Mm;
  /** The machine that cut it, and when its own axes were last measured before that; absent where nobody noted it. */
  readonly cutOn?: { readonly machineId: string; readonly square: string | null } | null | undefined;
}

const shapeKey = (blank: Blank): string => {
  const { length, width } = nominalSize(blank.shape);
  const clip = blank.direction.kind === 'clipped-corner' ? `, corner clipped ${blank.direction.size.toFixed(2)}` : '';
  return `${blank.shape.kind} ${length.toFixed(2)} × ${width.toFixed(2)}${clip}`;
};

export const fixtureBasis = (blank: Blank, sizes: BlankSizes, pocket: Pocket): FixtureBasis => ({
  shape: shapeKey(blank),
  length: sizes.length.mean,
  width: sizes.width.mean,
  pocketLength: pocket.length,
  pocketWidth: pocket.width,
});

/** What a board was cut for: an outline, or sizes, and what its pockets are larger by. */
export interface CutFor {
  readonly to: 'outline' | 'size';
  readonly room?: string;
}

/** Change of a pocket's size below which a cut board is still right, mm. */
const SAME: Mm = 0.1;

/**
 * Why a cut board no longer suits its blank; empty when it does.
 * @example outOfDate(revision.basis, blank, sizes, pocket, { to: 'size' }) // ['By the samples the pocket length should be …']
 */
export const outOfDate = (
  basis: FixtureBasis,
  blank: Blank,
  sizes: BlankSizes,
  pocket: Pocket,
  suits: CutFor,
): string[] => {
  const reasons: string[] = [];
  const shape = shapeKey(blank);
  if (shape !== basis.shape) reasons.push(`The blank was ${basis.shape} when the board was cut and is ${shape} now.`);
  if (suits.to === 'outline') return reasons;
  const check = (name: string, cut: Mm, now: Mm, upper: Mm): void => {
    const change = now - cut;
    if (Math.abs(change) <= SAME) return;
    reasons.push(
      change > 0
        ? `By the samples the pocket ${name} should be ${now.toFixed(2)} mm; the board has ${cut.toFixed(2)} mm${upper > cut ? ', too small for the largest pieces' : ''}.`
        : `By the samples and ${suits.room ?? 'the clearance'} the pocket ${name} could be ${now.toFixed(2)} mm; the board has ${cut.toFixed(2)} mm, so pieces float more.`,
    );
  };
  check('length', basis.pocketLength, pocket.length, sizes.length.upper);
  check('width', basis.pocketWidth, pocket.width, sizes.width.upper);
  return reasons;
};
