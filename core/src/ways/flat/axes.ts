import type { AxesInput } from '../../budget';
import { axesLeft, UNMEASURED_AXES } from '../../burn';
import { distance } from '../../geometry';
import type { BatchInput, PlaceReckoning } from '../../setup';
import type { Result } from '../../result';

/** How work lies, as far as axes are felt in it. */
interface Laid {
  readonly lies: 'loose' | 'against' | 'drawn';
  readonly made: Result<{ readonly marks: readonly unknown[] }>;
  readonly madeElsewhere?: boolean;
  readonly stretches?: boolean;
}

/**
 * What the machine's own axes leave: a board that it cut itself carries the same, so that only the art on a piece is off;
 * work that was made elsewhere is off by all of it, from its marks on. A board of another machine, or one cut before the
 * axes were measured, carries what is not known of that one too.
 */
export const axesCarried = (
  { machine, fixture }: BatchInput,
  { lies, made, madeElsewhere, stretches }: Laid,
): AxesInput | null => {
  const left = axesLeft(machine);
  if (madeElsewhere && !stretches) return { ...left, from: 'marks' };
  // What is cut out where it is engraved is as large as its art; a sheet is fitted to its marks, whatever stretched it.
  if (lies === 'drawn') return null;
  const cut = fixture?.basis.cutOn;
  const here = !cut || (cut.machineId === machine.id && cut.square === (machine.square?.measuredAt ?? null));
  if (here) return { ...left, from: 'piece' };
  const both = (off: number): number => Math.hypot(off, UNMEASURED_AXES);
  const marks = made.ok ? made.value.marks : [];
  return {
    scale: both(left.scale),
    lean: both(left.lean),
    measured: false,
    from: marks.length > 0 ? 'marks' : 'piece',
  };
};

/** The most by which a distance between two marks is read otherwise than it is drawn, as a share of it. */
const farthestOff = (pairs: PlaceReckoning['pairs']): number =>
  Math.max(0, ...pairs.flatMap((a, i) => pairs.slice(i + 1).map((b) => Math.abs(distance(a.read, b.read) / distance(a.drawn, b.drawn) - 1)))); // prettier-ignore

/** Marks of work that was made elsewhere may disagree because nobody knows the machine's own axes: that is said beside. */
export const blamedOnAxes = (place: PlaceReckoning, axes: AxesInput | null): PlaceReckoning => {
  const { consistency, pairs } = place;
  if (axes?.from !== 'marks' || axes.measured || consistency?.verdict !== 'disagrees') return place;
  if (farthestOff(pairs) > axes.scale + axes.lean / 2) return place;
  const more = 'Or it is the machine’s own axes, which nobody measured: burn a square and measure it (Hold station).';
  return { ...place, consistency: { ...consistency, message: `${consistency.message} ${more}` } };
};
